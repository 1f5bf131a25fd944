package fabbrica.web.stores;

import fabbrica.core.estimate.MachineCost;
import fabbrica.core.inspect.PrintLimits;
import fabbrica.core.judge.UsedBy;
import fabbrica.core.recipe.Printer;

/**
 * A printer the lab owns, with the nozzle that is in it, its place in the house and what the lab has learned of it.
 *
 * @param place           where it stands
 * @param fitting         nozzles of the same fitting go into it; empty when nobody has said
 * @param unattended      whether it may run while nobody is there
 * @param hoursBefore     it had run before the lab kept records
 * @param narrowestGapMm  narrower gaps fuse on it
 * @param longestBridgeMm longer bridges sag on it
 * @param raftAlways      whether the lab prints on a raft here whatever the part
 */
public record StockPrinter(Printer printer, long nozzleId, String place, String fitting, UsedBy usedBy, boolean unattended,
                           Condition condition, MachineCost cost, double hoursBefore, double narrowestGapMm, double longestBridgeMm,
                           boolean raftAlways) {

    /** Ready, for members with its badge, attended only, with the usual gap and bridge, and no raft. */
    public static StockPrinter usual(Printer printer, long nozzleId) {
        return new StockPrinter(printer, nozzleId, "", "", UsedBy.TRAINED, false, Condition.READY, MachineCost.USUAL, 0,
                PrintLimits.USUAL.narrowestGapMm(), PrintLimits.USUAL.longestBridgeMm(), false);
    }

    public StockPrinter with(Condition other) {
        return new StockPrinter(printer, nozzleId, place, fitting, usedBy, unattended, other, cost, hoursBefore, narrowestGapMm,
                longestBridgeMm, raftAlways);
    }

    public StockPrinter with(Printer other) {
        return new StockPrinter(other, nozzleId, place, fitting, usedBy, unattended, condition, cost, hoursBefore, narrowestGapMm,
                longestBridgeMm, raftAlways);
    }

    public StockPrinter at(String otherPlace, boolean alsoUnattended) {
        return new StockPrinter(printer, nozzleId, otherPlace, fitting, usedBy, alsoUnattended, condition, cost, hoursBefore,
                narrowestGapMm, longestBridgeMm, raftAlways);
    }

    public StockPrinter usedBy(UsedBy other) {
        return new StockPrinter(printer, nozzleId, place, fitting, other, unattended, condition, cost, hoursBefore, narrowestGapMm,
                longestBridgeMm, raftAlways);
    }

    public boolean outOfOrder() {
        return condition.down();
    }

    /** In order, or expected back: plates may wait for it. */
    public boolean canBePlanned() {
        return !condition.down() || condition.until() != null;
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
