package fabbrica.web.floor;

import fabbrica.core.schedule.FirstCome;
import fabbrica.core.schedule.Schedule.Slot;
import fabbrica.core.schedule.Span;
import fabbrica.web.plan.LaidPlate;
import fabbrica.web.platform.Moments;
import fabbrica.web.platform.Svg;
import fabbrica.web.stores.Inventory;
import fabbrica.web.stores.Keyholders;
import fabbrica.web.stores.StockPrinter;
import java.time.Duration;
import java.time.Instant;
import java.time.ZonedDateTime;
import java.time.format.DateTimeFormatter;
import java.time.temporal.ChronoUnit;
import java.util.List;
import java.util.Locale;
import java.util.Objects;
import java.util.Optional;
import java.util.Set;
import java.util.stream.Collectors;
import org.springframework.stereotype.Component;

/**
 * A floor plan as a timeline: a lane a printer, closed hours shaded, each plate with the work before it, its warming, printing and
 * cooling, what prints filled, what waits outlined, and a flag where one is needed.
 */
@Component
class Timeline {

    private static final double LEFT = 130;
    private static final double WIDTH = 1060;
    private static final double ROW = 44;
    private static final double TOP = 26;
    private static final int LETTERS_PER_PIXEL = 7;
    /** Part of what is shown that is over already. */
    private static final int BACK = 13;
    private static final DateTimeFormatter HOUR = DateTimeFormatter.ofPattern("HH:mm", Locale.ENGLISH);
    private static final DateTimeFormatter DATE = DateTimeFormatter.ofPattern("EEE d", Locale.ENGLISH);

    private final Inventory inventory;
    private final Keyholders keyholders;
    private final Moments moments;

    Timeline(Inventory inventory, Keyholders keyholders, Moments moments) {
        this.inventory = inventory;
        this.keyholders = keyholders;
        this.moments = moments;
    }

    /**
     * @param running what prints, as it was promised
     * @param moved   plates that the draft has put elsewhere
     * @param named   whether plates are called by their names; else by the numbers of their tickets, and lead nowhere
     */
    String svg(FloorPlan plan, List<Run> running, Zoom zoom, Set<Long> moved, boolean named) {
        return new Drawing(plan, zoom, moved, named).drawn(running);
    }

    private final class Drawing {

        private final FloorPlan plan;
        private final Zoom zoom;
        private final Set<Long> moved;
        private final boolean named;
        private final ZonedDateTime from;
        private final Instant to;
        private final double height;
        private final Svg svg;

        private Drawing(FloorPlan plan, Zoom zoom, Set<Long> moved, boolean named) {
            this.plan = plan;
            this.zoom = zoom;
            this.moved = moved;
            this.named = named;
            from = plan.view().now().atZone(inventory.zone()).minus(zoom.length().dividedBy(BACK)).truncatedTo(ChronoUnit.HOURS);
            to = from.toInstant().plus(zoom.length());
            height = TOP + ROW * plan.floor().printers().size();
            svg = new Svg().open("svg", "class", "timeline", "viewBox", Svg.path(0, 0, LEFT + WIDTH + 24, height + 8), "role", "group",
                    "aria-label", "Timeline of all printers, " + zoom.label());
        }

        private String drawn(List<Run> running) {
            nights();
            ticks();
            List<StockPrinter> printers = plan.floor().printers();
            for (int i = 0; i < printers.size(); i++) {
                lane(printers.get(i), running(running, printers.get(i)), TOP + i * ROW);
            }
            return svg.leaf("path", "class", "now", "d", Svg.path("M", x(plan.view().now()), TOP - 8, "V", height)).toString();
        }

        private static Optional<Run> running(List<Run> running, StockPrinter printer) {
            return running.stream().filter(run -> run.printerId().equals(printer.id())).findFirst();
        }

        /** All that is not staffed. */
        private void nights() {
            Instant closed = from.toInstant();
            for (Span staffed : keyholders.duty().staffed(closed, to)) {
                night(closed, staffed.from());
                closed = staffed.to();
            }
            night(closed, to);
        }

        private void night(Instant closes, Instant opens) {
            double start = x(closes), end = x(opens);
            if (end > start) {
                svg.open("rect", "class", "night", "x", start, "y", TOP - 4, "width", end - start, "height", height - TOP + 4).text("title", "Nobody is there").close();
            }
        }

        private void ticks() {
            ZonedDateTime first = zoom.isByDay() ? from.truncatedTo(ChronoUnit.DAYS).plusDays(1) : from;
            int step = zoom == Zoom.SHIFT ? 1 : 2;
            for (ZonedDateTime tick = first; !tick.toInstant().isAfter(to); tick = zoom.isByDay() ? tick.plusDays(1) : tick.plusHours(step)) {
                double x = x(tick.toInstant());
                svg.leaf("path", "class", "hour", "d", Svg.path("M", x, TOP - 4, "V", height));
                svg.text("text", (zoom.isByDay() ? DATE : HOUR).format(tick), "class", "hour", "x", x, "y", 16, "text-anchor", "middle");
            }
        }

        private void lane(StockPrinter printer, Optional<Run> run, double y) {
            svg.open("g", "class", "lane", "data-printer", printer.id(), "data-name", printer.name());
            svg.leaf("rect", "class", "ground", "x", LEFT, "y", y, "width", WIDTH, "height", ROW);
            svg.text("text", printer.name(), "class", "printer", "x", 0, "y", y + 27);
            svg.leaf("path", "class", "row", "d", Svg.path("M", 0, y + ROW, "H", LEFT + WIDTH));
            if (printer.outOfOrder()) {
                Instant until = printer.condition().until() == null ? to : printer.condition().until();
                segment("down", plan.view().now(), until, y);
            }
            run.ifPresent(on -> running(on, y));
            for (Placed one : plan.row(printer.id())) {
                plan.slot(one.plate()).ifPresent(slot -> waiting(one, slot, y));
            }
            svg.close();
        }

        private void running(Run run, double y) {
            String label = named ? run.what() : numbers(run.tickets());
            begin("bar runs", "%s, printing, expected %s".formatted(label, moments.say(run.expectedEnd())), "/floor/runs/%d/end".formatted(run.id()), 0);
            Instant warm = run.startedAt().plusSeconds(Math.round(run.prepareS())), over = run.expectedEnd();
            segment("warm", run.startedAt(), warm, y);
            segment("print", warm, over, y);
            if (run.isOverdue(plan.view().now())) {
                segment("over", over, plan.view().now(), y);
                over = plan.view().now();
            }
            segment("cool", over, over.plus(FirstCome.CLEARING), y);
            label(label, warm, over, y);
            svg.close();
        }

        private void waiting(Placed one, Slot slot, double y) {
            Instant over = slot.end().plus(FirstCome.CLEARING);
            boolean late = plan.late(one.plate());
            Instant due = Objects.requireNonNull(plan.claims().get(one.plate())).due();
            LaidPlate plate = plan.plate(one.plate());
            String label = named ? plate.name() : numbers(plate.tickets());
            if (slot.work().isBefore(to)) {
                String needed = due == null ? "" : ", needed %s%s".formatted(moments.say(due), late ? ", too late" : "");
                begin("bar waits" + (late ? " late" : "") + (moved.contains(one.plate()) ? " moved" : ""), "%s, starts %s, printed %s%s%s".formatted(label,
                        moments.say(slot.start()), moments.say(slot.end()), needed, one.pinned() == null ? "" : ", pinned"),
                        "/floor/plates/" + one.plate(), one.plate());
                segment("work", slot.work(), slot.start(), y);
                Instant warm = slot.start().plus(one.way().prepares());
                segment("warm", slot.start(), warm, y);
                segment("print", warm, slot.end(), y);
                segment("cool", slot.end(), over, y);
                label((late ? "■ " : "") + label, warm, slot.end(), y);
                if (one.pinned() != null) {
                    svg.leaf("circle", "class", "pinned", "cx", x(slot.start()), "cy", y + 8, "r", 4);
                }
                svg.close();
            }
            if (due != null && due.isAfter(from.toInstant()) && due.isBefore(to)) {
                svg.open("path", "class", late ? "flag late" : "flag", "d", Svg.path("M", x(due), y + ROW - 2, "V", y + 3, "h", 9, "l", -3, 3.5, "l", 3, 3.5, "h", -9))
                        .text("title", "%s, needed %s".formatted(label, moments.say(due))).close();
            }
        }

        private void begin(String kind, String title, String address, long plate) {
            if (named && plate == 0) {
                svg.open("a", "class", kind, "href", address, "aria-label", title);
            } else if (named) {
                svg.open("a", "class", kind, "href", address, "aria-label", title, "data-plate", plate, "id", "bar-" + plate);
            } else {
                svg.open("g", "class", kind);
            }
            svg.text("title", title);
        }

        private String numbers(List<Long> tickets) {
            return tickets.stream().map(ticket -> "no. " + ticket).collect(Collectors.joining(", "));
        }

        private void segment(String kind, Instant start, Instant end, double y) {
            double x0 = x(start), x1 = x(end);
            if (x1 > x0) {
                svg.leaf("rect", "class", kind, "x", x0, "y", y + 8, "width", x1 - x0, "height", ROW - 16);
            }
        }

        private void label(String label, Instant start, Instant end, double y) {
            double x0 = x(start);
            int letters = (int) ((x(end) - x0) / LETTERS_PER_PIXEL) - 1;
            String shown = label.length() <= letters ? label : letters < 4 ? "" : label.substring(0, letters - 1) + "…";
            svg.text("text", shown, "x", x0 + 6, "y", y + 27);
        }

        /** Clipped to what is drawn. */
        private double x(Instant moment) {
            double part = Duration.between(from.toInstant(), moment).toSeconds() / (double) zoom.length().toSeconds();
            return Math.clamp(LEFT + part * WIDTH, LEFT, LEFT + WIDTH);
        }
    }
}
