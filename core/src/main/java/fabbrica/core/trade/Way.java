package fabbrica.core.trade;

import fabbrica.core.recipe.Printer;
import fabbrica.core.recipe.Recipe;

/**
 * One way of printing a part.
 *
 * @param printer  with the nozzle it would have
 * @param turned   whether the part lies in its best pose instead of as it lies
 * @param scale    of the size asked for
 * @param change   what is different from the plan, in a few words
 * @param setupS   work before the start beyond what every print needs: a nozzle to be swapped
 */
public record Way(Printer printer, Recipe recipe, boolean turned, double scale, String change, double setupS) {

    Way with(Recipe other, String difference) {
        return new Way(printer, other, turned, scale, difference, setupS);
    }

    /**
     * Whether this way is in no respect worse than the other but for time, plastic, layers and speed: nozzle as fine, walls as
     * thick, as much inside, supported as well, as large.
     */
    boolean asGoodAs(Way other) {
        return printer.nozzle().boreMm() <= other.printer.nozzle().boreMm() + 1e-9
                && recipe.wallMm() >= other.recipe.wallMm() - 0.05
                && recipe.infill() >= other.recipe.infill() - 1e-9
                && (turned == other.turned && recipe.supports().any() == other.recipe.supports().any()
                        || !recipe.supports().any() && turned && other.recipe.supports().any())
                && scale >= other.scale - 1e-9;
    }
}
