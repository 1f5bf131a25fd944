package fabbrica.core.toolpath;

import java.util.Arrays;

/**
 * Drops points of a closed ring that lie within a tolerance of the line between their kept neighbours: Douglas and
 * Peucker, "Algorithms for the reduction of the number of points required to represent a digitized line" (1973), on the
 * two halves between the leftmost point, which is a corner wherever the ring begins, and the one farthest from it. Usual
 * cost O(n log n).
 */
final class RingSimplifier {

    private final double[] ring;
    private final double squaredTolerance;
    private final boolean[] kept;

    private RingSimplifier(double[] ring, double toleranceMm) {
        this.ring = ring;
        this.squaredTolerance = toleranceMm * toleranceMm;
        this.kept = new boolean[ring.length / 2];
    }

    /** The simplified ring as x, y pairs; empty when fewer than three points remain. */
    static double[] simplify(double[] ring, double toleranceMm) {
        return ring.length < 6 ? new double[0] : new RingSimplifier(fromLeftmost(ring), toleranceMm).simplified();
    }

    /** The same for an open line, whose ends stay. */
    static double[] simplifyLine(double[] line, double toleranceMm) {
        if (line.length < 6) {
            return line;
        }
        RingSimplifier simplifier = new RingSimplifier(line, toleranceMm);
        simplifier.kept[0] = true;
        simplifier.kept[simplifier.kept.length - 1] = true;
        simplifier.keepBetween(0, simplifier.kept.length - 1);
        return simplifier.keptPoints();
    }

    /** The same ring begun at its leftmost point, of several the lowest. */
    private static double[] fromLeftmost(double[] ring) {
        int first = 0;
        for (int i = 2; i < ring.length; i += 2) {
            if (ring[i] < ring[first] || ring[i] == ring[first] && ring[i + 1] < ring[first + 1]) {
                first = i;
            }
        }
        double[] begun = new double[ring.length];
        System.arraycopy(ring, first, begun, 0, ring.length - first);
        System.arraycopy(ring, 0, begun, ring.length - first, first);
        return begun;
    }

    private double[] simplified() {
        int points = kept.length;
        int farthest = 0;
        double longest = 0;
        for (int i = 1; i < points; i++) {
            double dx = ring[2 * i] - ring[0], dy = ring[2 * i + 1] - ring[1];
            if (dx * dx + dy * dy > longest) {
                longest = dx * dx + dy * dy;
                farthest = i;
            }
        }
        kept[0] = true;
        kept[farthest] = true;
        keepBetween(0, farthest);
        keepBetween(farthest, points);
        double[] simplified = keptPoints();
        return simplified.length < 6 ? new double[0] : simplified;
    }

    private double[] keptPoints() {
        double[] points = new double[ring.length];
        int count = 0;
        for (int i = 0; i < kept.length; i++) {
            if (kept[i]) {
                points[count++] = ring[2 * i];
                points[count++] = ring[2 * i + 1];
            }
        }
        return Arrays.copyOf(points, count);
    }

    /** Marks what must stay between two kept points; {@code to} may be one past the end, meaning the first point. */
    private void keepBetween(int start, int end) {
        int[] stack = new int[2 * kept.length + 2];
        int depth = 0;
        stack[depth++] = start;
        stack[depth++] = end;
        while (depth > 0) {
            int to = stack[--depth], from = stack[--depth];
            int worst = farthestBetween(from, to);
            if (worst >= 0) {
                kept[worst] = true;
                stack[depth++] = from;
                stack[depth++] = worst;
                stack[depth++] = worst;
                stack[depth++] = to;
            }
        }
    }

    /** The point farthest from the line between two others; −1 when all are within the tolerance. */
    private int farthestBetween(int from, int to) {
        int end = to == kept.length ? 0 : to;
        double ax = ring[2 * from], ay = ring[2 * from + 1], dx = ring[2 * end] - ax, dy = ring[2 * end + 1] - ay;
        double squaredLength = dx * dx + dy * dy;
        double most = squaredTolerance * squaredLength;
        if (squaredLength == 0) {
            dx = 1;
            most = squaredTolerance;
        }
        int worst = -1;
        for (int i = from + 1; i < to; i++) {
            double px = ring[2 * i] - ax, py = ring[2 * i + 1] - ay;
            double across = px * dy - py * dx, along = px * dx + py * dy;
            double beyond = along <= 0 ? along : along > squaredLength ? along - squaredLength : 0;
            double scaled = across * across + beyond * beyond;
            if (scaled > most) {
                most = scaled;
                worst = i;
            }
        }
        return worst;
    }
}
