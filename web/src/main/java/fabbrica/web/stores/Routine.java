package fabbrica.web.stores;

import fabbrica.core.schedule.Task;
import fabbrica.core.units.OutOfRange;
import java.time.Duration;
import java.util.List;
import org.jspecify.annotations.Nullable;

/**
 * What is to be done on a printer again and again: by its hours, by the calendar, or by whichever comes first.
 *
 * @param everyHours of running, 0 for before each print; null when hours do not count; so with days
 * @param takes      somebody's time, at the printer
 * @param who        whoever may do that may do this
 */
public record Routine(String what, @Nullable Double everyHours, @Nullable Integer everyDays, Duration takes, Task who) {

    private static final Duration LONGEST = Duration.ofHours(8);

    /**
     * Schools of keeping the bed, of which a lab takes one, and what is due on any printer now and then (all common practice, no
     * source).
     */
    public static final List<Routine> USUAL = List.of(
            new Routine("Wipe the plate with water and a cloth", 0.0, null, Duration.ofMinutes(1), Task.CLEAR),
            new Routine("Wipe the plate with alcohol", 0.0, null, Duration.ofMinutes(2), Task.CLEAR),
            new Routine("Wash the plate with dish soap and hot water, rinse well", 50.0, null, Duration.ofMinutes(10), Task.CLEAR),
            new Routine("Calibrate bed and first layer", null, 30, Duration.ofMinutes(15), Task.CHANGE_NOZZLE),
            new Routine("Look at the nozzle, change it hot when it is worn", 300.0, null, Duration.ofMinutes(20), Task.CHANGE_NOZZLE),
            new Routine("Tighten the belts, clean and oil what slides", 500.0, 90, Duration.ofMinutes(30), Task.CHANGE_NOZZLE));

    public Routine {
        if (everyHours == null && everyDays == null) {
            throw new OutOfRange("Say after how many hours of running or after how many days it is due, or that it is before each print.");
        }
        if (everyHours != null && everyHours != 0) {
            OutOfRange.check("Hours of running", everyHours, 1, 100_000, "h");
        }
        if (everyDays != null) {
            OutOfRange.check("Days", everyDays, 1, 10_000);
        }
        OutOfRange.check("What it takes", takes.toMinutes(), 0, LONGEST.toMinutes(), "min");
        if (who != Task.CLEAR && who != Task.CHANGE_NOZZLE) {
            throw new OutOfRange("A plate is kept by whoever may clear it, the rest of a printer by whoever may change its nozzle.");
        }
    }

    public boolean beforeEach() {
        return everyHours != null && everyHours == 0;
    }

    /** How often, in a few words. */
    public String often() {
        return beforeEach() ? "before each print" : everyHours == null ? "every %d days".formatted(everyDays)
                : "every %.0f h of running%s".formatted(everyHours, everyDays == null ? "" : " or %d days".formatted(everyDays));
    }
}
