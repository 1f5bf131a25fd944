package fabbrica.core.estimate;

import java.util.Collections;
import java.util.EnumMap;
import java.util.Map;
import java.util.Objects;

/**
 * What runs taught about a printer: what of an estimate is to be expected there, and between which bounds. It is applied to an estimate, which stays
 * as it was worked out.
 *
 * @param time    of each stage
 * @param plastic of all grams
 */
public record Calibration(Map<Stage, Factor> time, Factor plastic) {

    /** Until runs have taught better: getting ready is known, most prints take this much less or more (common practice, no source). */
    public static final Calibration NONE = new Calibration(Map.of(Stage.HEATING, Factor.EXACT, Stage.READYING, Factor.EXACT,
            Stage.PRINTING, new Factor(0.95, 1, 1.2, 0)), Factor.EXACT);

    /**
     * What is real for each one that was estimated.
     *
     * @param least  less than that one time in ten
     * @param most   more than that one time in ten
     * @param runs   of this printer that taught it
     */
    public record Factor(double least, double usual, double most, int runs) {

        /** As it was worked out. */
        public static final Factor EXACT = new Factor(1, 1, 1, 0);

        public Factor {
            if (!(0 < least && least <= usual && usual <= most && most < Double.POSITIVE_INFINITY)) {
                throw new IllegalArgumentException("A factor has to be above 0 and within its bounds: %s, %s, %s".formatted(least, usual, most));
            }
        }
    }

    public Calibration {
        if (time.size() < Stage.values().length) {
            throw new IllegalArgumentException("Every stage has its factor.");
        }
        time = Collections.unmodifiableMap(new EnumMap<>(time));
    }

    public Factor of(Stage stage) {
        return Objects.requireNonNull(time.get(stage));
    }

    /** Seconds of each phase as they are to be expected. */
    public Map<Phase, Double> applied(Map<Phase, Double> seconds) {
        Map<Phase, Double> applied = new EnumMap<>(Phase.class);
        seconds.forEach((phase, s) -> applied.put(phase, s * of(phase.stage()).usual()));
        return applied;
    }

    /** How many runs of this printer taught how long it prints. */
    public int runs() {
        return of(Stage.PRINTING).runs();
    }
}
