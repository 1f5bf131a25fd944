package fabbrica.core.recipe;

import static org.assertj.core.api.Assertions.assertThat;

import fabbrica.core.recipe.Supports.Where;
import java.util.List;
import org.junit.jupiter.api.Test;

/** Windows of layer heights and line widths: common practice, no source. */
class RefitTest {

    private static final Nozzle USUAL = new Nozzle(0.4, false);
    private static final Nozzle WIDE = new Nozzle(0.6, true);
    private final Recipe from = StartingPoint.DAILY_BREAD.recipe(USUAL, BuiltIn.printer("standard").orElseThrow().kinematics());
    private final Recipe to = StartingPoint.DAILY_BREAD.recipe(WIDE, BuiltIn.printer("standard").orElseThrow().kinematics());

    @Test
    void a_recipe_as_it_was_proposed_becomes_what_is_proposed_for_the_other_nozzle() {
        Refit refit = Refit.of(from, from, to, WIDE);
        assertThat(refit.recipe()).isEqualTo(to);
        assertThat(refit.set()).isEmpty();
    }

    @Test
    void what_somebody_has_set_stays_unless_the_other_nozzle_cannot_lay_it() {
        Recipe own = from.withInfill(0.42).with(Supports.of(Where.BED)).withLayerHeight(0.08, 0.2);
        Refit refit = Refit.of(own, from, to, WIDE);
        assertThat(refit.recipe().infill()).isEqualTo(0.42);
        assertThat(refit.recipe().supports().where()).isEqualTo(Where.BED);
        assertThat(refit.recipe().layerHeightMm()).as("0.08 mm is below the window of a 0.6 mm nozzle").isEqualTo(to.layerHeightMm());
        assertThat(refit.recipe().firstLayerHeightMm()).as("0.2 mm is within").isEqualTo(0.2);
        assertThat(refit.recipe().lineWidthMm()).isEqualTo(to.lineWidthMm());
        assertThat(refit.set()).isEqualTo(List.of(RecipeField.LAYER_HEIGHT));
    }
}
