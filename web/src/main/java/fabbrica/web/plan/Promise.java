package fabbrica.web.plan;

import fabbrica.core.estimate.Expected;
import fabbrica.core.estimate.Phase;
import fabbrica.core.estimate.Portions;
import fabbrica.core.judge.Takes;
import java.time.Duration;
import java.util.Map;

/**
 * What a plate takes on its printer, as it was told: as it was worked out, and what runs had taught by then.
 *
 * @param phases      seconds of each; empty in promises from before they were kept
 * @param prepareS    seconds before the first line, of the total
 * @param earliestS   one time in ten it is over sooner; so latestS, after which it is over one time in ten
 * @param leastG      one time in ten it takes less; so mostG, of which it takes more one time in ten
 * @param purgedG     of the grams, what is not in any part
 * @param supportG    of the grams, what is broken off; 0 in promises from before it was kept
 * @param portions    of each copy in the order of the plate
 * @param coreVersion that worked it out
 * @param runs        of the printer that taught it; 0 for none
 */
public record Promise(long id, String printerId, Map<Phase, Double> phases, double prepareS, double totalS, double earliestS, double latestS,
                      double grams, double leastG, double mostG, double purgedG, double supportG, Portions portions, String coreVersion, int runs, Raw raw) {

    /** As it was worked out, before anything learned. */
    public record Raw(Map<Phase, Double> phases, double totalS, double grams) {
    }

    static Promise of(Expected expected, Portions portions, String printerId, String coreVersion) {
        return new Promise(0, printerId, expected.secondsByPhase(), expected.prepareSeconds(), expected.totalSeconds(),
                expected.earliestSeconds(), expected.latestSeconds(), expected.grams(), expected.leastGrams(), expected.mostGrams(), expected.purgedGrams(), expected.supportGrams(),
                portions, coreVersion, expected.by().runs(),
                new Raw(expected.raw().secondsByPhase(), expected.raw().totalSeconds(), expected.raw().grams()));
    }

    public Takes inAll() {
        return new Takes(grams, totalS);
    }

    public Duration takes() {
        return Duration.ofSeconds(Math.round(totalS));
    }
}
