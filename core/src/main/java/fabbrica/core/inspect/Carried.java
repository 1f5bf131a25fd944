package fabbrica.core.inspect;

import fabbrica.core.mesh.model.BoxTree;
import fabbrica.core.mesh.model.Mesh;
import java.util.Arrays;
import java.util.stream.IntStream;
import org.locationtech.jts.geom.Coordinate;
import org.locationtech.jts.geom.Envelope;
import org.locationtech.jts.geom.GeometryFactory;
import org.locationtech.jts.geom.Polygon;

/**
 * What of faces that hang stands on another surface, as the top of a table stands on its legs: bodies that touch have faces
 * that look at each other there. Only level faces are compared, within {@link Overhang#ON_BED_MM} of height. Areas of level
 * faces are intersected pair by pair (JTS), found by their boxes.
 */
final class Carried {

    /** Cosine of what counts as level. */
    private static final double LEVEL = 0.99;
    private static final GeometryFactory PLANE = new GeometryFactory();

    private final Mesh mesh;
    /** Faces that look up, and the tree of their boxes. */
    private final int[] tops;
    private final BoxTree boxes;

    /** @param hanging the faces to be asked for */
    Carried(Mesh mesh, boolean[] hanging) {
        this.mesh = mesh;
        double lowest = Double.POSITIVE_INFINITY, highest = Double.NEGATIVE_INFINITY;
        double[] normal = new double[3];
        for (int t = 0; t < hanging.length; t++) {
            if (hanging[t] && isLevel(t, normal) && normal[2] < 0) {
                lowest = Math.min(lowest, z(t));
                highest = Math.max(highest, z(t));
            }
        }
        double from = lowest - Overhang.ON_BED_MM, to = highest + Overhang.ON_BED_MM;
        tops = IntStream.range(0, hanging.length).filter(t -> z(t) > from && z(t) < to && isLevel(t, normal) && normal[2] > 0).toArray();
        boxes = new BoxTree(Arrays.stream(tops).mapToObj(t -> box(seen(t).getEnvelopeInternal(), z(t), 0)).toArray(double[][]::new));
    }

    /** The part of a hanging face, 0 to 1, that stands on others. */
    double part(int face) {
        double[] normal = new double[3];
        if (tops.length == 0 || !isLevel(face, normal)) {
            return 0;
        }
        Polygon own = seen(face);
        double z = z(face);
        double[] carried = {0};
        boxes.any(box(own.getEnvelopeInternal(), z, Overhang.ON_BED_MM), top -> {
            if (Math.abs(z(tops[top]) - z) < Overhang.ON_BED_MM) {
                carried[0] += own.intersection(seen(tops[top])).getArea();
            }
            return false;
        });
        return own.getArea() == 0 ? 0 : Math.min(1, carried[0] / own.getArea());
    }

    private static double[] box(Envelope seen, double z, double within) {
        return new double[] {seen.getMinX(), seen.getMinY(), z - within, seen.getMaxX(), seen.getMaxY(), z + within};
    }

    private boolean isLevel(int t, double[] normal) {
        mesh.normal(t, normal);
        double squared = normal[0] * normal[0] + normal[1] * normal[1] + normal[2] * normal[2];
        return squared > 0 && normal[2] * normal[2] > LEVEL * LEVEL * squared;
    }

    private double z(int t) {
        return (mesh.z(mesh.corner(t, 0)) + mesh.z(mesh.corner(t, 1)) + mesh.z(mesh.corner(t, 2))) / 3;
    }

    private Polygon seen(int t) {
        Coordinate[] corners = new Coordinate[4];
        for (int i = 0; i < 4; i++) {
            corners[i] = new Coordinate(mesh.x(mesh.corner(t, i % 3)), mesh.y(mesh.corner(t, i % 3)));
        }
        return PLANE.createPolygon(corners);
    }
}
