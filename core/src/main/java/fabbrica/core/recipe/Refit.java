package fabbrica.core.recipe;

import java.util.ArrayList;
import java.util.List;

/**
 * A recipe carried from one machine to another: what stood there as it was proposed becomes what is proposed for the other,
 * what somebody has set stays, but for heights and widths that the other's nozzle cannot lay.
 *
 * @param recipe for the other machine, with the boxes of the one
 * @param set    values that somebody had set and that had to give way
 */
public record Refit(Recipe recipe, List<RecipeField> set) {

    /**
     * @param from   what was proposed for the one machine
     * @param to     what is proposed for the other
     * @param nozzle of the other
     */
    public static Refit of(Recipe recipe, Recipe from, Recipe to, Nozzle nozzle) {
        RecipeValues values = RecipeValues.of(recipe);
        List<RecipeField> set = new ArrayList<>();
        for (RecipeField field : RecipeField.values()) {
            boolean asProposed = field.of(recipe).equals(field.of(from));
            if (!asProposed && !suits(field, recipe, nozzle)) {
                set.add(field);
            }
            if (asProposed || !suits(field, recipe, nozzle)) {
                values = values.with(field, field.of(to));
            }
        }
        return new Refit(values.recipe(recipe.lines().zones()), List.copyOf(set));
    }

    private static boolean suits(RecipeField field, Recipe recipe, Nozzle nozzle) {
        return switch (field) {
            case LAYER_HEIGHT -> nozzle.canLay(recipe.layerHeightMm());
            case FIRST_LAYER_HEIGHT -> nozzle.canLay(recipe.firstLayerHeightMm());
            case LINE_WIDTH -> nozzle.canDraw(recipe.lineWidthMm());
            default -> true;
        };
    }
}
