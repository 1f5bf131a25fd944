package fabbrica.web.plan;

import fabbrica.core.estimate.Expected;
import fabbrica.core.estimate.Phase;
import fabbrica.core.schedule.Spread;
import java.time.Duration;
import java.util.Map;
import org.jspecify.annotations.Nullable;

/**
 * How long a plate takes on a printer from a spool, as is to be expected there.
 *
 * @param spoolId   null when none is chosen
 * @param phases    seconds of each; empty where they were not kept
 * @param prepareS  seconds before the first line, of the total
 * @param earliestS one time in ten it is over sooner; so latestS, after which it is over one time in ten
 */
public record Way(String printerId, @Nullable Long spoolId, Map<Phase, Double> phases, double prepareS, double totalS, double earliestS, double latestS, double grams) {

    static Way of(Expected expected, String printerId, @Nullable Long spoolId) {
        return new Way(printerId, spoolId, expected.secondsByPhase(), expected.prepareSeconds(), expected.totalSeconds(), expected.earliestSeconds(),
                expected.latestSeconds(), expected.grams());
    }

    static Way of(Promise promise, String printerId, @Nullable Long spoolId) {
        return new Way(printerId, spoolId, promise.phases(), promise.prepareS(), promise.totalS(), promise.earliestS(), promise.latestS(), promise.grams());
    }

    /** As long on another printer, as long as nobody knows better. */
    public Way at(String otherPrinterId) {
        return new Way(otherPrinterId, spoolId, phases, prepareS, totalS, earliestS, latestS, grams);
    }

    public Duration takes() {
        return seconds(totalS);
    }

    public Duration prepares() {
        return seconds(prepareS);
    }

    /** How sure the time is; whatever the bounds, no less than usually at the latest. */
    public Spread spread() {
        return new Spread(seconds(Math.min(earliestS, totalS)), takes(), seconds(Math.max(latestS, totalS)));
    }

    private static Duration seconds(double seconds) {
        return Duration.ofSeconds(Math.round(seconds));
    }
}
