package fabbrica.core.estimate;

import fabbrica.core.estimate.Calibration.Factor;
import java.util.EnumMap;
import java.util.List;
import java.util.Map;
import java.util.function.ToDoubleFunction;

/**
 * What is to be expected of a print: an estimate as it was worked out, and what runs of its printer taught, applied to it. Four in five prints lie
 * within the bounds.
 */
public record Expected(Estimate raw, Calibration by) {

    /** As long as nothing was learned. */
    public static Expected unlearned(Estimate raw) {
        return new Expected(raw, Calibration.NONE);
    }

    /**
     * Of plates that are printed one after another on the same printer.
     *
     * @param plates at least one
     */
    public static Expected together(List<Expected> plates) {
        return new Expected(Estimate.together(plates.stream().map(Expected::raw).toList()), plates.getFirst().by());
    }

    /** Seconds of each phase that takes time. */
    public Map<Phase, Double> secondsByPhase() {
        return by.applied(raw.secondsByPhase());
    }

    public double totalSeconds() {
        return prepareSeconds() + printSeconds();
    }

    /** Before the first line. */
    public double prepareSeconds() {
        return sum(true);
    }

    public double printSeconds() {
        return sum(false);
    }

    /** It is over sooner than that one time in ten. */
    public double earliestSeconds() {
        return totalSeconds() - bound(factor -> factor.usual() - factor.least());
    }

    /** It is over later than that one time in ten. */
    public double latestSeconds() {
        return totalSeconds() + bound(factor -> factor.most() - factor.usual());
    }

    public double grams() {
        return raw.grams() * by.plastic().usual();
    }

    public double leastGrams() {
        return raw.grams() * by.plastic().least();
    }

    public double mostGrams() {
        return raw.grams() * by.plastic().most();
    }

    /** Of the grams, what is purged before the print and at changes. */
    public double purgedGrams() {
        return raw.purgedG() * by.plastic().usual();
    }

    /** Of the grams, what is broken off and thrown away. */
    public double supportGrams() {
        return raw.supportG() * by.plastic().usual();
    }

    public double filamentMm() {
        return raw.filamentMm() * by.plastic().usual();
    }

    private double sum(boolean preparation) {
        return secondsByPhase().entrySet().stream().filter(entry -> entry.getKey().isPreparation() == preparation).mapToDouble(Map.Entry::getValue).sum();
    }

    /** Stages differ independently of one another: their squares add up. */
    private double bound(ToDoubleFunction<Factor> width) {
        Map<Stage, Double> seconds = new EnumMap<>(Stage.class);
        raw.secondsByPhase().forEach((phase, s) -> seconds.merge(phase.stage(), s, Double::sum));
        return Math.sqrt(seconds.entrySet().stream().mapToDouble(entry -> entry.getValue() * width.applyAsDouble(by.of(entry.getKey())))
                .map(each -> each * each).sum());
    }
}
