package fabbrica.core.learn;

import fabbrica.core.estimate.Phase;
import fabbrica.core.estimate.Stage;
import java.util.Collections;
import java.util.EnumMap;
import java.util.Map;
import java.util.OptionalDouble;

/**
 * A run as it was worked out and as it went.
 *
 * @param promisedS seconds of each stage as they were worked out
 * @param realS     seconds that it really heated and got ready, where it was measured and came to its end
 * @param total     seconds of the whole run, pauses taken off; empty when it was cut short, or nobody has measured
 * @param promisedG grams as they were worked out
 * @param grams     really; empty when it was cut short, or nobody has measured
 */
public record Experience(String printerId, Map<Stage, Double> promisedS, Map<Stage, Double> realS, OptionalDouble total, double promisedG, OptionalDouble grams) {

    public Experience {
        promisedS = copy(promisedS);
        realS = copy(realS);
    }

    /** Seconds of each stage, without what waits for somebody: that is no machine's own. */
    public static Map<Stage, Double> stages(Map<Phase, Double> seconds) {
        Map<Stage, Double> stages = new EnumMap<>(Stage.class);
        seconds.forEach((phase, s) -> stages.merge(phase.stage(), phase == Phase.CHANGE ? 0 : s, Double::sum));
        return stages;
    }

    /** Seconds; 0 of a stage that the run has not. */
    double promised(Stage stage) {
        return promisedS.getOrDefault(stage, 0.0);
    }

    /** Seconds, where they were measured. */
    OptionalDouble real(Stage stage) {
        Double seconds = realS.get(stage);
        return seconds == null ? OptionalDouble.empty() : OptionalDouble.of(seconds);
    }

    private static Map<Stage, Double> copy(Map<Stage, Double> map) {
        Map<Stage, Double> copy = new EnumMap<>(Stage.class);
        copy.putAll(map);
        return Collections.unmodifiableMap(copy);
    }
}
