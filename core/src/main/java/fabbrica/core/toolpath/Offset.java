package fabbrica.core.toolpath;

import java.util.ArrayList;
import java.util.List;

/**
 * Moves the outlines of areas inwards or outwards, corners kept sharp: each ring by itself ({@link RingOffset}), and then
 * what the moved rings run around more often forwards than backwards.
 *
 * @param areas the moved areas
 * @param plain whether every ring kept to itself, so that nothing was lost but what the corners lose
 */
record Offset(List<Island> areas, boolean plain) {

    /** A corner of less than 45° is a tip: squared cosine of its turn. */
    private static final double SHARP = 0.5;

    static List<Island> inwards(List<Island> areas, double mm) {
        List<Island> moved = new ArrayList<>();
        areas.forEach(area -> moved.addAll(inwards(area, mm).areas()));
        return moved;
    }

    static Offset inwards(Island area, double mm) {
        List<double[]> rings = new ArrayList<>();
        boolean plain = move(area, mm, rings) && area.rings().stream().noneMatch(Offset::hasTip);
        SolidArea solid = SolidArea.positive(rings);
        return new Offset(solid.islands(), plain && solid.plain() && solid.islands().size() == 1);
    }

    /** The rings of an area moved by less than what was found {@link #plain}, so that none can meet another. */
    static List<double[]> plainly(Island area, double mm) {
        List<double[]> rings = new ArrayList<>();
        move(area, mm, rings);
        return rings;
    }

    /** The areas grown; those that come to touch are one. */
    static List<Island> outwards(List<Island> areas, double mm) {
        List<double[]> rings = new ArrayList<>();
        areas.forEach(area -> move(area, -mm, rings));
        return SolidArea.positive(rings).islands();
    }

    /** Whether a corner sticks out so sharply that much of it is lost. */
    private static boolean hasTip(double[] ring) {
        for (int i = 0, b = ring.length - 2, a = b - 2; i < ring.length; a = b, b = i, i += 2) {
            double ux = ring[b] - ring[a], uy = ring[b + 1] - ring[a + 1];
            double vx = ring[i] - ring[b], vy = ring[i + 1] - ring[b + 1];
            double along = ux * vx + uy * vy;
            if (along < 0 && ux * vy - uy * vx > 0
                    && along * along > SHARP * (ux * ux + uy * uy) * (vx * vx + vy * vy)) {
                return true;
            }
        }
        return false;
    }

    /** @return whether no ring vanished */
    private static boolean move(Island area, double mm, List<double[]> into) {
        boolean all = true;
        for (double[] ring : area.rings()) {
            double[] moved = RingOffset.of(ring, mm);
            if (moved.length == 0) {
                all = false;
            } else {
                into.add(moved);
            }
        }
        return all;
    }
}
