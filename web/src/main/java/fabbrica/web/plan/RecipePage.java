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
 * @param ticks fine ones that are ticked or not
 */
record RecipePage(long ticketId, List<Entry> plain, List<Entry> fine, List<Entry> ticks) {

    /**
     * @param text    a word's code; null for a box that is not ticked
     * @param options of a word; else empty
     */
    record Entry(String name, String label, String unit, String help, @Nullable String text, List<RecipeField.Option> options) {
    }

    static RecipePage of(long ticketId, Recipe recipe) {
        Map<String, String> texts = PlanForm.values(recipe).toSingleValueMap();
        return new RecipePage(ticketId, entries(texts, false, false), entries(texts, true, false), entries(texts, true, true));
    }

    private static List<Entry> entries(Map<String, String> texts, boolean fine, boolean ticks) {
        return Arrays.stream(RecipeField.values()).filter(field -> field.fine() == fine && field.kind() instanceof Flag == ticks)
                .map(field -> new Entry(field.formName(), field.label(), field.unit(), field.help(), texts.get(field.formName()),
                        field.kind() instanceof Choice choice ? choice.options() : List.of())).toList();
    }
}
