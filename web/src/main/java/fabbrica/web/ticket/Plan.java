package fabbrica.web.ticket;

import fabbrica.core.recipe.Printer;
import fabbrica.core.recipe.Recipe;
import fabbrica.core.recipe.StartingPoint;

/**
 * How somebody means to print a ticket, not settled yet.
 *
 * @param printerId empty when none is chosen
 * @param spoolId   null when none is chosen
 * @param fresh     whether levelling and flow calibration were done lately and are skipped
 */
public record Plan(StartingPoint start, Recipe recipe, String printerId, Long spoolId, boolean fresh) {

    /** The printer as it gets ready for this plan. */
    public Printer on(Printer printer) {
        return fresh ? printer.with(printer.preparation().fresh()) : printer;
    }
}
