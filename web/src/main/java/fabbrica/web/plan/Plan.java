package fabbrica.web.plan;

import fabbrica.core.recipe.Printer;
import fabbrica.core.recipe.Recipe;
import fabbrica.core.recipe.StartingPoint;
import org.jspecify.annotations.Nullable;

/** A plan that is stored under its number and never changed. */
public record Plan(long id, PlanEntry entry) {

    public StartingPoint start() {
        return entry.start();
    }

    public Recipe recipe() {
        return entry.recipe();
    }

    public String printerId() {
        return entry.printerId();
    }

    public @Nullable Long spoolId() {
        return entry.spoolId();
    }

    public boolean fresh() {
        return entry.fresh();
    }

    public Printer on(Printer printer) {
        return entry.on(printer);
    }
}
