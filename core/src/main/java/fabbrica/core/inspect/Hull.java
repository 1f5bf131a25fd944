package fabbrica.core.inspect;

import java.util.ArrayList;
import java.util.HashSet;
import java.util.List;
import java.util.Set;
import java.util.function.IntToDoubleFunction;

/**
 * The convex hull of points in space, built by adding one point after another (Preparata and Hong 1977; O'Rourke,
 * "Computational Geometry in C", 1998, chapter 4). Quadratic: meant for some hundreds of points. Points within a
 * millionth of the cloud's size of a face count as inside, so nearly flat groups of faces stay few.
 */
final class Hull {

    private static final double FLAT = 1e-6;

    private final double[][] points;
    private final double tolerance;
    private List<int[]> faces = new ArrayList<>();

    private Hull(double[][] points) {
        this.points = points;
        double size = 0;
        for (double[] point : points) {
            for (int axis = 0; axis < 3; axis++) {
                size = Math.max(size, Math.abs(point[axis] - points[0][axis]));
            }
        }
        tolerance = FLAT * size;
    }

    /** @return three point indices a face, counter-clockwise seen from outside; none when all points lie in a plane */
    static List<int[]> faces(double[][] points) {
        Hull hull = new Hull(points);
        return hull.start() ? hull.grown() : List.of();
    }

    /** The first four points that span a tetrahedron. */
    private boolean start() {
        int b = farthest(i -> distance(points[0], points[i]));
        int c = farthest(i -> length(normal(points[0], points[b], points[i])));
        double[] n = normal(points[0], points[b], points[c]);
        int d = farthest(i -> Math.abs(dot(n, points[i], points[0])));
        double volume = dot(n, points[d], points[0]);
        if (distance(points[0], points[b]) <= tolerance || Math.abs(volume) <= tolerance * length(n)) {
            return false;
        }
        int second = volume < 0 ? b : c, third = volume < 0 ? c : b;
        faces.add(new int[] {0, second, third});
        faces.add(new int[] {0, third, d});
        faces.add(new int[] {third, second, d});
        faces.add(new int[] {second, 0, d});
        return true;
    }

    private List<int[]> grown() {
        for (int p = 0; p < points.length; p++) {
            List<int[]> kept = new ArrayList<>();
            Set<Long> rim = new HashSet<>();
            for (int[] face : faces) {
                double[] n = normal(points[face[0]], points[face[1]], points[face[2]]);
                if (dot(n, points[p], points[face[0]]) > tolerance * length(n)) {
                    for (int i = 0; i < 3; i++) {
                        long back = (long) face[(i + 1) % 3] << 32 | face[i];
                        if (!rim.remove(back)) {
                            rim.add((long) face[i] << 32 | face[(i + 1) % 3]);
                        }
                    }
                } else {
                    kept.add(face);
                }
            }
            for (long edge : rim) {
                kept.add(new int[] {(int) (edge >>> 32), (int) edge, p});
            }
            faces = kept;
        }
        return faces;
    }

    private int farthest(IntToDoubleFunction measure) {
        int best = 0;
        for (int i = 1; i < points.length; i++) {
            if (measure.applyAsDouble(i) > measure.applyAsDouble(best)) {
                best = i;
            }
        }
        return best;
    }

    /** Twice the area vector of a triangle. */
    static double[] normal(double[] a, double[] b, double[] c) {
        double ux = b[0] - a[0], uy = b[1] - a[1], uz = b[2] - a[2];
        double vx = c[0] - a[0], vy = c[1] - a[1], vz = c[2] - a[2];
        return new double[] {uy * vz - uz * vy, uz * vx - ux * vz, ux * vy - uy * vx};
    }

    static double length(double[] v) {
        return Math.sqrt(v[0] * v[0] + v[1] * v[1] + v[2] * v[2]);
    }

    private static double dot(double[] n, double[] p, double[] origin) {
        return n[0] * (p[0] - origin[0]) + n[1] * (p[1] - origin[1]) + n[2] * (p[2] - origin[2]);
    }

    private static double distance(double[] a, double[] b) {
        return Math.sqrt((a[0] - b[0]) * (a[0] - b[0]) + (a[1] - b[1]) * (a[1] - b[1]) + (a[2] - b[2]) * (a[2] - b[2]));
    }
}
