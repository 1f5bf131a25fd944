package fabbrica.core.schedule;

import java.time.Duration;
import java.time.Instant;
import java.util.ArrayList;
import java.util.List;

/** When the jobs waiting for one printer will start and end, each after the one before and the time to clear the bed. */
public final class QueueForecast {

    /** Cooling, lifting the print off and putting the plate back (common practice, no source). */
    public static final Duration CLEARING = Duration.ofMinutes(10);

    private QueueForecast() {
    }

    public record Slot(Instant start, Instant end) {
    }

    /**
     * @param now     earliest start
     * @param free    when the printer ends what it prints now; null when it is idle. A run that should have ended is
     *                taken to end now.
     * @param waiting lengths of the waiting jobs in their order
     */
    public static List<Slot> of(Instant now, Instant free, List<Duration> waiting) {
        List<Slot> slots = new ArrayList<>();
        Instant next = free == null ? now : (free.isBefore(now) ? now : free).plus(CLEARING);
        for (Duration length : waiting) {
            slots.add(new Slot(next, next.plus(length)));
            next = next.plus(length).plus(CLEARING);
        }
        return List.copyOf(slots);
    }
}
