package fabbrica.web.stores;

import fabbrica.core.recipe.Spool;
import java.time.LocalDate;

/**
 * A spool on the shelf.
 *
 * @param openedOn null while it is sealed
 * @param retired  taken off the shelf; kept because past runs name it
 */
public record StockSpool(long id, Spool spool, double initialG, LocalDate openedOn, boolean retired) {

    /** Whole per cent left, 0 to 100. */
    public int percentLeft() {
        return (int) Math.clamp(Math.round(100 * spool.remainingG() / initialG), 0, 100);
    }
}
