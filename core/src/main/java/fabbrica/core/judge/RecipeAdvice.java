package fabbrica.core.judge;

import fabbrica.core.inspect.Inspection;
import fabbrica.core.inspect.PrintLimits;
import fabbrica.core.recipe.Recipe;
import fabbrica.core.recipe.RecipeField;
import fabbrica.core.recipe.RecipeValues;
import java.util.ArrayList;
import java.util.List;

/**
 * A value of the recipe that a part as it lies asks for beyond what it would be printed with.
 *
 * @param advised as the field has it of a recipe
 * @param usual   the same without the advice
 * @param reason  a sentence
 */
public record RecipeAdvice(RecipeField field, Object advised, Object usual, String reason) {

    /** @param usual the recipe without advice */
    public static List<RecipeAdvice> of(Inspection inspection, PrintLimits limits, boolean raftAlways, Recipe usual) {
        List<RecipeAdvice> advice = new ArrayList<>();
        SupportAdvice supports = SupportAdvice.of(inspection, limits);
        if (supports.wanted() && !usual.propped()) {
            advice.add(of(RecipeField.SUPPORTS, usual.with(usual.supports().with(supports.where())), usual, supports.reason()));
        }
        AdhesionAdvice hold = AdhesionAdvice.of(inspection.stand(), raftAlways);
        if (hold.exceeds(usual.adhesion())) {
            advice.add(of(RecipeField.ADHESION, usual.with(hold.adhesion()), usual, hold.reason()));
        }
        return List.copyOf(advice);
    }

    private static RecipeAdvice of(RecipeField field, Recipe advised, Recipe usual, String reason) {
        return new RecipeAdvice(field, field.of(advised), field.of(usual), reason);
    }

    /** Whether a recipe follows it. */
    public boolean isIn(Recipe recipe) {
        return field.of(recipe).equals(advised);
    }

    /** A recipe that follows all of some advice. */
    public static Recipe put(Recipe recipe, List<RecipeAdvice> advice) {
        RecipeValues values = RecipeValues.of(recipe);
        for (RecipeAdvice each : advice) {
            values = values.with(each.field, each.advised);
        }
        return values.recipe(recipe.lines().zones());
    }
}
