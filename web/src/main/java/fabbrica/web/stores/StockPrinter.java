package fabbrica.web.stores;

import fabbrica.core.inspect.PrintLimits;
import fabbrica.core.recipe.Printer;

/**
 * A printer the lab owns, with the nozzle that is in it and what the lab has learned of it.
 *
 * @param narrowestGapMm  narrower gaps fuse on it
 * @param longestBridgeMm longer bridges sag on it
 * @param raftAlways      whether the lab prints on a raft here whatever the part
 */
public record StockPrinter(Printer printer, long nozzleId, double narrowestGapMm, double longestBridgeMm,
                           boolean raftAlways, boolean outOfOrder) {

    /** With the usual gap and bridge, and no raft. */
    public static StockPrinter usual(Printer printer, long nozzleId, boolean outOfOrder) {
        return new StockPrinter(printer, nozzleId, PrintLimits.USUAL.narrowestGapMm(),
                PrintLimits.USUAL.longestBridgeMm(), false, outOfOrder);
    }

    /** For lines as wide as its nozzle's bore and layers of half of it. */
    public PrintLimits limits() {
        double bore = printer.nozzle().boreMm();
        return new PrintLimits(bore, bore / 2, narrowestGapMm, longestBridgeMm);
    }

    public String id() {
        return printer.id();
    }

    public String name() {
        return printer.name();
    }
}
