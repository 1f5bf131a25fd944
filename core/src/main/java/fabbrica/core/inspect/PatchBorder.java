package fabbrica.core.inspect;

import fabbrica.core.mesh.model.HalfEdges;
import fabbrica.core.mesh.model.Mesh;
import java.util.Arrays;

/** The edges around a patch of triangles, seen along an axis, with the patch on their left. */
final class PatchBorder {

    /** In sizes of the patch: what is nearer than this counts as meeting. */
    private static final double NEAR = 1e-11;
    /** A border whose edges lie side by side with more others than this is not worth looking at. */
    private static final int MOST_BESIDE = 64;
    private static final double SAME_ANGLE = 1e-9;

    private final int[] from;
    private final int[] to;
    private final int count;
    /** Where each edge begins and ends. */
    private final double[] x0, y0, x1, y1;
    private double near;

    PatchBorder(Mesh mesh, HalfEdges edges, int[] halfEdges, double axisX, double axisY, double axisZ) {
        count = halfEdges.length;
        from = new int[count];
        to = new int[count];
        x0 = new double[count];
        y0 = new double[count];
        x1 = new double[count];
        y1 = new double[count];
        for (int i = 0; i < count; i++) {
            from[i] = edges.from(halfEdges[i]);
            to[i] = edges.to(halfEdges[i]);
        }
        if (count > 0) {
            project(mesh, axisX, axisY, axisZ);
        }
    }

    /** Whether the border winds around no place more than once, without meeting itself but in corners. */
    boolean bounds() {
        if (count == 0 || meetsItself()) {
            return false;
        }
        int[] next = next();
        return next.length > 0 && outerLoops(next) == 1;
    }

    /** Onto two directions across the axis, of no special angle to anything; lengths count from the first corner. */
    private void project(Mesh mesh, double axisX, double axisY, double axisZ) {
        double[] axis = {axisX, axisY, axisZ};
        double[] odd = Math.abs(axisX) < 0.6 ? new double[] {0.9363, 0.2113, 0.2804} : new double[] {0.2113, 0.9363, 0.2804};
        double[] u = unit(cross(axis, odd));
        double[] v = cross(axis, u);
        double ox = mesh.x(from[0]), oy = mesh.y(from[0]), oz = mesh.z(from[0]), reach = 0;
        for (int i = 0; i < count; i++) {
            double ax = mesh.x(from[i]) - ox, ay = mesh.y(from[i]) - oy, az = mesh.z(from[i]) - oz;
            double bx = mesh.x(to[i]) - ox, by = mesh.y(to[i]) - oy, bz = mesh.z(to[i]) - oz;
            x0[i] = ax * u[0] + ay * u[1] + az * u[2];
            y0[i] = ax * v[0] + ay * v[1] + az * v[2];
            x1[i] = bx * u[0] + by * u[1] + bz * u[2];
            y1[i] = bx * v[0] + by * v[1] + bz * v[2];
            reach = Math.max(reach, Math.abs(ax) + Math.abs(ay) + Math.abs(az));
        }
        near = NEAR * reach;
    }

    private static double[] cross(double[] a, double[] b) {
        return new double[] {a[1] * b[2] - a[2] * b[1], a[2] * b[0] - a[0] * b[2], a[0] * b[1] - a[1] * b[0]};
    }

    private static double[] unit(double[] a) {
        double length = Math.sqrt(a[0] * a[0] + a[1] * a[1] + a[2] * a[2]);
        return new double[] {a[0] / length, a[1] / length, a[2] / length};
    }

    /** Edges from left to right, each beside those that begin before it ends. */
    private boolean meetsItself() {
        long[] order = new long[count];
        for (int i = 0; i < count; i++) {
            int bits = Float.floatToIntBits(Math.nextDown((float) (Math.min(x0[i], x1[i]) - near)));
            order[i] = (long) (bits ^ bits >> 31 & Integer.MAX_VALUE) << 32 | i;
        }
        Arrays.sort(order);
        long left = (long) MOST_BESIDE * count;
        for (int i = 0; i < count; i++) {
            int edge = (int) order[i];
            double end = Math.max(x0[edge], x1[edge]) + near;
            for (int j = i + 1; j < count && least(order[j]) <= end; j++) {
                if (--left < 0 || meet(edge, (int) order[j])) {
                    return true;
                }
            }
        }
        return false;
    }

    private static float least(long entry) {
        int bits = (int) (entry >> 32);
        return Float.intBitsToFloat(bits ^ bits >> 31 & Integer.MAX_VALUE);
    }

    /** Whether two edges meet elsewhere than in a corner of both, or may do. */
    private boolean meet(int i, int j) {
        if (Math.max(y0[i], y1[i]) + near < Math.min(y0[j], y1[j]) || Math.max(y0[j], y1[j]) + near < Math.min(y0[i], y1[i])) {
            return false;
        }
        boolean endsFirst = from[i] == from[j] || from[i] == to[j], endsSecond = to[i] == from[j] || to[i] == to[j];
        if (endsFirst && endsSecond) {
            return true;
        }
        if (endsFirst || endsSecond) {
            double x = endsFirst ? x0[i] : x1[i], y = endsFirst ? y0[i] : y1[i];
            double ax = (endsFirst ? x1[i] : x0[i]) - x, ay = (endsFirst ? y1[i] : y0[i]) - y;
            boolean begins = from[j] == (endsFirst ? from[i] : to[i]);
            double bx = (begins ? x1[j] : x0[j]) - x, by = (begins ? y1[j] : y0[j]) - y;
            return ax * bx + ay * by > 0 && Math.abs(ax * by - ay * bx) <= near * (Math.abs(ax) + Math.abs(ay));
        }
        return !apart(i, j) && !apart(j, i);
    }

    /** Whether both ends of one edge lie on one side of another. */
    private boolean apart(int edge, int other) {
        double dx = x1[edge] - x0[edge], dy = y1[edge] - y0[edge], least = near * (Math.abs(dx) + Math.abs(dy));
        double first = dx * (y0[other] - y0[edge]) - dy * (x0[other] - x0[edge]);
        double second = dx * (y1[other] - y0[edge]) - dy * (x1[other] - x0[edge]);
        return first > least && second > least || first < -least && second < -least;
    }

    /**
     * The edge after each. Where several loops pass through one corner each goes on along the patch that lies beside it, and
     * edges that come and go must take turns around the corner.
     *
     * @return nothing where they do not
     */
    private int[] next() {
        long[] going = new long[count], coming = new long[count];
        for (int i = 0; i < count; i++) {
            going[i] = (long) from[i] << 32 | i;
            coming[i] = (long) to[i] << 32 | i;
        }
        Arrays.sort(going);
        Arrays.sort(coming);
        int[] next = new int[count];
        for (int start = 0, end; start < count; start = end) {
            int corner = (int) (going[start] >> 32);
            end = start + 1;
            while (end < count && (int) (going[end] >> 32) == corner) {
                end++;
            }
            if ((int) (coming[start] >> 32) != corner || (int) (coming[end - 1] >> 32) != corner) {
                return new int[0];
            }
            if (end - start == 1) {
                next[(int) coming[start]] = (int) going[start];
            } else if (!join(going, coming, start, end, next)) {
                return new int[0];
            }
        }
        return next;
    }

    /** Around one corner, by angle: after each edge that goes, counter-clockwise, comes the one before it in its loop. */
    private boolean join(long[] going, long[] coming, int start, int end, int[] next) {
        int ways = end - start;
        double[][] around = new double[2 * ways][];
        for (int i = 0; i < ways; i++) {
            int g = (int) going[start + i], c = (int) coming[start + i];
            around[2 * i] = new double[] {Math.atan2(y1[g] - y0[g], x1[g] - x0[g]), g, 1};
            around[2 * i + 1] = new double[] {Math.atan2(y0[c] - y1[c], x0[c] - x1[c]), c, 0};
        }
        Arrays.sort(around, (a, b) -> Double.compare(a[0], b[0]));
        for (int i = 0; i < 2 * ways; i++) {
            double[] one = around[i], after = around[(i + 1) % (2 * ways)];
            double turn = after[0] - one[0] + (i + 1 == 2 * ways ? 2 * Math.PI : 0);
            if (one[2] == after[2] || turn < SAME_ANGLE) {
                return false;
            }
            if (one[2] == 1) {
                next[(int) after[1]] = (int) one[1];
            }
        }
        return true;
    }

    /** Loops that run counter-clockwise, two for one whose area is too small to tell. */
    private int outerLoops(int[] next) {
        boolean[] seen = new boolean[count];
        int outer = 0;
        for (int first = 0; first < count; first++) {
            double twiceArea = 0, length = 0;
            for (int i = first; !seen[i]; i = next[i]) {
                seen[i] = true;
                twiceArea += (x0[i] - x0[first]) * (y1[i] - y0[first]) - (y0[i] - y0[first]) * (x1[i] - x0[first]);
                length += Math.abs(x1[i] - x0[i]) + Math.abs(y1[i] - y0[i]);
            }
            outer += length == 0 ? 0 : Math.abs(twiceArea) <= near * length ? 2 : twiceArea > 0 ? 1 : 0;
        }
        return outer;
    }
}
