package fabbrica.core.bed;

import fabbrica.core.mesh.model.Mesh;
import java.util.Arrays;
import org.locationtech.jts.algorithm.ConvexHull;
import org.locationtech.jts.geom.Coordinate;
import org.locationtech.jts.geom.GeometryFactory;

/**
 * The convex hull of a part seen from above, and its height.
 *
 * <p>Before the hull proper (JTS), points inside the polygon of the extremes in 32 directions are dropped, after Akl
 * and Toussaint, "A fast convex hull algorithm" (1978): of millions of vertices some hundreds remain.
 *
 * @param hull     corners counter-clockwise as x, y pairs in millimetres; fewer than three when all lie in one line
 * @param heightMm from the lowest to the highest point
 */
public record Footprint(double[] hull, double heightMm) {

    private static final int DIRECTIONS = 32;

    public static Footprint of(Mesh mesh) {
        double[] extremes = extremes(mesh);
        double lowest = Double.POSITIVE_INFINITY, highest = Double.NEGATIVE_INFINITY;
        Coordinate[] kept = new Coordinate[1024];
        int count = 0;
        for (int v = 0; v < mesh.vertexCount(); v++) {
            lowest = Math.min(lowest, mesh.z(v));
            highest = Math.max(highest, mesh.z(v));
            if (!isInside(extremes, mesh.x(v), mesh.y(v))) {
                if (count == kept.length) {
                    kept = Arrays.copyOf(kept, 2 * count);
                }
                kept[count++] = new Coordinate(mesh.x(v), mesh.y(v));
            }
        }
        Coordinate[] ring = new ConvexHull(Arrays.copyOf(kept, count), new GeometryFactory()).getConvexHull()
                .norm().getCoordinates();
        boolean flat = ring.length < 4;
        double[] hull = new double[2 * (flat ? ring.length : ring.length - 1)];
        for (int i = 0; 2 * i < hull.length; i++) {
            // JTS normalises shells clockwise; read backwards they run counter-clockwise.
            Coordinate corner = ring[ring.length - 1 - i];
            hull[2 * i] = corner.x;
            hull[2 * i + 1] = corner.y;
        }
        return new Footprint(hull, mesh.vertexCount() == 0 ? 0 : highest - lowest);
    }

    public int cornerCount() {
        return hull.length / 2;
    }

    public Footprint scaled(double factor) {
        return new Footprint(Arrays.stream(hull).map(value -> value * factor).toArray(), heightMm * factor);
    }

    /** The vertices farthest in each direction, counter-clockwise, as x, y pairs. */
    private static double[] extremes(Mesh mesh) {
        double[] farthest = new double[DIRECTIONS];
        Arrays.fill(farthest, Double.NEGATIVE_INFINITY);
        double[] points = new double[2 * DIRECTIONS];
        double[] cos = new double[DIRECTIONS];
        double[] sin = new double[DIRECTIONS];
        for (int d = 0; d < DIRECTIONS; d++) {
            cos[d] = Math.cos(2 * Math.PI * d / DIRECTIONS);
            sin[d] = Math.sin(2 * Math.PI * d / DIRECTIONS);
        }
        for (int v = 0; v < mesh.vertexCount(); v++) {
            double x = mesh.x(v), y = mesh.y(v);
            for (int d = 0; d < DIRECTIONS; d++) {
                double reach = x * cos[d] + y * sin[d];
                if (reach > farthest[d]) {
                    farthest[d] = reach;
                    points[2 * d] = x;
                    points[2 * d + 1] = y;
                }
            }
        }
        return points;
    }

    /** Whether a point lies strictly left of every side of a convex ring; repeated corners have no side. */
    private static boolean isInside(double[] ring, double x, double y) {
        boolean anySide = false;
        for (int i = 0, j = ring.length - 2; i < ring.length; j = i, i += 2) {
            double dx = ring[i] - ring[j], dy = ring[i + 1] - ring[j + 1];
            if (dx == 0 && dy == 0) {
                continue;
            }
            anySide = true;
            if (dx * (y - ring[j + 1]) - dy * (x - ring[j]) <= 0) {
                return false;
            }
        }
        return anySide;
    }
}
