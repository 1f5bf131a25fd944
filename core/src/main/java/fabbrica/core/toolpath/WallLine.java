package fabbrica.core.toolpath;

import java.util.Arrays;

/**
 * One line of a wall. Its share at a point is how wide a strip of the area it fills there: its cross-section over the
 * height of the layer.
 *
 * @param points   x, y pairs; of a closed line without the first one repeated
 * @param sharesMm at each point, evenly changing between them; null when it is the recipe's line spacing everywhere
 * @param wall     0 for the outermost; {@link #MIDDLE} for a single line between two walls or outlines
 */
record WallLine(double[] points, double[] sharesMm, boolean closed, int wall) {

    static final int MIDDLE = -1;

    /** Points closer to the line between their neighbours are left out, and so are shares that change as evenly. */
    private static final double STRAIGHT_MM = 0.004;
    private static final double EVEN_MM = 0.004;

    static WallLine plain(double[] ring, int wall) {
        return new WallLine(ring, null, true, wall);
    }

    /** Without points that neither bend the line nor change how its width grows; Douglas and Peucker (1973). */
    static WallLine simplified(double[] points, double[] sharesMm, boolean closed, int wall) {
        int size = sharesMm.length;
        boolean[] kept = new boolean[size + 1];
        kept[0] = true;
        if (closed) {
            int middle = farthest(points, size);
            kept[middle] = true;
            keepBetween(points, sharesMm, 0, middle, kept);
            keepBetween(points, sharesMm, middle, size, kept);
        } else {
            kept[size - 1] = true;
            keepBetween(points, sharesMm, 0, size - 1, kept);
        }
        double[] fewer = new double[2 * size], shares = new double[size];
        int count = 0;
        for (int i = 0; i < size; i++) {
            if (kept[i]) {
                fewer[2 * count] = points[2 * i];
                fewer[2 * count + 1] = points[2 * i + 1];
                shares[count++] = sharesMm[i];
            }
        }
        return new WallLine(Arrays.copyOf(fewer, 2 * count), Arrays.copyOf(shares, count), closed, wall);
    }

    private static int farthest(double[] points, int size) {
        int farthest = 0;
        double most = -1;
        for (int i = 1; i < size; i++) {
            double dx = points[2 * i] - points[0], dy = points[2 * i + 1] - points[1];
            if (dx * dx + dy * dy > most) {
                most = dx * dx + dy * dy;
                farthest = i;
            }
        }
        return farthest;
    }

    /** {@code to} may be one past the last point, meaning the first. */
    private static void keepBetween(double[] points, double[] shares, int from, int to, boolean[] kept) {
        int end = to == shares.length ? 0 : to, worst = -1;
        double ax = points[2 * from], ay = points[2 * from + 1];
        double dx = points[2 * end] - ax, dy = points[2 * end + 1] - ay, squared = Math.max(1e-12, dx * dx + dy * dy);
        double most = 1;
        for (int i = from + 1; i < to; i++) {
            double px = points[2 * i] - ax, py = points[2 * i + 1] - ay;
            double part = Math.clamp((px * dx + py * dy) / squared, 0, 1);
            double off = Math.hypot(px - part * dx, py - part * dy) / STRAIGHT_MM;
            double uneven = Math.abs(shares[i] - shares[from] - part * (shares[end] - shares[from])) / EVEN_MM;
            if (Math.max(off, uneven) > most) {
                most = Math.max(off, uneven);
                worst = i;
            }
        }
        if (worst >= 0) {
            kept[worst] = true;
            keepBetween(points, shares, from, worst, kept);
            keepBetween(points, shares, worst, to, kept);
        }
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
            area += Math.hypot(points[2 * i] - points[2 * j], points[2 * i + 1] - points[2 * j + 1])
                    * (shareMm(i, usualMm) + shareMm(j, usualMm)) / 2;
        }
        return area;
    }
}
