package fabbrica.core.estimate;

import java.util.Arrays;
import java.util.Comparator;
import java.util.List;

/**
 * Where the minutes between two prints go, phase by phase, the largest difference first.
 *
 * @param moreSeconds of the second over the first; the sum of all is the difference of their totals
 */
public record Difference(Phase phase, double firstSeconds, double secondSeconds, double moreSeconds) {

    public static List<Difference> between(Expected first, Expected second) {
        return Arrays.stream(Phase.values()).map(phase -> {
            double a = first.secondsByPhase().getOrDefault(phase, 0.0), b = second.secondsByPhase().getOrDefault(phase, 0.0);
            return new Difference(phase, a, b, b - a);
        }).filter(difference -> difference.firstSeconds() > 0 || difference.secondSeconds() > 0)
                .sorted(Comparator.comparingDouble((Difference difference) -> -Math.abs(difference.moreSeconds()))).toList();
    }
}
