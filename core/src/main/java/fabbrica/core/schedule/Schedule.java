package fabbrica.core.schedule;

import java.time.Instant;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import org.jspecify.annotations.Nullable;

/** Places of plates on machines' timelines, in the order in which they waited. */
public final class Schedule {

    private final List<Slot> slots;
    private final Map<Long, Slot> byPlate = new HashMap<>();

    public Schedule(List<Slot> slots) {
        this.slots = List.copyOf(slots);
        this.slots.forEach(slot -> byPlate.putIfAbsent(slot.plate(), slot));
    }

    public List<Slot> slots() {
        return slots;
    }

    /** Nothing for a plate that cannot be started as far as anybody knows. */
    public Optional<Slot> of(long plate) {
        return Optional.ofNullable(byPlate.get(plate));
    }

    /**
     * A plate's place.
     *
     * @param setup   what the machine is set up with
     * @param person  who starts it; null where people are not told apart
     * @param work    when somebody begins to clear the bed, change filament and nozzle and keep the machine; the start itself when there is nothing to do
     * @param handOut when somebody is there to take it off, once it is cool or after it
     * @param chores  what keeps the machine and is done in that work
     */
    public record Slot(long plate, String machine, Setup setup, @Nullable String person, Instant work, Instant start, Instant end, Instant handOut,
                       List<String> chores) {

        public Slot {
            chores = List.copyOf(chores);
        }
    }
}
