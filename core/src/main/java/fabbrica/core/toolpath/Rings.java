package fabbrica.core.toolpath;

import java.util.ArrayList;
import java.util.List;
import org.locationtech.jts.geom.Coordinate;
import org.locationtech.jts.geom.CoordinateSequence;
import org.locationtech.jts.geom.Geometry;
import org.locationtech.jts.geom.GeometryFactory;
import org.locationtech.jts.geom.LinearRing;
import org.locationtech.jts.geom.Polygon;

/** Closed rings as flat x, y pairs without the first point repeated, to and from JTS. */
final class Rings {

    static final GeometryFactory PLANE = new GeometryFactory();

    private Rings() {
    }

    static LinearRing toJts(double[] ring) {
        Coordinate[] coordinates = new Coordinate[ring.length / 2 + 1];
        for (int i = 0; i < ring.length; i += 2) {
            coordinates[i / 2] = new Coordinate(ring[i], ring[i + 1]);
        }
        coordinates[ring.length / 2] = coordinates[0].copy();
        return PLANE.createLinearRing(coordinates);
    }

    /** All rings of a polygonal geometry, holes included. */
    static List<double[]> of(Geometry area) {
        List<double[]> rings = new ArrayList<>();
        for (int i = 0; i < area.getNumGeometries(); i++) {
            if (area.getGeometryN(i) instanceof Polygon polygon && !polygon.isEmpty()) {
                rings.add(flat(polygon.getExteriorRing()));
                for (int hole = 0; hole < polygon.getNumInteriorRing(); hole++) {
                    rings.add(flat(polygon.getInteriorRingN(hole)));
                }
            }
        }
        return rings;
    }

    /** The outer rings of a polygonal geometry, filled. */
    static Geometry filled(Geometry area) {
        List<Polygon> shells = new ArrayList<>();
        for (int i = 0; i < area.getNumGeometries(); i++) {
            if (area.getGeometryN(i) instanceof Polygon polygon && !polygon.isEmpty()) {
                shells.add(PLANE.createPolygon(polygon.getExteriorRing()));
            }
        }
        return PLANE.createMultiPolygon(shells.toArray(Polygon[]::new));
    }

    static double signedArea(double[] ring) {
        double twice = 0;
        for (int i = 0, j = ring.length - 2; i < ring.length; j = i, i += 2) {
            twice += ring[j] * ring[i + 1] - ring[i] * ring[j + 1];
        }
        return twice / 2;
    }

    /** Even–odd rule; points on the ring may fall on either side. */
    static boolean contains(double[] ring, double x, double y) {
        boolean inside = false;
        for (int i = 0, j = ring.length - 2; i < ring.length; j = i, i += 2) {
            if (ring[i + 1] > y != ring[j + 1] > y
                    && x < ring[i] + (y - ring[i + 1]) / (ring[j + 1] - ring[i + 1]) * (ring[j] - ring[i])) {
                inside = !inside;
            }
        }
        return inside;
    }

    private static double[] flat(LinearRing ring) {
        CoordinateSequence points = ring.getCoordinateSequence();
        double[] flat = new double[2 * (points.size() - 1)];
        for (int i = 0; i < points.size() - 1; i++) {
            flat[2 * i] = points.getX(i);
            flat[2 * i + 1] = points.getY(i);
        }
        return flat;
    }
}
