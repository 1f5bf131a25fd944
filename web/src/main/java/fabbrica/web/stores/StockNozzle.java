package fabbrica.web.stores;

import fabbrica.core.recipe.Nozzle;
import org.jspecify.annotations.Nullable;

/**
 * A nozzle the lab owns.
 *
 * @param fitting     of the printers it goes into; empty when nobody has said
 * @param hoursBefore it had run before the lab kept records
 * @param mountedIn   the printer it is in; null while it lies in its drawer
 */
public record StockNozzle(long id, Nozzle nozzle, String fitting, String note, double hoursBefore, @Nullable String mountedIn) {

    /** As far as anybody has said. */
    public boolean fits(String otherFitting) {
        return fitting.isEmpty() || otherFitting.isEmpty() || fitting.equalsIgnoreCase(otherFitting);
    }
}
