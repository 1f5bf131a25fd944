package fabbrica.core.schedule;

import java.time.Duration;
import java.time.Instant;
import java.util.List;
import org.jspecify.annotations.Nullable;

/** What a scheduler has to know of a floor: machines, what waits for them, and when somebody is there. */
public record FloorView(Instant now, Calendar calendar, List<Machine> machines, List<Waiting> waiting) {

    public FloorView {
        machines = List.copyOf(machines);
        waiting = List.copyOf(waiting);
    }

    /**
     * A machine.
     *
     * @param until      when what it prints is expected to end; null when it is idle with a clear bed
     * @param down       whether it is out of order
     * @param back       when it is expected back; null when nobody knows
     * @param unattended whether it may run while nobody is there
     * @param loaded     the spool in it; empty for none
     * @param change     what a change of spool takes
     */
    public record Machine(String id, @Nullable Instant until, boolean down, @Nullable Instant back, boolean unattended, String loaded,
                          Duration change) {
    }

    /**
     * A plate that waits for a machine; those that come earlier in the list go first.
     *
     * @param takes from start to end
     * @param spool it is printed from; empty when none is chosen
     */
    public record Waiting(long plate, String machine, Duration takes, String spool) {
    }
}
