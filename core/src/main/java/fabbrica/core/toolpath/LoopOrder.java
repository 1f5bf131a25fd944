package fabbrica.core.toolpath;

import java.util.List;

/** Lays closed loops one after another, always the one with the nearest point next, started at that point. */
final class LoopOrder {

    private LoopOrder() {
    }

    record Loop(double[] points, PathType type) {
    }

    static void lay(List<Loop> loops, Layer.Builder layer) {
        boolean[] laid = new boolean[loops.size()];
        for (int done = 0; done < laid.length; done++) {
            int nearest = -1, start = 0;
            double least = Double.POSITIVE_INFINITY;
            for (int i = 0; i < laid.length; i++) {
                double[] points = loops.get(i).points();
                for (int p = 0; p < points.length && !laid[i]; p += 2) {
                    double dx = points[p] - layer.lastX(), dy = points[p + 1] - layer.lastY();
                    if (dx * dx + dy * dy < least) {
                        least = dx * dx + dy * dy;
                        nearest = i;
                        start = p;
                    }
                }
            }
            laid[nearest] = true;
            double[] points = loops.get(nearest).points();
            layer.path(loops.get(nearest).type(), false);
            for (int i = 0; i <= points.length; i += 2) {
                int at = (start + i) % points.length;
                layer.point(points[at], points[at + 1]);
            }
        }
    }
}
