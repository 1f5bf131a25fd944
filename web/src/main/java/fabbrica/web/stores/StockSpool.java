package fabbrica.web.stores;

import fabbrica.core.recipe.Spool;
import java.time.LocalDate;
import org.jspecify.annotations.Nullable;

/**
 * A spool of the lab.
 *
 * @param number   by which people find it
 * @param netG     plastic on it when it was new
 * @param tareG    the empty reel; null when nobody has weighed one
 * @param openedOn null while it is sealed
 * @param loadedIn the printer it feeds; null while it lies on the shelf
 * @param retired  taken off the shelf; kept because past runs name it
 */
public record StockSpool(long id, int number, Spool spool, String place, double netG, @Nullable Double tareG, double diameterMm,
                         String lot, @Nullable LocalDate openedOn, @Nullable LocalDate driedOn, @Nullable String loadedIn,
                         boolean retired) {

    /** Whole per cent left, 0 to 100. */
    public int percentLeft() {
        return (int) Math.clamp(Math.round(100 * spool.remainingG() / netG), 0, 100);
    }
}
