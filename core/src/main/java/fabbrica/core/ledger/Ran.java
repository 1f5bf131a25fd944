package fabbrica.core.ledger;

import java.time.Instant;
import java.time.YearMonth;

/**
 * A run that has ended, as its machine had it.
 *
 * @param month  in which it was started
 * @param within how its time stood to what was promised
 */
public record Ran(String printer, YearMonth month, Instant from, double seconds, boolean failed, Within within) {

    /** {@code UNTOLD} when it failed, or nobody has measured its time. */
    public enum Within { UNTOLD, SOONER, IN_RANGE, LATER }

    /** @param earliestS with {@code latestS} the bounds of what was promised */
    public static Within within(double seconds, double earliestS, double latestS) {
        return seconds < earliestS ? Within.SOONER : seconds > latestS ? Within.LATER : Within.IN_RANGE;
    }
}
