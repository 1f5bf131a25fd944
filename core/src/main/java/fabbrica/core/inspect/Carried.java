package fabbrica.core.inspect;

import fabbrica.core.mesh.model.BoxTree;
import fabbrica.core.mesh.model.HalfEdges;
import fabbrica.core.mesh.model.Mesh;
import fabbrica.core.mesh.model.TriangleTree;
import java.util.Arrays;
import java.util.stream.IntStream;
import org.locationtech.jts.geom.Coordinate;
import org.locationtech.jts.geom.Envelope;
import org.locationtech.jts.geom.GeometryFactory;
import org.locationtech.jts.geom.Polygon;

/**
 * What of faces that hang is carried by another body. On a level face that is what stands on another surface, as the top of
 * a table stands on its legs: areas of faces that look at each other within {@link Overhang#ON_BED_MM} of height are
 * intersected pair by pair (JTS), found by their boxes. What is sunk into another body, as letters into their plate, is
 * found at points spread over the face, {@value #SAMPLE_MM} mm apart where it is not too large: those hang that no other body winds
 * around.
 */
final class Carried {

    /** Cosine of what counts as level. */
    private static final double LEVEL = 0.99;
    private static final GeometryFactory PLANE = new GeometryFactory();
    private static final double SAMPLE_MM = 0.5;
    private static final int MOST_ALONG = 16;
    /** Some tenths of a second of rays; beyond, what is sunk into other bodies is taken to hang. */
    private static final long MOST_VISITS = 10_000_000;

    private final Mesh mesh;
    private final HalfEdges edges;
    private final TriangleTree.Ray ray;
    /** Faces that look up, and the tree of their boxes. */
    private final int[] tops;
    private final BoxTree boxes;

    /** @param hanging the faces to be asked for */
    Carried(Mesh mesh, HalfEdges edges, TriangleTree tree, boolean[] hanging) {
        this.mesh = mesh;
        this.edges = edges;
        ray = tree.ray();
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

    /** The part of a hanging face, 0 to 1, that stands on others or is sunk into them. */
    double part(int face) {
        double standing = standing(face);
        return standing < 1 ? Math.min(1, standing + sunk(face)) : 1;
    }

    private double standing(int face) {
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

    private double sunk(int face) {
        int body = edges.body(face);
        // A level face that only touches is counted exactly already.
        double beside = isLevel(face, new double[3]) ? Overhang.ON_BED_MM : -Overhang.ON_BED_MM;
        int along = (int) Math.max(1, Math.min(MOST_ALONG, Math.sqrt(mesh.area(face)) / SAMPLE_MM));
        int asked = 0, inside = 0;
        for (int i = 0; i < along && edges.bodies() > 1 && ray.visits() < MOST_VISITS; i++) {
            for (int j = 0; i + j < along; j++) {
                double[] at = at(face, (i + 1 / 3.0) / along, (j + 1 / 3.0) / along);
                inside += ray.windingAt(at[0], at[1], at[2] + beside, t -> edges.body(t) != body) > 0 ? 1 : 0;
                asked++;
            }
        }
        return (double) inside / Math.max(1, asked);
    }

    /** The point of a face that lies so far from its first corner towards its second and its third. */
    private double[] at(int face, double second, double third) {
        int a = mesh.corner(face, 0), b = mesh.corner(face, 1), c = mesh.corner(face, 2);
        return new double[] {mesh.x(a) + second * (mesh.x(b) - mesh.x(a)) + third * (mesh.x(c) - mesh.x(a)),
                mesh.y(a) + second * (mesh.y(b) - mesh.y(a)) + third * (mesh.y(c) - mesh.y(a)),
                mesh.z(a) + second * (mesh.z(b) - mesh.z(a)) + third * (mesh.z(c) - mesh.z(a))};
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
