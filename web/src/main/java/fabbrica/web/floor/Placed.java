package fabbrica.web.floor;

import fabbrica.web.plan.Way;
import java.time.Instant;
import org.jspecify.annotations.Nullable;

/**
 * What is decided of a plate: how it is printed and, by its place among the others, when.
 *
 * @param pinned when it is to start, come what may; null while it starts as soon as what is before it allows
 */
record Placed(long plate, Way way, @Nullable Instant pinned) {

    boolean on(String printerId) {
        return way.printerId().equals(printerId);
    }

    Placed with(Way other) {
        return new Placed(plate, other, pinned);
    }

    Placed pinnedAt(@Nullable Instant start) {
        return new Placed(plate, way, start);
    }
}
