package fabbrica.core.judge;

import fabbrica.core.bed.Layout;
import fabbrica.core.gcode.Replay;
import fabbrica.core.inspect.Inspection;
import fabbrica.core.recipe.Plate;
import java.util.List;
import java.util.Optional;
import org.jspecify.annotations.Nullable;

/**
 * A plate that is to be judged, with what is known of it.
 *
 * @param items    what is on it, each part once; none for a file that was sliced elsewhere
 * @param takes    nothing until it is worked out
 * @param replay   what its file does on the machine, when that was sliced elsewhere and is run as it is; null for a plate by a recipe
 */
public record Job(Plate plate, Layout layout, List<Item> items, Optional<Takes> takes, @Nullable Replay replay) {

    /** A plate by a recipe. */
    public Job(Plate plate, Layout layout, List<Item> items, Optional<Takes> takes) {
        this(plate, layout, items, takes, null);
    }

    /**
     * A part on the plate.
     *
     * @param name        by which people know it
     * @param forLooks    whether it is only to be looked at
     */
    public record Item(String name, Inspection inspection, boolean forLooks) {
    }
}
