package fabbrica.printsim;

import java.util.EnumMap;
import java.util.Map;
import java.util.Optional;
import java.util.random.RandomGenerator;

/**
 * How often what goes wrong, for each run.
 *
 * @param perRun chance of each fault in a run, together at most 1
 */
public record Odds(Map<Fault, Double> perRun) {

    /** Nothing goes wrong by itself. */
    public static final Odds NEVER = new Odds(Map.of());

    /** About one run in twelve does not go as it should, most of those because it does not hold to the bed (common practice, no source). */
    public static final Odds USUAL = new Odds(Map.of(Fault.OFF_BED, 0.03, Fault.CLOG, 0.01, Fault.SNAG, 0.008, Fault.DOOR_OPEN, 0.006,
            Fault.LOST_CONNECTION, 0.02, Fault.POWER_CUT, 0.002, Fault.RUNAWAY, 0.0005));

    public Odds {
        perRun = Map.copyOf(perRun);
        if (perRun.values().stream().anyMatch(chance -> !(chance >= 0)) || perRun.values().stream().mapToDouble(Double::doubleValue).sum() > 1) {
            throw new IllegalArgumentException("Chances lie between 0 and 1, together no more than 1.");
        }
    }

    /** What goes wrong in one run, if anything. */
    Optional<Fault> draw(RandomGenerator random) {
        double at = random.nextDouble();
        for (Map.Entry<Fault, Double> each : inOrder().entrySet()) {
            at -= each.getValue();
            if (at < 0) {
                return Optional.of(each.getKey());
            }
        }
        return Optional.empty();
    }

    /** In the order of the faults, so that the same seed draws the same. */
    private Map<Fault, Double> inOrder() {
        Map<Fault, Double> ordered = new EnumMap<>(Fault.class);
        ordered.putAll(perRun);
        return ordered;
    }
}
