package fabbrica.web.floor;

import fabbrica.core.schedule.Chances;
import fabbrica.core.schedule.FirstCome;
import fabbrica.core.schedule.FloorView;
import fabbrica.core.schedule.Schedule;
import fabbrica.core.schedule.Span;
import fabbrica.core.schedule.Spread;
import fabbrica.web.plan.Forecasts;
import fabbrica.web.plan.LaidPlate;
import fabbrica.web.plan.Plates;
import fabbrica.web.plan.Way;
import java.time.Duration;
import java.time.Instant;
import java.util.Comparator;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.Optional;
import java.util.Set;
import java.util.function.Function;
import java.util.stream.Collectors;
import org.springframework.stereotype.Component;

/** By when what waits can be collected, as it may be promised: in four of five cases it is there by then. */
@Component
public class Promises {

    private static final double SHARE = 0.8;
    private static final long SEED = 20;

    private final Plates plates;

    Promises(Plates plates) {
        this.plates = plates;
    }

    /** Of each ticket that has plates in the plan, when every copy of it is printed, prints, or has a place. */
    Map<Long, Instant> of(FloorPlan plan) {
        Chances chances = chances(plan.floor(), plan.view(), plan.schedule(), plate -> plan.one(plate).way().spread());
        Map<Long, Instant> promises = new HashMap<>();
        plates.copies(plan.floor().waiting().stream().flatMap(plate -> plate.tickets().stream()).distinct().toList()).forEach((ticket, copies) -> {
            if (copies.missing() == 0) {
                collect(plan.floor(), chances, Set.of(ticket)).ifPresent(collect -> promises.put(ticket, collect));
            }
        });
        return promises;
    }

    /** Of some tickets together, such as those of a class, all copies of which print or wait: when the last of them is there. */
    public Optional<Instant> last(Forecasts.Floor floor, Set<Long> tickets) {
        Map<Long, Way> ways = floor.waiting().stream().collect(Collectors.toMap(LaidPlate::id, LaidPlate::way));
        return collect(floor, chances(floor, floor.view(), floor.schedule(), plate -> Objects.requireNonNull(ways.get(plate)).spread()), tickets);
    }

    private static Chances chances(Forecasts.Floor floor, FloorView view, Schedule schedule, Function<Long, Spread> takes) {
        Map<String, LaidPlate> running = floor.open().stream().filter(plate -> plate.until() != null).collect(Collectors.toMap(plate -> plate.plan().printerId(),
                Function.identity()));
        return Chances.of(view, schedule, takes, machine -> Optional.ofNullable(running.get(machine)).map(plate -> rest(plate, view.now())), SEED);
    }

    private static Optional<Instant> collect(Forecasts.Floor floor, Chances chances, Set<Long> tickets) {
        List<LaidPlate> all = floor.open().stream().filter(plate -> plate.tickets().stream().anyMatch(tickets::contains)).toList();
        if (all.stream().anyMatch(LaidPlate::isDraft)) {
            return Optional.empty();
        }
        Optional<Instant> prints = all.stream().map(LaidPlate::until).filter(Objects::nonNull).max(Comparator.naturalOrder());
        List<Long> waiting = all.stream().filter(LaidPlate::waits).map(LaidPlate::id).toList();
        Optional<Instant> printed = waiting.isEmpty() ? prints : chances.printedBy(waiting, SHARE).map(last -> prints.filter(until -> until.isAfter(last)).orElse(last));
        return printed.flatMap(moment -> collect(floor.view().staffed(), moment));
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
    private static Optional<Instant> collect(List<Span> staffed, Instant printed) {
        Instant cleared = printed.plus(FirstCome.CLEARING);
        return staffed.stream().filter(there -> there.to().isAfter(cleared)).findFirst().map(Span::from)
                .map(from -> from.isAfter(cleared) ? from : cleared);
    }
}
