package fabbrica.core.judge;

import fabbrica.core.bed.Layout;
import fabbrica.core.estimate.Estimate;
import fabbrica.core.inspect.Inspection;
import fabbrica.core.recipe.Plate;
import java.util.List;
import java.util.Optional;

/**
 * A plate that is to be judged, with what is known of it.
 *
 * @param items    what is on it, each part once
 * @param takes    nothing until it is worked out
 */
public record Job(Plate plate, Layout layout, List<Item> items, Optional<Takes> takes) {

    /**
     * A part on the plate.
     *
     * @param name        by which people know it
     * @param forLooks    whether it is only to be looked at
     */
    public record Item(String name, Inspection inspection, boolean forLooks) {
    }
}
