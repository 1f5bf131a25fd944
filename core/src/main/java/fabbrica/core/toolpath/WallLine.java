package fabbrica.core.toolpath;

import java.util.Arrays;
import org.jspecify.annotations.Nullable;

/**
 * One line of a wall. Its share at a point is how wide a strip of the area it fills there: its cross-section over the
 * height of the layer.
 *
 * @param points   x, y pairs; of a closed line without the first one repeated
 * @param sharesMm at each point, evenly changing between them; null when it is the recipe's line spacing everywhere
 * @param wall     0 for the outermost; {@link #MIDDLE} for a single line between two walls or outlines
 */
record WallLine(double[] points, double @Nullable [] sharesMm, boolean closed, int wall) {

    static final int MIDDLE = -1;

    /** Points closer to the line between their neighbours are left out, and so are shares that change as evenly. */
    private static final double STRAIGHT_MM = 0.004;
    private static final double EVEN_MM = 0.004;
    private static final int MOST_LEFT_OUT = 64;

    static WallLine plain(double[] ring, int wall) {
        return new WallLine(ring, null, true, wall);
    }

    /** Without points that neither bend the line nor change how its width grows: from each kept one as far as it goes. */
    static WallLine simplified(double[] points, double[] sharesMm, boolean closed, int wall) {
        int size = sharesMm.length, count = 0;
        double[] fewer = new double[2 * size], shares = new double[size];
        for (int from = 0; from < size; ) {
            fewer[2 * count] = points[2 * from];
            fewer[2 * count + 1] = points[2 * from + 1];
            shares[count++] = sharesMm[from];
            int to = from + 1, farthest = Math.min(closed ? size : size - 1, from + MOST_LEFT_OUT);
            while (to < farthest && straight(points, sharesMm, from, to + 1)) {
                to++;
            }
            from = to;
        }
        return new WallLine(Arrays.copyOf(fewer, 2 * count), Arrays.copyOf(shares, count), closed, wall);
    }

    /** {@code to} may be one past the last point, meaning the first. */
    private static boolean straight(double[] points, double[] shares, int from, int to) {
        int end = to == shares.length ? 0 : to;
        double ax = points[2 * from], ay = points[2 * from + 1];
        double dx = points[2 * end] - ax, dy = points[2 * end + 1] - ay, squared = Math.max(1e-12, dx * dx + dy * dy);
        for (int i = to - 1; i > from; i--) {
            double px = points[2 * i] - ax, py = points[2 * i + 1] - ay;
            double along = (px * dx + py * dy) / squared, part = along < 0 ? 0 : along > 1 ? 1 : along, offX = px - part * dx, offY = py - part * dy;
            if (offX * offX + offY * offY > STRAIGHT_MM * STRAIGHT_MM
                    || Math.abs(shares[i] - shares[from] - part * (shares[end] - shares[from])) > EVEN_MM) {
                return false;
            }
        }
        return true;
    }

    int size() {
        return points.length / 2;
    }

    double shareMm(int point, double usualMm) {
        return sharesMm == null ? usualMm : sharesMm[point];
    }

    /** Area in mm² that the line fills. */
    double areaMm2(double usualMm) {
        double area = 0;
        for (int i = closed ? 0 : 1, j = closed ? size() - 1 : 0; i < size(); j = i++) {
            double dx = points[2 * i] - points[2 * j], dy = points[2 * i + 1] - points[2 * j + 1];
            area += Math.sqrt(dx * dx + dy * dy) * (shareMm(i, usualMm) + shareMm(j, usualMm)) / 2;
        }
        return area;
    }
}
