package fabbrica.core.estimate;

import fabbrica.core.toolpath.Milestones.Milestone;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Set;

/**
 * A print from its first to its last minute: what goes on one after another, and what happens when.
 *
 * @param stretches one after another, without gaps
 * @param moments   in their order
 */
public record Course(List<Stretch> stretches, List<Moment> moments, double totalSeconds) {

    private static final Set<Phase> WARMING = Set.of(Phase.HEAT_BED, Phase.HEAT_NOZZLE);
    private static final Set<Phase> READYING = Set.of(Phase.HOME, Phase.LEVEL, Phase.FLOW, Phase.PURGE);

    /**
     * Something that goes on from one second to another.
     *
     * @param laying whether plastic is laid on the part meanwhile
     */
    public record Stretch(String what, boolean laying, double fromS, double toS) {
    }

    /** Something that happens, in seconds from the start. */
    public record Moment(String what, double atS) {
    }

    public Course {
        stretches = List.copyOf(stretches);
        moments = List.copyOf(moments);
    }

    /**
     * What is not any layer's own, such as changes of filament, is shared out among the layers.
     *
     * @param layerSeconds of each layer, at least one
     * @param milestones   by layer, from the bed up
     */
    public static Course of(Map<Phase, Double> phases, List<Double> layerSeconds, List<Milestone> milestones) {
        double warming = sum(phases, WARMING), readying = sum(phases, READYING), parking = phases.getOrDefault(Phase.END, 0.0);
        double total = phases.values().stream().mapToDouble(Double::doubleValue).sum(), printing = total - warming - readying - parking;
        double own = layerSeconds.stream().mapToDouble(Double::doubleValue).sum(), factor = own == 0 ? 0 : printing / own;
        double start = warming + readying, first = start + factor * layerSeconds.getFirst();
        List<Stretch> stretches = new ArrayList<>();
        add(stretches, "warming up", false, 0, warming);
        add(stretches, "levelling and purging", false, warming, start);
        add(stretches, "first layer", true, start, first);
        add(stretches, "the other layers", true, first, total - parking);
        add(stretches, "parking", false, total - parking, total);
        List<Moment> moments = new ArrayList<>();
        double reached = start;
        int next = 0;
        for (Milestone milestone : milestones) {
            for (; next < milestone.layer(); next++) {
                reached += factor * layerSeconds.get(next);
            }
            moments.add(new Moment(milestone.what(), reached));
        }
        return new Course(stretches, moments, total);
    }

    private static void add(List<Stretch> stretches, String what, boolean laying, double from, double to) {
        if (to > from) {
            stretches.add(new Stretch(what, laying, from, to));
        }
    }

    private static double sum(Map<Phase, Double> phases, Set<Phase> some) {
        return some.stream().mapToDouble(phase -> phases.getOrDefault(phase, 0.0)).sum();
    }
}
