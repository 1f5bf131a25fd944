package fabbrica.web.stores;

import fabbrica.core.recipe.Nozzle;

/** A nozzle the lab owns. */
public record StockNozzle(long id, Nozzle nozzle, String note) {
}
