package fabbrica.core.toolpath;

import java.util.ArrayList;
import java.util.List;

/**
 * Moves the outlines of areas inwards or outwards, corners kept sharp: each ring by itself ({@link RingOffset}), and then
 * what the moved rings run around more often forwards than backwards.
 */
final class Offset {

    private Offset() {
    }

    static List<Island> inwards(List<Island> areas, double mm) {
        List<Island> moved = new ArrayList<>();
        areas.forEach(area -> moved.addAll(inwards(area, mm)));
        return moved;
    }

    static List<Island> inwards(Island area, double mm) {
        return SolidArea.positive(ringByRing(area, mm)).islands();
    }

    /** Whether every ring would keep to itself, so that nothing would be lost but what the corners lose. */
    static boolean isPlain(Island area, double mm) {
        List<double[]> rings = new ArrayList<>();
        if (!move(area, mm, rings)) {
            return false;
        }
        SolidArea solid = SolidArea.positive(rings);
        return solid.plain() && solid.islands().size() == 1;
    }

    /** Each ring of an area moved by itself: none meets another on a way that was found {@link #isPlain}. */
    static List<double[]> ringByRing(Island area, double mm) {
        List<double[]> rings = new ArrayList<>();
        move(area, mm, rings);
        return rings;
    }

    /** The same for an area that is known to stay one, none of whose rings vanishes. */
    static Island plainly(Island area, double mm) {
        List<double[]> rings = ringByRing(area, mm);
        return new Island(rings.getFirst(), rings.subList(1, rings.size()));
    }

    /** The areas grown; those that come to touch are one. */
    static List<Island> outwards(List<Island> areas, double mm) {
        List<double[]> rings = new ArrayList<>();
        areas.forEach(area -> move(area, -mm, rings));
        return SolidArea.positive(rings).islands();
    }

    /** @return whether no ring vanished or lost a tip */
    private static boolean move(Island area, double mm, List<double[]> into) {
        boolean all = true;
        for (double[] ring : area.rings()) {
            RingOffset.Moved moved = RingOffset.of(ring, mm);
            all &= moved.ring().length > 0 && !moved.tip();
            if (moved.ring().length > 0) {
                into.add(moved.ring());
            }
        }
        return all;
    }
}
