package fabbrica.web.plan;

import fabbrica.core.recipe.Printer;
import fabbrica.core.recipe.Recipe;
import fabbrica.core.recipe.Refit;
import fabbrica.core.recipe.StartingPoint;
import org.jspecify.annotations.Nullable;

/**
 * How something is to be printed, and on what.
 *
 * @param printerId empty when none is chosen
 * @param spoolId   null when none is chosen
 * @param fresh     whether levelling and flow calibration were done lately and are skipped
 */
public record PlanEntry(StartingPoint start, Recipe recipe, String printerId, @Nullable Long spoolId, boolean fresh) {

    /** The printer as it gets ready for this plan. */
    public Printer on(Printer printer) {
        return fresh ? printer.with(printer.preparation().fresh()) : printer;
    }

    /** The recipe carried from one machine to another; see {@link Refit}. */
    public Recipe refitted(Printer from, Printer to) {
        return Refit.of(recipe, start.recipe(from.nozzle(), from.kinematics()), start.recipe(to.nozzle(), to.kinematics()), to.nozzle()).recipe();
    }

    public PlanEntry from(@Nullable Long otherSpool) {
        return new PlanEntry(start, recipe, printerId, otherSpool, fresh);
    }

    public PlanEntry with(Recipe other, String otherPrinter) {
        return new PlanEntry(start, other, otherPrinter, spoolId, fresh && otherPrinter.equals(printerId));
    }
}
