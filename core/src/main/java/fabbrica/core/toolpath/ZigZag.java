package fabbrica.core.toolpath;

import java.util.ArrayList;
import java.util.List;
import java.util.stream.IntStream;

/**
 * Lays hatch lines to and fro: stretches on neighbouring lines that overlap are strung together and followed in
 * alternating direction; of the strings, the one with the nearest end comes next.
 */
final class ZigZag {

    private final HatchLines hatch;
    private final double shortest;
    private final List<List<int[]>> strings = new ArrayList<>();

    private ZigZag(HatchLines hatch, double shortest) {
        this.hatch = hatch;
        this.shortest = shortest;
    }

    /** @param shortestMm stretches below this length are left out */
    static ZigZag of(HatchLines hatch, double shortestMm) {
        ZigZag zigZag = new ZigZag(hatch, shortestMm);
        zigZag.string();
        return zigZag;
    }

    int stringCount() {
        return strings.size();
    }

    /** The middle of a string's first stretch. */
    double[] within(int string) {
        int[] stretch = strings.get(string).getFirst();
        double along = (along(stretch, false) + along(stretch, true)) / 2;
        return new double[] {hatch.x(stretch[0], along), hatch.y(stretch[0], along)};
    }

    /** A stretch is a line and its number on it; strings whose last stretch lies one line back may go on. */
    private void string() {
        List<List<int[]>> growing = new ArrayList<>();
        for (int line = 0; line < hatch.lineCount(); line++) {
            List<List<int[]>> grown = new ArrayList<>();
            int candidate = 0;
            for (int stretch = 0; stretch < hatch.stretchCount(line); stretch++) {
                double from = hatch.from(line, stretch), to = hatch.to(line, stretch);
                if (to - from < shortest) {
                    continue;
                }
                while (candidate < growing.size() && end(growing.get(candidate)) <= from) {
                    candidate++;
                }
                List<int[]> string;
                if (candidate < growing.size() && start(growing.get(candidate)) < to) {
                    string = growing.get(candidate++);
                } else {
                    string = new ArrayList<>();
                    strings.add(string);
                }
                string.add(new int[] {line, stretch});
                grown.add(string);
            }
            growing = grown;
        }
    }

    private double start(List<int[]> string) {
        return hatch.from(string.getLast()[0], string.getLast()[1]);
    }

    private double end(List<int[]> string) {
        return hatch.to(string.getLast()[0], string.getLast()[1]);
    }

    void lay(PathType type, double widthMm, double areaMm2, Router router, Layer.Builder layer) {
        lay(IntStream.range(0, strings.size()).toArray(), type, widthMm, areaMm2, router, layer);
    }

    /** Lays some of the strings. */
    void lay(int[] some, PathType type, double widthMm, double areaMm2, Router router, Layer.Builder layer) {
        boolean[] laid = new boolean[some.length];
        for (int done = 0; done < laid.length; done++) {
            int nearest = -1;
            int entry = 0;
            double least = Double.POSITIVE_INFINITY;
            for (int i = 0; i < laid.length; i++) {
                for (int e = 0; e < 4 && !laid[i]; e++) {
                    int[] stretch = e < 2 ? strings.get(some[i]).getFirst() : strings.get(some[i]).getLast();
                    double along = along(stretch, e % 2 == 1);
                    double dx = hatch.x(stretch[0], along) - layer.lastX();
                    double dy = hatch.y(stretch[0], along) - layer.lastY();
                    if (dx * dx + dy * dy < least) {
                        least = dx * dx + dy * dy;
                        nearest = i;
                        entry = e;
                    }
                }
            }
            laid[nearest] = true;
            follow(strings.get(some[nearest]), entry, type, widthMm, areaMm2, router, layer);
        }
    }

    /** @param entry 0 or 1: from the first line's low or high end; 2 or 3: from the last line's */
    private void follow(List<int[]> string, int entry, PathType type, double widthMm, double areaMm2, Router router,
                        Layer.Builder layer) {
        List<int[]> order = entry < 2 ? string : string.reversed();
        boolean fromHigh = entry % 2 == 1;
        for (int[] stretch : order) {
            double begin = along(stretch, fromHigh), finish = along(stretch, !fromHigh);
            double x = hatch.x(stretch[0], begin), y = hatch.y(stretch[0], begin);
            router.to(x, y);
            layer.path(type, widthMm, areaMm2);
            layer.point(x, y);
            layer.point(hatch.x(stretch[0], finish), hatch.y(stretch[0], finish));
            fromHigh = !fromHigh;
        }
    }

    private double along(int[] stretch, boolean high) {
        return high ? hatch.to(stretch[0], stretch[1]) : hatch.from(stretch[0], stretch[1]);
    }
}
