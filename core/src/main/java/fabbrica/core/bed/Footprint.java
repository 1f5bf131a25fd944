package fabbrica.core.bed;

import fabbrica.core.mesh.model.Bounds;
import fabbrica.core.mesh.model.Mesh;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import java.util.stream.IntStream;
import org.locationtech.jts.algorithm.ConvexHull;
import org.locationtech.jts.geom.Coordinate;
import org.locationtech.jts.geom.Envelope;
import org.locationtech.jts.geom.GeometryFactory;

/**
 * The convex hull of a part seen from above, its height, and how far what stands on the bed stays inside the hull.
 *
 * <p>Before the hull proper (JTS), points that cannot be corners are dropped, in the spirit of Akl and Toussaint, "A
 * fast convex hull algorithm" (1978): the leftmost and rightmost points of many strips span an inner hull, and what
 * lies within it across a whole strip goes. Of millions of vertices some hundreds remain; linear in the vertices.
 *
 * @param hull     corners counter-clockwise as x, y pairs in millimetres; fewer than three when all lie in one line
 * @param heightMm from the lowest to the highest point
 * @param insetMm  least distance from the hull of what is no higher than {@value #FOOT_MM} mm above the lowest point to that of
 *                 all
 */
public record Footprint(double[] hull, double heightMm, double insetMm) {

    /** The thickest first layer is cut no higher. */
    private static final double FOOT_MM = 0.75;
    private static final int STRIPS = 1024;
    private static final int WORTH_FILTERING = 4 * STRIPS;
    private static final GeometryFactory PLANE = new GeometryFactory();

    public static Footprint of(Mesh mesh) {
        Bounds bounds = mesh.bounds();
        Coordinate[] candidates = mesh.vertexCount() < WORTH_FILTERING ? vertices(mesh)
                : new Strips(mesh, bounds).candidates();
        double[] hull = hull(candidates);
        return new Footprint(hull, bounds.sizeZ(), inset(mesh, bounds, hull));
    }

    public int cornerCount() {
        return hull.length / 2;
    }

    public Footprint scaled(double factor) {
        return new Footprint(Arrays.stream(hull).map(value -> value * factor).toArray(), heightMm * factor, insetMm * factor);
    }

    /** Two convex shapes are nearest along the normal of a side of the outer one. */
    private static double inset(Mesh mesh, Bounds all, double[] hull) {
        double top = all.minZ() + FOOT_MM;
        Envelope box = new Envelope();
        for (int v = 0; v < mesh.vertexCount(); v++) {
            if (mesh.z(v) <= top) {
                box.expandToInclude(mesh.x(v), mesh.y(v));
            }
        }
        double inset = Math.min(Math.min(box.getMinX() - all.minX(), all.maxX() - box.getMaxX()),
                Math.min(box.getMinY() - all.minY(), all.maxY() - box.getMaxY()));
        if (inset <= 0 || hull.length < 6) {
            return 0;
        }
        double[] inner = hull(foot(mesh, top));
        for (int i = 0; i < hull.length; i += 2) {
            int next = (i + 2) % hull.length;
            double dx = hull[next] - hull[i], dy = hull[next + 1] - hull[i + 1], length = Math.hypot(dx, dy);
            for (int j = 0; j < inner.length; j += 2) {
                inset = Math.min(inset, (dx * (inner[j + 1] - hull[i + 1]) - dy * (inner[j] - hull[i])) / length);
            }
        }
        return Math.max(0, inset);
    }

    /** Corners of what stands on the bed: up to where the thickest first layer is cut. */
    private static Coordinate[] foot(Mesh mesh, double top) {
        List<Coordinate> foot = new ArrayList<>();
        for (int v = 0; v < mesh.vertexCount(); v++) {
            if (mesh.z(v) <= top) {
                foot.add(new Coordinate(mesh.x(v), mesh.y(v)));
            }
        }
        for (int t = 0; t < mesh.triangleCount(); t++) {
            for (int corner = 0; corner < 3; corner++) {
                int from = mesh.corner(t, corner), to = mesh.corner(t, (corner + 1) % 3);
                if (mesh.z(from) <= top && mesh.z(to) > top) {
                    double part = (top - mesh.z(from)) / (mesh.z(to) - mesh.z(from));
                    foot.add(new Coordinate(mesh.x(from) + part * (mesh.x(to) - mesh.x(from)),
                            mesh.y(from) + part * (mesh.y(to) - mesh.y(from))));
                }
            }
        }
        return foot.toArray(Coordinate[]::new);
    }

    private static Coordinate[] vertices(Mesh mesh) {
        return IntStream.range(0, mesh.vertexCount()).mapToObj(v -> new Coordinate(mesh.x(v), mesh.y(v)))
                .toArray(Coordinate[]::new);
    }

    private static double[] hull(Coordinate[] points) {
        Coordinate[] ring = new ConvexHull(points, PLANE).getConvexHull().norm().getCoordinates();
        boolean flat = ring.length < 4;
        double[] hull = new double[2 * (flat ? ring.length : ring.length - 1)];
        for (int i = 0; 2 * i < hull.length; i++) {
            // JTS normalises shells clockwise; read backwards they run counter-clockwise.
            Coordinate corner = ring[ring.length - 1 - i];
            hull[2 * i] = corner.x;
            hull[2 * i + 1] = corner.y;
        }
        return hull;
    }

    /** Strips along the x axis, each with the x range that surely lies inside the hull. */
    private static final class Strips {

        private final Mesh mesh;
        private final double minY;
        private final double height;
        private final double[] left = new double[STRIPS];
        private final double[] right = new double[STRIPS];

        Strips(Mesh mesh, Bounds bounds) {
            this.mesh = mesh;
            this.minY = bounds.minY();
            this.height = Math.max(bounds.sizeY() / STRIPS, Double.MIN_NORMAL);
            narrowTo(hull(extremes()));
        }

        Coordinate[] candidates() {
            List<Coordinate> candidates = new ArrayList<>();
            for (int v = 0; v < mesh.vertexCount(); v++) {
                double x = mesh.x(v);
                int strip = strip(mesh.y(v));
                if (!(left[strip] < x && x < right[strip])) {
                    candidates.add(new Coordinate(x, mesh.y(v)));
                }
            }
            return candidates.toArray(Coordinate[]::new);
        }

        private int strip(double y) {
            return Math.min(STRIPS - 1, (int) ((y - minY) / height));
        }

        /** The leftmost and rightmost vertex of every strip. */
        private Coordinate[] extremes() {
            int[] leftmost = new int[STRIPS];
            int[] rightmost = new int[STRIPS];
            Arrays.fill(left, Double.POSITIVE_INFINITY);
            Arrays.fill(right, Double.NEGATIVE_INFINITY);
            for (int v = 0; v < mesh.vertexCount(); v++) {
                double x = mesh.x(v);
                int strip = strip(mesh.y(v));
                if (x < left[strip]) {
                    left[strip] = x;
                    leftmost[strip] = v;
                }
                if (x > right[strip]) {
                    right[strip] = x;
                    rightmost[strip] = v;
                }
            }
            return IntStream.concat(Arrays.stream(leftmost), Arrays.stream(rightmost))
                    .mapToObj(v -> new Coordinate(mesh.x(v), mesh.y(v))).toArray(Coordinate[]::new);
        }

        /** Sets each strip's range to what an inner hull covers at its lower and its upper border. */
        private void narrowTo(double[] inner) {
            Arrays.fill(left, Double.NEGATIVE_INFINITY);
            Arrays.fill(right, Double.POSITIVE_INFINITY);
            for (int border = 0; border <= STRIPS; border++) {
                double y = minY + border * height;
                double from = Double.POSITIVE_INFINITY, to = Double.NEGATIVE_INFINITY;
                for (int i = 0, j = inner.length - 2; i < inner.length; j = i, i += 2) {
                    if (inner[i + 1] > y != inner[j + 1] > y) {
                        double x = inner[i] + (y - inner[i + 1]) / (inner[j + 1] - inner[i + 1]) * (inner[j] - inner[i]);
                        from = Math.min(from, x);
                        to = Math.max(to, x);
                    }
                }
                for (int strip = Math.max(0, border - 1); strip <= Math.min(STRIPS - 1, border); strip++) {
                    left[strip] = Math.max(left[strip], from);
                    right[strip] = Math.min(right[strip], to);
                }
            }
        }
    }
}
