package fabbrica.core.toolpath;

import fabbrica.core.toolpath.HatchLines.Ruling;
import java.util.ArrayList;
import java.util.List;

/**
 * An area that is laid over air, with the direction in which most of its lines are held at both ends, and of those the
 * one with the shortest spans.
 *
 * @param area   over air
 * @param spanMm the longest span held at both ends
 * @param held   share of the ruled length that is held at both ends, 0 to 1
 */
record Bridge(Island area, double directionDeg, double spanMm, double held) {

    private static final int DIRECTIONS = 12;
    /** Below this share it is no bridge: most of it would hang free. */
    private static final double LEAST_HELD = 0.7;
    private static final double SMALLEST_PER_WIDTH = 3;

    /**
     * @param inside what is to be filled on a layer
     * @param below  the areas of the layer below
     */
    static List<Bridge> of(List<Island> inside, List<Island> below, double lineWidthMm) {
        List<Island> air = Offset.outwards(Offset.inwards(SolidArea.minus(inside, Island.rings(below)), lineWidthMm), lineWidthMm);
        List<Bridge> bridges = new ArrayList<>();
        double smallest = SMALLEST_PER_WIDTH * lineWidthMm;
        for (Island area : air) {
            if (area.areaMm2() > smallest * smallest) {
                Bridge bridge = best(area, below, lineWidthMm);
                if (bridge.held() > LEAST_HELD) {
                    bridges.add(bridge);
                }
            }
        }
        return bridges;
    }

    private static Bridge best(Island area, List<Island> below, double widthMm) {
        Bridge best = new Bridge(area, 0, 0, 0);
        double bestMean = Double.POSITIVE_INFINITY;
        for (int i = 0; i < DIRECTIONS; i++) {
            double direction = i * 180.0 / DIRECTIONS;
            HatchLines lines = HatchLines.of(area.rings(), Ruling.of(direction, 2 * widthMm));
            double held = 0, longest = 0;
            int spans = 0;
            for (int line = 0; line < lines.lineCount(); line++) {
                for (int stretch = 0; stretch < lines.stretchCount(line); stretch++) {
                    double from = lines.from(line, stretch), to = lines.to(line, stretch);
                    if (lies(below, lines, line, from - widthMm) && lies(below, lines, line, to + widthMm)) {
                        held += to - from;
                        longest = Math.max(longest, to - from);
                        spans++;
                    }
                }
            }
            double share = lines.isEmpty() ? 0 : held / lines.lengthMm(), mean = held / Math.max(1, spans);
            if (share > best.held() + 0.05 || share > best.held() - 0.05 && mean < bestMean && share > 0) {
                best = new Bridge(area, direction, longest, share);
                bestMean = mean;
            }
        }
        return best;
    }

    private static boolean lies(List<Island> areas, HatchLines lines, int line, double along) {
        double x = lines.x(line, along), y = lines.y(line, along);
        return areas.stream().anyMatch(area -> area.contains(x, y));
    }
}
