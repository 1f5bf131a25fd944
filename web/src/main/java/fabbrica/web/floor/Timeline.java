package fabbrica.web.floor;

import fabbrica.core.schedule.Calendar;
import fabbrica.web.floor.FloorController.Queue;
import fabbrica.web.floor.FloorController.Waiting;
import fabbrica.web.platform.Moments;
import fabbrica.web.stores.Inventory;
import java.time.Clock;
import java.time.Duration;
import java.time.Instant;
import java.time.ZonedDateTime;
import java.time.temporal.ChronoUnit;
import java.util.List;
import java.util.Locale;
import org.springframework.stereotype.Component;

/**
 * The floor as a timeline from two hours ago to the next day: a row a printer, closed hours shaded, running prints with
 * their warming and printing, waiting ones outlined where they are expected.
 */
@Component
class Timeline {

    private static final int HOURS = 20;
    private static final int HOURS_BACK = 2;
    private static final double LEFT = 130;
    private static final double WIDTH = 1060;
    private static final double ROW = 44;
    private static final double TOP = 26;
    private static final int LETTERS_PER_PIXEL = 7;

    private final Clock clock;
    private final Inventory inventory;
    private final Moments moments;

    Timeline(Clock clock, Inventory inventory, Moments moments) {
        this.clock = clock;
        this.inventory = inventory;
        this.moments = moments;
    }

    String svg(List<Queue> queues, Calendar calendar) {
        ZonedDateTime from = clock.instant().atZone(inventory.zone()).minusHours(HOURS_BACK).truncatedTo(ChronoUnit.HOURS);
        double height = TOP + ROW * queues.size();
        StringBuilder svg = new StringBuilder(format("<svg class=\"timeline\" viewBox=\"0 0 %.0f %.0f\" role=\"img\" "
                + "aria-label=\"Timeline of all printers\">", LEFT + WIDTH + 24, height + 8));
        nights(svg, from, height, calendar);
        for (int hour = 0; hour <= HOURS; hour += 2) {
            double x = x(from.plusHours(hour).toInstant(), from);
            svg.append(format("<path class=\"hour\" d=\"M%.1f %.1fV%.1f\"/><text class=\"hour\" x=\"%.1f\" y=\"16\" "
                    + "text-anchor=\"middle\">%02d:00</text>", x, TOP - 4, height, x, from.plusHours(hour).getHour()));
        }
        for (int i = 0; i < queues.size(); i++) {
            row(svg, queues.get(i), TOP + i * ROW, from);
        }
        double now = x(clock.instant(), from);
        return svg.append(format("<path class=\"now\" d=\"M%.1f %.1fV%.1f\"/></svg>", now, TOP - 8, height))
                .toString();
    }

    /** All that is not staffed, as far as it is drawn. */
    private static void nights(StringBuilder svg, ZonedDateTime from, double height, Calendar calendar) {
        Instant closed = from.toInstant(), end = from.plusHours(HOURS + 1).toInstant();
        for (Calendar.Staffed staffed : calendar.between(closed, end)) {
            night(svg, closed, staffed.from(), from, height);
            closed = staffed.to();
        }
        night(svg, closed, end, from, height);
    }

    private static void night(StringBuilder svg, Instant closes, Instant opens, ZonedDateTime from, double height) {
        double start = x(closes, from), end = x(opens, from);
        if (end > start) {
            svg.append(format("<rect class=\"night\" x=\"%.1f\" y=\"%.1f\" width=\"%.1f\" height=\"%.1f\">"
                    + "<title>The lab is closed</title></rect>", start, TOP - 4, end - start, height - TOP + 4));
        }
    }

    private void row(StringBuilder svg, Queue queue, double y, ZonedDateTime from) {
        svg.append(format("<text class=\"printer\" x=\"0\" y=\"%.1f\">%s</text><path class=\"row\" "
                + "d=\"M0 %.1fH%.1f\"/>", y + 27, escape(queue.printer().name()), y + ROW, LEFT + WIDTH));
        Run run = queue.running();
        if (run != null) {
            Instant warm = run.startedAt().plus(Duration.ofSeconds(Math.round(run.prepareS())));
            block(svg, "warming", run.startedAt(), warm, y, from, "", "warming up");
            block(svg, "printing", warm, run.promisedEnd(), y, from, run.what(),
                    run.what() + ", promised for " + moments.say(run.promisedEnd()));
        }
        for (Waiting waiting : queue.waiting()) {
            waiting.slot().ifPresent(slot -> block(svg, "waiting", slot.start(), slot.end(), y, from, waiting.plate().name(),
                    waiting.plate().name() + ", expected " + moments.say(slot.start()) + " to " + moments.say(slot.end())));
        }
    }

    private void block(StringBuilder svg, String kind, Instant start, Instant end, double y, ZonedDateTime from,
                       String label, String title) {
        double x0 = x(start, from), x1 = x(end, from);
        if (x1 <= LEFT || x0 >= LEFT + WIDTH) {
            return;
        }
        double width = Math.max(2, x1 - x0);
        int letters = (int) (width / LETTERS_PER_PIXEL) - 1;
        String shown = label.length() <= letters ? label : letters < 4 ? "" : label.substring(0, letters - 1) + "…";
        svg.append(format("<g class=\"%s\"><title>%s</title><rect x=\"%.1f\" y=\"%.1f\" width=\"%.1f\" "
                + "height=\"%.1f\" rx=\"3\"/><text x=\"%.1f\" y=\"%.1f\">%s</text></g>", kind, escape(title), x0,
                y + 8, width, ROW - 16, x0 + 6, y + 27, escape(shown)));
    }

    /** Clipped to the drawn hours. */
    private static double x(Instant moment, ZonedDateTime from) {
        double hours = Duration.between(from.toInstant(), moment).toSeconds() / 3600.0;
        return Math.clamp(LEFT + hours / HOURS * WIDTH, LEFT, LEFT + WIDTH);
    }

    private static String escape(String text) {
        return org.springframework.web.util.HtmlUtils.htmlEscape(text);
    }

    private static String format(String pattern, Object... values) {
        return String.format(Locale.ROOT, pattern, values);
    }
}
