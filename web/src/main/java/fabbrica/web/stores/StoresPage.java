package fabbrica.web.stores;

import fabbrica.core.recipe.Material;
import java.util.List;
import java.util.Map;
import org.jspecify.annotations.Nullable;

/**
 * What there is in the Stores.
 *
 * @param open         the opening hours in words
 * @param shelf        spools that can be used; {@code offShelf} tells whether there were others
 * @param printerNames of each printer, by its key
 * @param hours        that each printer has run, by its key
 * @param due          what is to be done on printers soon
 * @param nozzleHours  that each nozzle has run, by its number
 */
record StoresPage(Lab lab, String open, List<StockSpool> shelf, boolean offShelf, List<StockPrinter> printers, Map<String, String> printerNames,
                  Map<String, Double> hours, List<Maintenance.Due> due, List<StockNozzle> nozzles, Map<Long, Double> nozzleHours,
                  List<Material> materials, List<Keyholder> keyholders) {

    /** @param below the lowest number shown, when there are others */
    record OffShelf(List<StockSpool> spools, List<Material> materials, @Nullable Integer below) {
    }
}
