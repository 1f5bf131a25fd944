package fabbrica.core.schedule;

import fabbrica.core.schedule.FloorView.Waiting;
import java.time.Duration;
import java.time.Instant;
import java.util.Arrays;
import java.util.Collection;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.Optional;
import java.util.Random;
import java.util.function.Function;

/**
 * By when plates of a plan are printed, in how many of a hundred cases: the plan is carried out again and again, each print as
 * long as it may turn out to be, in the order and on the machines of the plan, each as soon as the rules allow. So a chain of
 * prints that runs into the night is late by a night, and no margin is added to anything.
 */
public final class Chances {

    private static final int WORLDS = 400;

    private final Map<Long, long[]> endsS;
    private final Instant now;

    private Chances(Map<Long, long[]> endsS, Instant now) {
        this.endsS = endsS;
        this.now = now;
    }

    /**
     * @param takes  of each plate of the plan, on the machine where it is printed
     * @param goesOn of each machine that prints now: how long it still takes; nothing for an idle one
     * @param seed   the same for the same answer
     */
    public static Chances of(FloorView view, Schedule schedule, Function<Long, Spread> takes, Function<String, Optional<Spread>> goesOn, long seed) {
        Timing timing = new Timing(view.with(view.waiting().stream().map(Chances::atTheSoonest).toList()));
        int[] option = timing.optionsOf(schedule), order = timing.orderOf(schedule);
        Spread[] spreads = view.waiting().stream().map(plate -> schedule.of(plate.plate()).isPresent() ? takes.apply(plate.plate()) : Spread.exactly(
                Duration.ZERO)).toArray(Spread[]::new);
        Map<Long, long[]> ends = new HashMap<>();
        schedule.slots().forEach(slot -> ends.put(slot.plate(), new long[WORLDS]));
        Random random = new Random(seed);
        for (int world = 0; world < WORLDS; world++) {
            for (int j = 0; j < timing.plates; j++) {
                if (option[j] >= 0) {
                    timing.takes(option[j], spreads[j].seconds(random.nextGaussian()));
                }
            }
            for (int i = 0; i < timing.machines; i++) {
                Optional<Spread> rest = goesOn.apply(view.machines().get(i).id());
                if (rest.isPresent()) {
                    timing.ready(i, rest.get().seconds(random.nextGaussian()));
                }
            }
            timing.lay(order, order.length, option, Long.MAX_VALUE);
            for (int j = 0; j < timing.plates; j++) {
                long[] seen = ends.get(view.waiting().get(j).plate());
                if (seen != null) {
                    seen[world] = timing.chosen[j] < 0 ? Timing.NEVER : timing.end[j];
                }
            }
        }
        return new Chances(ends, view.now());
    }

    /** What is pinned starts then or, when its machine is late, later. */
    private static Waiting atTheSoonest(Waiting plate) {
        return plate.pinned() == null ? plate : new Waiting(plate.plate(), plate.options(), plate.pinned().start(), plate.due(), plate.weight(),
                plate.patience(), null, plate.published());
    }

    /**
     * By when a plate is printed in a share of all cases.
     *
     * @param share from 0 to 1
     * @return nothing for a plate that is not in the plan, or that has no place in so many cases
     */
    public Optional<Instant> printedBy(long plate, double share) {
        return printedBy(List.of(plate), share);
    }

    /** By when all of some plates are printed; the last of them may be another one from case to case. */
    public Optional<Instant> printedBy(Collection<Long> plates, double share) {
        if (plates.isEmpty() || !endsS.keySet().containsAll(plates)) {
            return Optional.empty();
        }
        long[] last = new long[WORLDS];
        for (long plate : plates) {
            long[] ends = Objects.requireNonNull(endsS.get(plate));
            Arrays.setAll(last, world -> Math.max(last[world], ends[world]));
        }
        Arrays.sort(last);
        long end = last[Math.clamp((long) Math.ceil(share * WORLDS) - 1, 0, WORLDS - 1)];
        return end == Timing.NEVER ? Optional.empty() : Optional.of(now.plusSeconds(end));
    }
}
