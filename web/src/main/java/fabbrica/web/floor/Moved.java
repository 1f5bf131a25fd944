package fabbrica.web.floor;

import fabbrica.core.schedule.Schedule;
import fabbrica.core.schedule.Schedule.Slot;
import fabbrica.web.plan.LaidPlate;
import fabbrica.web.stores.StockPrinter;
import java.time.Duration;
import java.time.Instant;
import java.util.Collection;
import java.util.Comparator;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import org.jspecify.annotations.Nullable;

/**
 * A plate that is printed at another time, or elsewhere, in one plan than in another.
 *
 * @param neededBy null when there is no hurry
 */
record Moved(LaidPlate plate, Optional<Slot> before, Optional<Slot> after, @Nullable Instant neededBy) {

    /** Nobody minds less (common practice, no source). */
    private static final Duration MINDED = Duration.ofMinutes(10);

    /** Those that would start soonest first, those without a place last. */
    static List<Moved> between(Collection<LaidPlate> plates, Schedule before, Schedule after, Map<Long, Instant> needed) {
        return plates.stream().map(plate -> new Moved(plate, before.of(plate.id()), after.of(plate.id()), needed.get(plate.id()))).filter(Moved::differs)
                .sorted(Comparator.comparing(Moved::then)).toList();
    }

    private boolean differs() {
        return before.isPresent() != after.isPresent() || before.isPresent() && (!before.get().machine().equals(after.orElseThrow().machine())
                || Duration.between(before.get().start(), after.orElseThrow().start()).abs().compareTo(MINDED) >= 0);
    }

    /** Why it moves, a phrase, as far as one thing tells it. */
    String because(FloorPlan plan) {
        Placed one = plan.one(plate.id());
        StockPrinter home = plan.printer(plate.plan().printerId());
        if (after.isEmpty()) {
            return "there is no room for it";
        }
        if (one.pinned() != null) {
            return "it is pinned";
        }
        if (!one.on(home.id())) {
            boolean sooner = before.map(slot -> after.get().end().isBefore(slot.end())).orElse(false);
            return home.outOfOrder() ? "%s is %s".formatted(home.name(), home.condition().said()) : saved() ? "it would be late on " + home.name()
                    : sooner ? "it is printed sooner there" : "it makes room on " + home.name();
        }
        if (before.map(slot -> then().isAfter(slot.start())).orElse(false)) {
            List<Long> row = plan.row(home.id()).stream().map(Placed::plate).toList();
            int at = row.indexOf(plate.id());
            return at > 0 ? plan.plate(row.get(at - 1)).name() + " goes first" : "whoever makes the printer ready is busy with another";
        }
        return saved() ? "it would be late where it was" : "there is room for it sooner";
    }

    /** When it would start then; never as far as anybody knows for one without a place. */
    public Instant then() {
        return after.map(Slot::start).orElse(Instant.MAX);
    }

    private boolean late(Optional<Slot> slot) {
        return neededBy != null && slot.map(there -> there.handOut().isAfter(neededBy)).orElse(true);
    }

    /** Whether it would be too late for somebody for whom it is in time now. */
    public boolean late() {
        return late(after) && !late(before);
    }

    /** Whether it would be in time for somebody for whom it is too late now. */
    public boolean saved() {
        return late(before) && !late(after);
    }
}
