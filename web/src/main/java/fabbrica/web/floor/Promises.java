package fabbrica.web.floor;

import fabbrica.core.schedule.Chances;
import fabbrica.core.schedule.FirstCome;
import fabbrica.core.schedule.Span;
import fabbrica.core.schedule.Spread;
import fabbrica.web.plan.LaidPlate;
import fabbrica.web.plan.Plates;
import java.time.Duration;
import java.time.Instant;
import java.util.Comparator;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.Optional;
import org.springframework.stereotype.Component;

/** By when what waits can be collected, as it may be promised: in four of five cases it is there by then. */
@Component
class Promises {

    static final double SHARE = 0.8;
    private static final long SEED = 20;

    private final Plates plates;

    Promises(Plates plates) {
        this.plates = plates;
    }

    /** Of each ticket that has plates in the plan, when every copy of it is printed, prints, or has a place. */
    Map<Long, Instant> of(FloorPlan plan) {
        Instant now = plan.view().now();
        Map<String, LaidPlate> running = new HashMap<>();
        plan.floor().open().stream().filter(plate -> plate.until() != null).forEach(plate -> running.put(plate.plan().printerId(), plate));
        Chances chances = Chances.of(plan.view(), plan.schedule(), plate -> plan.one(plate).way().spread(), machine -> Optional.ofNullable(running.get(machine))
                .map(plate -> rest(plate, now)), SEED);
        Map<Long, Instant> promises = new HashMap<>();
        plates.copies(plan.floor().waiting().stream().flatMap(plate -> plate.tickets().stream()).distinct().toList()).forEach((ticket, copies) -> {
            List<LaidPlate> all = plan.floor().open().stream().filter(plate -> plate.tickets().contains(ticket)).toList();
            if (copies.missing() == 0 && all.stream().noneMatch(LaidPlate::isDraft)) {
                chances.printedBy(all.stream().filter(LaidPlate::waits).map(LaidPlate::id).toList(), SHARE).map(printed -> all.stream().map(LaidPlate::until)
                        .filter(Objects::nonNull).max(Comparator.naturalOrder()).filter(until -> until.isAfter(printed)).orElse(printed))
                        .flatMap(printed -> collect(plan, printed)).ifPresent(collect -> promises.put(ticket, collect));
            }
        });
        return promises;
    }

    /** How long what prints still takes. */
    private static Spread rest(LaidPlate plate, Instant now) {
        Spread whole = plate.way().spread();
        Duration gone = Duration.between(Objects.requireNonNull(plate.startedAt()), now);
        return new Spread(left(whole.earliest(), gone), left(whole.usual(), gone), left(whole.latest(), gone));
    }

    private static Duration left(Duration whole, Duration gone) {
        Duration left = whole.minus(gone);
        return left.isNegative() ? Duration.ZERO : left;
    }

    /** When somebody is there to hand out what is printed at a moment, and cool; nothing as long as nobody knows. */
    private static Optional<Instant> collect(FloorPlan plan, Instant printed) {
        Instant cleared = printed.plus(FirstCome.CLEARING);
        return plan.view().staffed().stream().filter(there -> there.to().isAfter(cleared)).findFirst().map(Span::from)
                .map(from -> from.isAfter(cleared) ? from : cleared);
    }
}
