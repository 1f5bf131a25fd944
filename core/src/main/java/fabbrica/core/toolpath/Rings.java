package fabbrica.core.toolpath;

import org.locationtech.jts.geom.Coordinate;
import org.locationtech.jts.geom.CoordinateSequence;
import org.locationtech.jts.geom.Envelope;
import org.locationtech.jts.geom.GeometryFactory;
import org.locationtech.jts.geom.LinearRing;

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

    static double[] counterClockwise(double[] ring) {
        return signedArea(ring) < 0 ? reversed(ring) : ring;
    }

    static double[] clockwise(double[] ring) {
        return signedArea(ring) > 0 ? reversed(ring) : ring;
    }

    static double lengthMm(double[] ring) {
        double length = 0;
        for (int i = 0, j = ring.length - 2; i < ring.length; j = i, i += 2) {
            double dx = ring[i] - ring[j], dy = ring[i + 1] - ring[j + 1];
            length += Math.sqrt(dx * dx + dy * dy);
        }
        return length;
    }

    static Envelope box(double[] ring) {
        Envelope box = new Envelope();
        for (int i = 0; i < ring.length; i += 2) {
            box.expandToInclude(ring[i], ring[i + 1]);
        }
        return box;
    }

    /** How often the ring runs around the point, counter-clockwise above zero. */
    static int winding(double[] ring, double x, double y) {
        int winding = 0;
        for (int i = 0, j = ring.length - 2; i < ring.length; j = i, i += 2) {
            boolean up = ring[j + 1] <= y && ring[i + 1] > y, down = ring[j + 1] > y && ring[i + 1] <= y;
            if (up || down) {
                double side = (ring[i] - ring[j]) * (y - ring[j + 1]) - (ring[i + 1] - ring[j + 1]) * (x - ring[j]);
                winding += up && side > 0 ? 1 : down && side < 0 ? -1 : 0;
            }
        }
        return winding;
    }

    static double[] reversed(double[] ring) {
        double[] reversed = new double[ring.length];
        for (int i = 0; i < ring.length; i += 2) {
            reversed[i] = ring[ring.length - 2 - i];
            reversed[i + 1] = ring[ring.length - 1 - i];
        }
        return reversed;
    }

    static double[] flat(LinearRing ring) {
        CoordinateSequence points = ring.getCoordinateSequence();
        double[] flat = new double[2 * (points.size() - 1)];
        for (int i = 0; i < points.size() - 1; i++) {
            flat[2 * i] = points.getX(i);
            flat[2 * i + 1] = points.getY(i);
        }
        return flat;
    }
}
