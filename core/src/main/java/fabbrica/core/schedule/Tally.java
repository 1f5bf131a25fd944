package fabbrica.core.schedule;

import fabbrica.core.schedule.FloorView.Machine;
import fabbrica.core.schedule.FloorView.Option;
import fabbrica.core.schedule.FloorView.Waiting;
import fabbrica.core.schedule.Schedule.Slot;
import java.time.Duration;
import java.time.Instant;
import java.util.Comparator;
import java.util.HashMap;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.Set;
import java.util.stream.Collectors;

/** What a plan costs, rule by rule, in the units of {@link Rules}. */
public record Tally(long lateness, long fairness, long changes, long reliability, long earlyFinish, long stability) {

    private static final Tally NOTHING = new Tally(0, 0, 0, 0, 0, 0);

    public long sum() {
        return lateness + fairness + changes + reliability + earlyFinish + stability;
    }

    public Tally plus(Tally other) {
        return new Tally(lateness + other.lateness, fairness + other.fairness, changes + other.changes, reliability + other.reliability,
                earlyFinish + other.earlyFinish, stability + other.stability);
    }

    public Tally minus(Tally other) {
        return new Tally(lateness - other.lateness, fairness - other.fairness, changes - other.changes, reliability - other.reliability,
                earlyFinish - other.earlyFinish, stability - other.stability);
    }

    /** Of all plates of a plan that wait on the floor. */
    public static Tally of(FloorView view, Schedule schedule) {
        return byPlate(view, schedule).values().stream().reduce(NOTHING, Tally::plus);
    }

    /** What each plate of a plan costs; changes count for the plate for which they are made. */
    public static Map<Long, Tally> byPlate(FloorView view, Schedule schedule) {
        Map<Long, Waiting> plates = new HashMap<>();
        view.waiting().forEach(plate -> plates.put(plate.plate(), plate));
        Set<Long> brought = brought(schedule);
        Map<String, List<Slot>> rows = schedule.slots().stream().filter(slot -> plates.containsKey(slot.plate()))
                .sorted(Comparator.comparing(Slot::work).thenComparing(Slot::end)).collect(Collectors.groupingBy(Slot::machine));
        Map<Long, Tally> tallies = new HashMap<>();
        for (Machine machine : view.machines()) {
            Setup standing = machine.setup();
            for (Slot slot : rows.getOrDefault(machine.id(), List.of())) {
                boolean taken = slot.setup().spool().equals(standing.spool()) && brought.contains(slot.plate());
                tallies.put(slot.plate(), of(view, Objects.requireNonNull(plates.get(slot.plate())), slot, machine.handling().changing(taken ? standing.withoutSpool() : standing,
                        slot.setup())));
                standing = slot.setup();
            }
        }
        return tallies;
    }

    /** Plates whose spool was last on another machine. */
    private static Set<Long> brought(Schedule schedule) {
        Map<String, String> lastOn = new HashMap<>();
        Set<Long> brought = new HashSet<>();
        schedule.slots().stream().filter(slot -> !slot.setup().spool().isEmpty()).sorted(Comparator.comparing(Slot::start)).forEach(slot -> {
            String last = lastOn.put(slot.setup().spool(), slot.machine());
            if (last != null && !last.equals(slot.machine())) {
                brought.add(slot.plate());
            }
        });
        return brought;
    }

    private static Tally of(FloorView view, Waiting plate, Slot slot, Duration changing) {
        Rules rules = view.rules();
        long endS = seconds(view.now(), slot.end()), takesS = seconds(slot.start(), slot.end());
        double failing = plate.options().stream().filter(option -> option.machine().equals(slot.machine()) && option.setup().equals(slot.setup()))
                .mapToDouble(Option::failing).findFirst().orElse(0);
        return new Tally(plate.due() == null ? 0 : rules.lateness(plate.weight(), seconds(view.now(), plate.due()), endS),
                rules.fairness(plate.patience(), endS), rules.changes(changing.toSeconds()), rules.reliability(failing, takesS), rules.earlyFinish(endS),
                plate.published() == null ? 0 : rules.stability(plate.published().machine().equals(slot.machine()), seconds(view.now(), slot.start()),
                        seconds(view.now(), plate.published().start())));
    }

    private static long seconds(Instant from, Instant to) {
        return Duration.between(from, to).toSeconds();
    }
}
