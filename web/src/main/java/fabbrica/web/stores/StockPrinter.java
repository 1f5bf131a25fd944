package fabbrica.web.stores;

import fabbrica.core.recipe.Printer;

/** A printer the lab owns, with the nozzle that is in it. */
public record StockPrinter(Printer printer, long nozzleId, boolean outOfOrder) {

    public String id() {
        return printer.id();
    }

    public String name() {
        return printer.name();
    }
}
