package fabbrica.web.plan;

import fabbrica.core.estimate.Estimate;
import fabbrica.core.estimate.Phase;
import fabbrica.core.estimate.Portions;
import fabbrica.core.judge.Takes;
import java.time.Duration;
import java.util.Map;

/**
 * What a plate takes on its printer, as it was worked out and told.
 *
 * @param phases      seconds of each; empty in promises from before they were kept
 * @param prepareS    seconds before the first line, of the total
 * @param purgedG     of the grams, what is not in any part
 * @param portions    of each copy in the order of the plate
 * @param coreVersion that worked it out
 */
public record Promise(long id, String printerId, Map<Phase, Double> phases, double prepareS, double totalS, double earliestS, double latestS,
                      double grams, double purgedG, Portions portions, String coreVersion) {

    static Promise of(Estimate estimate, Portions portions, String printerId, String coreVersion) {
        return new Promise(0, printerId, estimate.secondsByPhase(), estimate.prepareSeconds(), estimate.totalSeconds(),
                estimate.earliestSeconds(), estimate.latestSeconds(), estimate.grams(), estimate.purgedG(), portions, coreVersion);
    }

    public Takes inAll() {
        return new Takes(grams, totalS);
    }

    public Duration takes() {
        return Duration.ofSeconds(Math.round(totalS));
    }
}
