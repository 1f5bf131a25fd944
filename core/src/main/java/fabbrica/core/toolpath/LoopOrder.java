package fabbrica.core.toolpath;

import fabbrica.core.recipe.LineWork.Seam;
import java.util.List;

/**
 * Lays closed loops one after another, always the one that is nearest next, each begun at its seam. Which is nearest is
 * told by one point of each loop, so that the cost does not grow with their length.
 */
final class LoopOrder {

    private LoopOrder() {
    }

    record Loop(double[] points, PathType type) {
    }

    /** @param turn varies a seam that is to be spread, from layer to layer */
    static void lay(List<Loop> loops, double widthMm, double areaMm2, Seam seam, int turn, Router router,
                    Layer.Builder layer) {
        int[] seams = new int[loops.size()];
        for (int i = 0; i < seams.length; i++) {
            seams[i] = loops.get(i).type() == PathType.OUTER_WALL ? seam(loops.get(i).points(), seam, turn) : -1;
        }
        boolean[] laid = new boolean[loops.size()];
        for (int done = 0; done < laid.length; done++) {
            int nearest = -1;
            double least = Double.POSITIVE_INFINITY;
            for (int i = 0; i < laid.length; i++) {
                double distance = laid[i] ? 0 : squared(loops.get(i).points(), Math.max(0, seams[i]), layer);
                if (!laid[i] && distance < least) {
                    least = distance;
                    nearest = i;
                }
            }
            laid[nearest] = true;
            double[] points = loops.get(nearest).points();
            int start = seams[nearest] >= 0 ? seams[nearest] : nearestOn(points, layer);
            router.to(points[start], points[start + 1]);
            layer.path(loops.get(nearest).type(), widthMm, areaMm2);
            for (int i = 0; i <= points.length; i += 2) {
                int at = (start + i) % points.length;
                layer.point(points[at], points[at + 1]);
            }
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
