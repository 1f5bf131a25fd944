package fabbrica.web.ledger;

import fabbrica.core.ledger.Occupancy;
import fabbrica.core.ledger.Waits;
import fabbrica.web.platform.Svg;
import java.time.DayOfWeek;

/**
 * Draws what stands in a row of a table, without words, on a screen and on paper alike: colours are given with each mark, for paper, and by its class, for pages
 * by day and by night.
 */
final class UseChart {

    private static final double WIDE = 240;
    private static final double HIGH = 12;
    private static final int HOURS = 24;
    private static final int QUARTER = 6;

    private UseChart() {
    }

    /** A bar on a scale up to {@code most}. */
    static String bar(double value, double most) {
        return drawing(WIDE, HIGH).leaf("rect", "class", "done", "fill", "#1f5d45", "x", 0, "y", 1, "width", most > 0 ? WIDE * value / most : 0, "height", HIGH - 2).toString();
    }

    /** The hours of a day of the week: the fuller a box, the more machines printed; one is full where most did. */
    static String day(Occupancy occupancy, DayOfWeek day) {
        double step = WIDE / HOURS, most = occupancy.most();
        Svg svg = drawing(WIDE, HIGH);
        for (int hour = 0; hour < HOURS; hour++) {
            double high = most > 0 ? occupancy.machines(day, hour) / most * HIGH : 0;
            svg.leaf("rect", "class", "box", "fill", hour / QUARTER % 2 == 0 ? "#f0e4d2" : "#e6dccb", "x", hour * step, "y", 0, "width", step - 0.6, "height", HIGH)
                    .leaf("rect", "class", "done", "fill", "#1f5d45", "x", hour * step, "y", HIGH - high, "width", step - 0.6, "height", high);
        }
        return svg.toString();
    }

    /** How many waited less than a day, a day, two, and so on. */
    static String waits(Waits waits) {
        int[] counts = waits.byDay();
        int most = 1;
        for (int count : counts) {
            most = Math.max(most, count);
        }
        double step = WIDE / counts.length, high = 4 * HIGH;
        Svg svg = drawing(WIDE, high);
        for (int day = 0; day < counts.length; day++) {
            double bar = (high - 1) * counts[day] / most;
            svg.leaf("rect", "class", "done", "fill", "#1f5d45", "x", day * step, "y", high - 1 - bar, "width", step - 2, "height", bar);
        }
        return svg.leaf("line", "class", "ground", "stroke", "#625a50", "x1", 0, "x2", WIDE, "y1", high - 0.5, "y2", high - 0.5).toString();
    }

    private static Svg drawing(double wide, double high) {
        return new Svg().open("svg", "xmlns", "http://www.w3.org/2000/svg", "class", "use", "viewBox", "0 0 %d %d".formatted(Math.round(wide), Math.round(high)), "width", wide,
                "height", high, "preserveAspectRatio", "none", "aria-hidden", "true");
    }
}
