package fabbrica.core.inspect;

import fabbrica.core.mesh.model.Mesh;
import java.util.List;
import org.locationtech.jts.geom.Coordinate;
import org.locationtech.jts.geom.Envelope;
import org.locationtech.jts.geom.GeometryFactory;
import org.locationtech.jts.geom.Polygon;
import org.locationtech.jts.index.strtree.STRtree;

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
    private final STRtree tops = new STRtree();
    private boolean any;

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
        for (int t = 0; t < hanging.length && lowest <= highest; t++) {
            double z = z(t);
            if (z > lowest - Overhang.ON_BED_MM && z < highest + Overhang.ON_BED_MM && isLevel(t, normal) && normal[2] > 0) {
                tops.insert(seen(t).getEnvelopeInternal(), t);
                any = true;
            }
        }
    }

    /** The part of a hanging face, 0 to 1, that stands on others. */
    double part(int face) {
        double[] normal = new double[3];
        if (!any || !isLevel(face, normal)) {
            return 0;
        }
        Polygon own = seen(face);
        double carried = 0, z = z(face);
        Envelope box = own.getEnvelopeInternal();
        for (Object top : (List<?>) tops.query(box)) {
            if (Math.abs(z((int) top) - z) < Overhang.ON_BED_MM) {
                carried += own.intersection(seen((int) top)).getArea();
            }
        }
        return own.getArea() == 0 ? 0 : Math.min(1, carried / own.getArea());
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
