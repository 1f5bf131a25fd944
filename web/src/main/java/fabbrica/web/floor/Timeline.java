package fabbrica.web.floor;

import fabbrica.core.schedule.Span;
import fabbrica.web.floor.FloorController.Queue;
import fabbrica.web.floor.FloorController.Waiting;
import fabbrica.web.platform.Moments;
import fabbrica.web.platform.Svg;
import fabbrica.web.stores.Inventory;
import fabbrica.web.stores.Keyholders;
import java.time.Clock;
import java.time.Duration;
import java.time.Instant;
import java.time.ZonedDateTime;
import java.time.temporal.ChronoUnit;
import java.util.List;
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
    private final Keyholders keyholders;
    private final Moments moments;

    Timeline(Clock clock, Inventory inventory, Keyholders keyholders, Moments moments) {
        this.clock = clock;
        this.inventory = inventory;
        this.keyholders = keyholders;
        this.moments = moments;
    }

    String svg(List<Queue> queues) {
        ZonedDateTime from = clock.instant().atZone(inventory.zone()).minusHours(HOURS_BACK).truncatedTo(ChronoUnit.HOURS);
        double height = TOP + ROW * queues.size();
        Svg svg = new Svg().open("svg", "class", "timeline", "viewBox", Svg.path(0, 0, LEFT + WIDTH + 24, height + 8), "role", "img",
                "aria-label", "Timeline of all printers");
        nights(svg, from, height);
        for (int hour = 0; hour <= HOURS; hour += 2) {
            double x = x(from.plusHours(hour).toInstant(), from);
            svg.leaf("path", "class", "hour", "d", Svg.path("M", x, TOP - 4, "V", height));
            svg.text("text", "%02d:00".formatted(from.plusHours(hour).getHour()), "class", "hour", "x", x, "y", 16, "text-anchor", "middle");
        }
        for (int i = 0; i < queues.size(); i++) {
            row(svg, queues.get(i), TOP + i * ROW, from);
        }
        return svg.leaf("path", "class", "now", "d", Svg.path("M", x(clock.instant(), from), TOP - 8, "V", height)).toString();
    }

    /** All that is not staffed, as far as it is drawn. */
    private void nights(Svg svg, ZonedDateTime from, double height) {
        Instant closed = from.toInstant(), end = from.plusHours(HOURS + 1).toInstant();
        for (Span staffed : keyholders.duty().staffed(closed, end)) {
            night(svg, closed, staffed.from(), from, height);
            closed = staffed.to();
        }
        night(svg, closed, end, from, height);
    }

    private static void night(Svg svg, Instant closes, Instant opens, ZonedDateTime from, double height) {
        double start = x(closes, from), end = x(opens, from);
        if (end > start) {
            svg.open("rect", "class", "night", "x", start, "y", TOP - 4, "width", end - start, "height", height - TOP + 4)
                    .text("title", "Nobody is there").close();
        }
    }

    private void row(Svg svg, Queue queue, double y, ZonedDateTime from) {
        svg.text("text", queue.printer().name(), "class", "printer", "x", 0, "y", y + 27);
        svg.leaf("path", "class", "row", "d", Svg.path("M", 0, y + ROW, "H", LEFT + WIDTH));
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

    private static void block(Svg svg, String kind, Instant start, Instant end, double y, ZonedDateTime from, String label, String title) {
        double x0 = x(start, from), x1 = x(end, from);
        if (x1 <= LEFT || x0 >= LEFT + WIDTH) {
            return;
        }
        double width = Math.max(2, x1 - x0);
        int letters = (int) (width / LETTERS_PER_PIXEL) - 1;
        String shown = label.length() <= letters ? label : letters < 4 ? "" : label.substring(0, letters - 1) + "…";
        svg.open("g", "class", kind).text("title", title).leaf("rect", "x", x0, "y", y + 8, "width", width, "height", ROW - 16, "rx", 3)
                .text("text", shown, "x", x0 + 6, "y", y + 27).close();
    }

    /** Clipped to the drawn hours. */
    private static double x(Instant moment, ZonedDateTime from) {
        double hours = Duration.between(from.toInstant(), moment).toSeconds() / 3600.0;
        return Math.clamp(LEFT + hours / HOURS * WIDTH, LEFT, LEFT + WIDTH);
    }
}
