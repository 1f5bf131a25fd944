package fabbrica.core.toolpath;

import fabbrica.core.recipe.LineWork.Seam;
import fabbrica.core.recipe.Recipe;
import java.util.List;

/**
 * Lays lines one after another, always the one that is nearest next: closed ones begun at their seam, others at either end.
 * Which is nearest is told by one point of each closed line, so that the cost does not grow with their length.
 */
final class LoopOrder {

    private LoopOrder() {
    }

    /** A line and its type. */
    record Loop(WallLine line, PathType type) {

        static Loop closed(double[] ring, PathType type) {
            return new Loop(WallLine.plain(ring, 0), type);
        }
    }

    /**
     * @param widthMm of lines of the usual share; @param areaMm2 likewise
     * @param turn    number of the layer: varies a seam that is to be spread, and the end at which an open line begins
     */
    static void lay(List<Loop> loops, double widthMm, double areaMm2, double heightMm, Seam seam, int turn, Router router,
                    Layer.Builder layer) {
        int[] starts = new int[loops.size()];
        for (int i = 0; i < starts.length; i++) {
            starts[i] = loops.get(i).type() == PathType.OUTER_WALL && loops.get(i).line().closed()
                    ? seam(loops.get(i).line().points(), seam, turn) : -1;
        }
        boolean[] laid = new boolean[loops.size()];
        for (int done = 0; done < laid.length; done++) {
            int nearest = -1;
            double least = Double.POSITIVE_INFINITY;
            for (int i = 0; i < laid.length; i++) {
                double distance = laid[i] ? 0 : distance(loops.get(i).line(), starts[i], layer);
                if (!laid[i] && distance < least) {
                    least = distance;
                    nearest = i;
                }
            }
            laid[nearest] = true;
            WallLine line = loops.get(nearest).line();
            int start = line.closed() ? (starts[nearest] >= 0 ? starts[nearest] : nearestOn(line.points(), layer)) / 2
                    : beginsAtFirst(line, turn, layer) ? 0 : line.size() - 1;
            lay(line, start, loops.get(nearest).type(), widthMm, areaMm2, heightMm, router, layer);
        }
    }

    private static double distance(WallLine line, int start, Layer.Builder layer) {
        double first = squared(line.points(), Math.max(0, start), layer);
        return line.closed() ? first : Math.min(first, squared(line.points(), line.points().length - 2, layer));
    }

    /** At the nearer end; the first of a layer at either end in turn, so that a layer begins where one like it has ended. */
    private static boolean beginsAtFirst(WallLine line, int turn, Layer.Builder layer) {
        return layer.isEmpty() ? turn % 2 == 0
                : squared(line.points(), 0, layer) <= squared(line.points(), line.points().length - 2, layer);
    }

    /** A closed line once around, another from its first point to its last or back. */
    private static void lay(WallLine line, int start, PathType type, double widthMm, double areaMm2, double heightMm,
                            Router router, Layer.Builder layer) {
        int size = line.size(), count = line.closed() ? size + 1 : size, step = line.closed() || start == 0 ? 1 : size - 1;
        double[] points = line.points();
        router.to(points[2 * start], points[2 * start + 1]);
        if (line.sharesMm() == null) {
            layer.path(type, widthMm, areaMm2);
        } else {
            double[] areas = new double[count];
            double widest = 0;
            for (int i = 0; i < count; i++) {
                double share = line.sharesMm()[(start + i * step) % size];
                areas[i] = share * heightMm;
                widest = Math.max(widest, share);
            }
            layer.path(type, Recipe.widthOfShareMm(widest, heightMm), areas);
        }
        for (int i = 0; i < count; i++) {
            int at = 2 * ((start + i * step) % size);
            layer.point(points[at], points[at + 1]);
        }
    }

    /** @return where in the ring the loop begins, or −1 when it does not matter */
    private static int seam(double[] ring, Seam seam, int turn) {
        int best = -1;
        double most = Double.NEGATIVE_INFINITY;
        for (int i = 0; i < ring.length && seam != Seam.NEAREST; i += 2) {
            double worth = switch (seam) {
                case REAR -> ring[i + 1];
                case CORNER -> sharpness(ring, i);
                // Steps of the golden angle never meet again.
                case SPREAD -> Math.cos(turn * 2.39996) * ring[i] + Math.sin(turn * 2.39996) * ring[i + 1];
                case NEAREST -> 0;
            };
            if (worth > most) {
                most = worth;
                best = i;
            }
        }
        return best;
    }

    /** Corners that point into the solid hide a seam better than those that stick out. */
    private static double sharpness(double[] ring, int at) {
        int before = (at + ring.length - 2) % ring.length, after = (at + 2) % ring.length;
        double ax = ring[at] - ring[before], ay = ring[at + 1] - ring[before + 1];
        double bx = ring[after] - ring[at], by = ring[after + 1] - ring[at + 1];
        double turn = Math.atan2(ax * by - ay * bx, ax * bx + ay * by);
        return turn < 0 ? -2 * turn : turn;
    }

    private static int nearestOn(double[] ring, Layer.Builder layer) {
        int nearest = 0;
        double least = Double.POSITIVE_INFINITY;
        for (int i = 0; i < ring.length && !layer.isEmpty(); i += 2) {
            double distance = squared(ring, i, layer);
            if (distance < least) {
                least = distance;
                nearest = i;
            }
        }
        return nearest;
    }

    private static double squared(double[] ring, int at, Layer.Builder layer) {
        double dx = ring[at] - layer.lastX(), dy = ring[at + 1] - layer.lastY();
        return dx * dx + dy * dy;
    }
}
