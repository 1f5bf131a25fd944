package fabbrica.web.plan;

import fabbrica.core.recipe.Recipe;
import fabbrica.core.recipe.RecipeField;
import fabbrica.core.recipe.RecipeField.Choice;
import fabbrica.core.recipe.RecipeField.Flag;
import java.util.Arrays;
import java.util.List;
import java.util.Map;
import org.jspecify.annotations.Nullable;

/**
 * The fields of a recipe with what stands in them.
 *
 * @param madeFor the starting point and the printer for which it was proposed, as the form sends them back
 * @param line    the recipe in a line
 * @param ticks   fine ones that are ticked or not
 */
record RecipePage(String madeFor, String line, List<Entry> plain, List<Entry> fine, List<Entry> ticks) {

    static final String MADE_FOR = "madeFor";

    /**
     * @param text    a word's code; null for a box that is not ticked
     * @param options of a word; else empty
     */
    record Entry(String name, String label, String unit, String help, @Nullable String text, List<RecipeField.Option> options) {
    }

    static RecipePage of(PlanEntry plan) {
        Map<String, String> texts = PlanForm.values(plan.recipe()).toSingleValueMap();
        return new RecipePage(plan.start().code() + " " + plan.printerId(), line(plan.recipe()), entries(texts, false, false), entries(texts, true, false),
                entries(texts, true, true));
    }

    /** "0.2 mm layers, 3 lines of wall, 15 % infill, skirt, no supports". */
    static String line(Recipe recipe) {
        return "%s layers, %s of wall, %s infill, %s, %s".formatted(RecipeField.LAYER_HEIGHT.spoken(recipe), RecipeField.WALLS.spoken(recipe),
                RecipeField.INFILL.spoken(recipe), recipe.adhesion().label(), recipe.propped() ? "supports " + RecipeField.SUPPORTS.spoken(recipe) : "no supports");
    }

    private static List<Entry> entries(Map<String, String> texts, boolean fine, boolean ticks) {
        return Arrays.stream(RecipeField.values()).filter(field -> field.fine() == fine && field.kind() instanceof Flag == ticks)
                .map(field -> new Entry(field.formName(), field.label(), field.unit(), field.help(), texts.get(field.formName()),
                        field.kind() instanceof Choice choice ? choice.options() : List.of())).toList();
    }
}
