package fabbrica.core.bed;

import java.util.stream.DoubleStream;

/**
 * Width and depth of a convex outline as it is turned about the vertical, and the turn at which it may be scaled most
 * within a rectangle.
 *
 * <p>Between the angles at which a side of the hull lies along an axis, the same corners carry the extents, so width
 * and depth are single cosines there: concave, with the largest scale at an end of the interval or where both limits
 * are equal. Only those angles are tried, so the answer is exact for the hull. The carrying corners advance with the
 * angle (rotating calipers: Shamos 1978, Toussaint 1983): O(n log n) for n corners.
 */
final class TurnedExtents {

    private static final double QUARTER = Math.PI / 2;

    private final double[] hull;
    private final int corners;

    TurnedExtents(Footprint footprint) {
        this.hull = footprint.hull();
        this.corners = footprint.cornerCount();
    }

    /** The scale at which the outline, turned by {@code radians}, just fills a width × depth rectangle. */
    double scaleAt(double radians, double width, double depth) {
        double cos = Math.cos(radians), sin = Math.sin(radians);
        double minX = Double.POSITIVE_INFINITY, maxX = Double.NEGATIVE_INFINITY;
        double minY = Double.POSITIVE_INFINITY, maxY = Double.NEGATIVE_INFINITY;
        for (int i = 0; i < hull.length; i += 2) {
            double x = cos * hull[i] - sin * hull[i + 1], y = sin * hull[i] + cos * hull[i + 1];
            minX = Math.min(minX, x);
            maxX = Math.max(maxX, x);
            minY = Math.min(minY, y);
            maxY = Math.max(maxY, y);
        }
        return Math.min(width / (maxX - minX), depth / (maxY - minY));
    }

    /** The turn in [0, π) with the largest scale; of equal ones the smallest. */
    double bestTurn(double width, double depth) {
        double[] stops = DoubleStream.concat(DoubleStream.of(0, QUARTER),
                        java.util.stream.IntStream.range(0, corners).mapToDouble(this::sideTurn)
                                .flatMap(turn -> DoubleStream.of(turn, turn + QUARTER)))
                .sorted().toArray();
        Calipers calipers = new Calipers();
        double best = 0, bestScale = 0;
        for (int i = 0; i < stops.length; i++) {
            double from = stops[i], to = i + 1 < stops.length ? stops[i + 1] : Math.PI;
            double crossing = calipers.crossing((from + to) / 2, width, depth);
            for (double turn : new double[] {from, crossing}) {
                if (turn >= from && turn <= to) {
                    double scale = calipers.scale(turn, width, depth);
                    if (scale > bestScale * (1 + 1e-9)) {
                        bestScale = scale;
                        best = turn;
                    }
                }
            }
        }
        return best;
    }

    /** The turn in [0, π/2) that lays side {@code i} along an axis. */
    private double sideTurn(int i) {
        int next = (i + 1) % corners;
        double angle = -Math.atan2(hull[2 * next + 1] - hull[2 * i + 1], hull[2 * next] - hull[2 * i]) % QUARTER;
        return angle < 0 ? angle + QUARTER : angle;
    }

    /** The four corners that carry the extents; angles must be asked for in rising intervals. */
    private final class Calipers {

        /** Farthest right, left, back and front of the turned outline. */
        private final int[] carriers = new int[4];
        private boolean placed;

        double crossing(double middle, double width, double depth) {
            carry(middle);
            double px = hull[2 * carriers[0]] - hull[2 * carriers[1]];
            double py = hull[2 * carriers[0] + 1] - hull[2 * carriers[1] + 1];
            double qx = hull[2 * carriers[2]] - hull[2 * carriers[3]];
            double qy = hull[2 * carriers[2] + 1] - hull[2 * carriers[3] + 1];
            double turn = Math.atan2(depth * px - width * qy, width * qx + depth * py) % Math.PI;
            return turn < 0 ? turn + Math.PI : turn;
        }

        double scale(double turn, double width, double depth) {
            double cos = Math.cos(turn), sin = Math.sin(turn);
            double across = cos * (hull[2 * carriers[0]] - hull[2 * carriers[1]])
                    - sin * (hull[2 * carriers[0] + 1] - hull[2 * carriers[1] + 1]);
            double along = sin * (hull[2 * carriers[2]] - hull[2 * carriers[3]])
                    + cos * (hull[2 * carriers[2] + 1] - hull[2 * carriers[3] + 1]);
            return Math.min(width / across, depth / along);
        }

        private void carry(double turn) {
            // Turning the outline by +t is looking for the farthest corner in directions turned by −t.
            double[] directions = {-turn, Math.PI - turn, QUARTER - turn, -QUARTER - turn};
            for (int d = 0; d < 4; d++) {
                double cos = Math.cos(directions[d]), sin = Math.sin(directions[d]);
                if (placed) {
                    advance(d, cos, sin);
                } else {
                    carriers[d] = farthest(cos, sin);
                }
            }
            placed = true;
        }

        private void advance(int d, double cos, double sin) {
            for (int steps = 0; steps < corners; steps++) {
                int previous = (carriers[d] + corners - 1) % corners;
                if (reach(previous, cos, sin) <= reach(carriers[d], cos, sin)) {
                    return;
                }
                carriers[d] = previous;
            }
        }

        private int farthest(double cos, double sin) {
            int best = 0;
            for (int i = 1; i < corners; i++) {
                if (reach(i, cos, sin) > reach(best, cos, sin)) {
                    best = i;
                }
            }
            return best;
        }

        private double reach(int corner, double cos, double sin) {
            return hull[2 * corner] * cos + hull[2 * corner + 1] * sin;
        }
    }
}
