package fabbrica.web.learn;

import fabbrica.core.learn.ControlChart;
import fabbrica.core.learn.ControlChart.Point;
import fabbrica.core.learn.Rate;
import fabbrica.web.platform.Svg;
import java.util.List;

/** Draws shares with the bounds within which they lie, and control charts. */
final class ReliabilityChart {

    private static final double WIDE = 120;
    private static final double HIGH = 12;
    private static final double LIMIT = 40;
    private static final double CHART_WIDE = 720;
    static final int MOST = 400;

    private ReliabilityChart() {
    }

    /** A share as a mark, its bounds as a line; all drawn on a scale up to {@code most}. */
    static String of(Rate rate, double most) {
        Svg svg = new Svg();
        svg.open("svg", "class", "rate", "viewBox", "0 0 %s %s".formatted(Math.round(WIDE), Math.round(HIGH)), "aria-hidden", "true");
        double scale = WIDE / most;
        svg.leaf("line", "class", "within", "x1", scale * rate.least(), "x2", Math.min(WIDE, scale * rate.most()), "y1", HIGH / 2, "y2", HIGH / 2);
        return svg.leaf("circle", "cx", Math.min(WIDE - 4, Math.max(4, scale * rate.share())), "cy", HIGH / 2, "r", 4).toString();
    }

    /** The latest runs: above the middle the sum for a rate that grows, below it the one for a rate that falls; a failure is a tick, a line the limit. */
    static String of(ControlChart chart) {
        List<Point> points = chart.points().subList(Math.max(0, chart.points().size() - MOST), chart.points().size());
        double step = CHART_WIDE / Math.max(1, points.size());
        Svg svg = new Svg();
        svg.open("svg", "class", "watched", "viewBox", "0 0 %s %s".formatted(Math.round(CHART_WIDE), Math.round(2 * LIMIT + 20)), "preserveAspectRatio", "none", "aria-hidden", "true");
        svg.leaf("line", "class", "limit", "x1", 0, "x2", CHART_WIDE, "y1", 10, "y2", 10).leaf("line", "class", "limit", "x1", 0, "x2", CHART_WIDE, "y1", 2 * LIMIT + 10, "y2", 2 * LIMIT + 10);
        StringBuilder worse = new StringBuilder("M0 " + Math.round(LIMIT + 10)), better = new StringBuilder(worse);
        for (int i = 0; i < points.size(); i++) {
            Point point = points.get(i);
            double x = (i + 1) * step;
            worse.append(Svg.path("L", x, " ", LIMIT + 10 - LIMIT * Math.min(1.2, point.worse())));
            better.append(Svg.path("L", x, " ", LIMIT + 10 + LIMIT * Math.min(1.2, point.better())));
            if (point.failed()) {
                svg.leaf("line", "class", "failed", "x1", x, "x2", x, "y1", LIMIT + 7, "y2", LIMIT + 13);
            }
        }
        return svg.leaf("path", "class", "worse", "d", worse.toString()).leaf("path", "class", "better", "d", better.toString()).toString();
    }
}
