package fabbrica.core.toolpath;

import fabbrica.core.units.Spoken;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.List;

/** The layers at which something happens that is worth a look before printing, each with what it is. */
public final class Milestones {

    /** @param layer number in the toolpath, from 0 */
    public record Milestone(int layer, String what, String why) {
    }

    /** Something known of the part at a height above the bed. */
    public record Spot(double heightMm, String what, String why) {
    }

    private static final double WORTH_SAYING_MM = 20;

    private final List<Layer> layers;
    private final List<Milestone> found = new ArrayList<>();

    private Milestones(List<Layer> layers) {
        this.layers = layers;
    }

    /**
     * @param spots what else is known of the part
     * @return by layer, from the bed up
     */
    public static List<Milestone> of(Toolpath toolpath, List<Spot> spots) {
        Milestones milestones = new Milestones(toolpath.layers());
        milestones.find(toolpath.changes(), spots);
        return milestones.found.stream().sorted(Comparator.comparingInt(Milestone::layer)).toList();
    }

    private void find(List<Toolpath.Change> changes, List<Spot> spots) {
        if (layers.isEmpty()) {
            return;
        }
        add(0, "first layer", "Everything stands on it: is all of it there, and does it hold?");
        first(PathType.SUPPORT, "supports begin", "Does anything hang free that has none?");
        last(PathType.SUPPORT, "supports end", "What lies on them will carry their marks.");
        longest(PathType.BRIDGE, "longest bridges", "Lines laid over air: they sag when they are long.");
        longest(PathType.THIN_LINE, "most thin lines", "Too thin for two lines of wall: weak, and easily closed up.");
        spots.forEach(spot -> add(at(spot.heightMm()), spot.what(), spot.why()));
        changes.forEach(change -> add(change.layer(), "change of filament", "Planned at %s mm, it lands at %s mm.".formatted(
                Spoken.number(change.plannedMm(), 2), Spoken.number(change.landsAtMm(), 2))));
        add(layers.size() - 1, "top", "Closed, and where it should end?");
    }

    private void first(PathType type, String what, String why) {
        for (int i = 0; i < layers.size(); i++) {
            if (layers.get(i).lengthMm(type) > 0) {
                add(i, what, why);
                return;
            }
        }
    }

    private void last(PathType type, String what, String why) {
        for (int i = layers.size() - 1; i > 0; i--) {
            if (layers.get(i).lengthMm(type) > 0) {
                add(i, what, why);
                return;
            }
        }
    }

    private void longest(PathType type, String what, String why) {
        int most = 0;
        double longest = WORTH_SAYING_MM;
        for (int i = 1; i < layers.size(); i++) {
            double length = layers.get(i).lengthMm(type);
            if (length > longest) {
                longest = length;
                most = i;
            }
        }
        if (most > 0) {
            add(most, what, why);
        }
    }

    private int at(double heightMm) {
        int layer = 0;
        while (layer < layers.size() - 1 && layers.get(layer).topMm() <= heightMm + 1e-6) {
            layer++;
        }
        return layer;
    }

    private void add(int layer, String what, String why) {
        Milestone milestone = new Milestone(layer, what, why);
        if (!found.contains(milestone)) {
            found.add(milestone);
        }
    }
}
