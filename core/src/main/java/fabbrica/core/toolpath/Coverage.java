package fabbrica.core.toolpath;

import fabbrica.core.toolpath.HatchLines.Ruling;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.concurrent.ConcurrentHashMap;

/**
 * Which part of a layer's hatch has the part itself above and below: decided line by line against the outlines of the
 * neighbouring layers, exactly, without overlaying areas.
 */
final class Coverage {

    private final Slices slices;
    /** Of whole outlines, layer by layer: each is compared with as many layers as are closed. */
    private final List<Map<Ruling, HatchLines>> hatched = new ArrayList<>();

    Coverage(Slices slices) {
        this.slices = slices;
        for (int layer = 0; layer < slices.count(); layer++) {
            hatched.add(new ConcurrentHashMap<>());
        }
    }

    /** The stretches of {@code hatch} that lie inside the part on so many layers below and above. */
    HatchLines covered(int layer, HatchLines hatch, Ruling ruling, int below, int above) {
        int lowest = layer - below, highest = layer + above;
        if (lowest < 0 || highest >= slices.count()) {
            return HatchLines.none(ruling);
        }
        HatchLines covered = hatch;
        int compared = slices.sameAs(layer);
        for (int other = lowest; other <= highest && !covered.isEmpty(); other++) {
            if (slices.sameAs(other) != slices.sameAs(layer) && slices.sameAs(other) != compared) {
                compared = slices.sameAs(other);
                covered = covered.and(outline(compared, ruling));
            }
        }
        return covered;
    }

    HatchLines outline(int layer, Ruling ruling) {
        int same = slices.sameAs(layer);
        return hatched.get(same).computeIfAbsent(ruling, key -> HatchLines.of(Island.rings(slices.areas(same)), ruling));
    }
}
