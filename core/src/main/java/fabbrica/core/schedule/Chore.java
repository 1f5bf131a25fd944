package fabbrica.core.schedule;

import fabbrica.core.units.OutOfRange;
import java.time.Duration;
import java.time.Instant;
import org.jspecify.annotations.Nullable;

/**
 * What keeps a machine and is owed to it again and again: once it is due it is done before the next start, by whoever starts.
 *
 * @param who           what a person has to be allowed for it
 * @param everyPrinting it is due after so much printing, before each start when that is none; null where printing does not count
 * @param printed       since it was done last
 * @param every         it is due after so much time; null where time does not count
 * @param last          when it was done last
 */
public record Chore(String what, Duration takes, Task who, @Nullable Duration everyPrinting, Duration printed, @Nullable Duration every, Instant last) {

    public Chore {
        if (takes.isNegative() || everyPrinting != null && everyPrinting.isNegative() || every != null && !every.isPositive()) {
            throw new OutOfRange("What keeps a machine takes no less than no time, and is due after some.");
        }
    }
}
