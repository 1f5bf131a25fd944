package fabbrica.core.schedule;

import java.time.Duration;

/** Plates in the order in which they wait, each on the machine that is the first of its options; none overtakes one that finds no place. */
public final class FirstCome implements Scheduler {

    /** Cooling, lifting the print off and putting the plate back (common practice, no source). */
    public static final Duration CLEARING = Duration.ofMinutes(10);

    @Override
    public Schedule plan(FloorView floor, Duration budget) {
        Timing timing = new Timing(floor);
        timing.reset();
        boolean[] stuck = new boolean[timing.machines];
        for (int j = 0; j < timing.plates; j++) {
            int option = timing.firstOption[j];
            if (!timing.isPinned(j) && option < timing.firstOption[j + 1] && !stuck[timing.machineOf[option]]) {
                stuck[timing.machineOf[option]] = !timing.place(j, option);
            }
        }
        timing.finish();
        return timing.schedule();
    }
}
