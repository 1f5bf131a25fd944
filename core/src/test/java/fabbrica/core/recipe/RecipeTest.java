package fabbrica.core.recipe;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;
import static org.assertj.core.api.Assertions.within;

import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.EnumSource;
import org.junit.jupiter.params.provider.ValueSource;

class RecipeTest {

    static Recipe plain() {
        return new Recipe(0.2, 0.2, 0.4, 3, 4, 4, 0.15, InfillPattern.LINES, Adhesion.NONE, 60);
    }

    @Test
    void a_nozzle_of_0_4_lays_layers_of_0_08_to_0_28() {
        // Common practice, no source.
        Nozzle nozzle = new Nozzle(0.4, false);
        assertThat(nozzle.thinnestLayerMm()).isCloseTo(0.08, within(1e-9));
        assertThat(nozzle.thickestLayerMm()).isCloseTo(0.28, within(1e-9));
        assertThat(nozzle.canLay(0.28)).isTrue();
        assertThat(nozzle.canLay(0.3)).isFalse();
    }

    @ParameterizedTest
    @ValueSource(doubles = {0.15, 0.25, 0.4, 0.5, 0.6, 0.8, 0.95})
    void every_starting_point_suits_every_bore(double bore) {
        Nozzle nozzle = new Nozzle(bore, true);
        for (StartingPoint point : StartingPoint.values()) {
            Recipe recipe = point.recipe(nozzle, BuiltIn.printer("standard").orElseThrow().kinematics());
            assertThat(nozzle.canLay(recipe.layerHeightMm())).as(point + " layer").isTrue();
            assertThat(nozzle.canLay(recipe.firstLayerHeightMm())).as(point + " first layer").isTrue();
            assertThat(recipe.lineWidthMm()).isBetween(bore * 0.9, bore * 1.2);
        }
    }

    @Test
    void the_everyday_recipe_is_half_the_bore_with_three_walls_for_0_4() {
        // Usual choice half the bore; about 1 mm of wall hides the infill: common practice, no source.
        Recipe recipe = StartingPoint.DAILY_BREAD.recipe(new Nozzle(0.4, false),
                BuiltIn.printer("standard").orElseThrow().kinematics());
        assertThat(recipe.layerHeightMm()).isCloseTo(0.2, within(1e-9));
        assertThat(recipe.walls()).isEqualTo(3);
        assertThat(recipe.walls() * recipe.lineWidthMm()).isGreaterThan(1.0);
        assertThat(recipe.infill()).isEqualTo(0.15);
    }

    @Test
    void a_line_is_a_rectangle_with_half_round_ends_and_its_neighbours_leave_no_gap() {
        Recipe recipe = plain();
        assertThat(recipe.lineAreaMm2(0.2)).isCloseTo(0.2 * 0.2 + Math.PI * 0.01, within(1e-12));
        assertThat(recipe.lineSpacingMm(0.2) * 0.2).isCloseTo(recipe.lineAreaMm2(0.2), within(1e-12));
    }

    @Test
    void impossible_recipes_are_refused_with_the_allowed_range() {
        assertThatThrownBy(() -> new Recipe(0.2, 0.2, 0.1, 3, 4, 4, 0.15, InfillPattern.LINES, Adhesion.NONE, 60))
                .hasMessage("Line width must be between 0.2 and 4 mm; 0.1 was given.");
        assertThatThrownBy(() -> new Recipe(0.2, 0.2, 0.4, 3, 4, 4, 1.2, InfillPattern.LINES, Adhesion.NONE, 60))
                .hasMessageContaining("Infill must be between 0 and 100 %");
        assertThatThrownBy(() -> new Recipe(0.2, 0.2, 0.4, 0, 0, 0, 0, InfillPattern.LINES, Adhesion.NONE, 60))
                .hasMessageContaining("prints nothing");
    }

    @ParameterizedTest
    @EnumSource(InfillPattern.class)
    void patterns_are_found_by_their_word(InfillPattern pattern) {
        assertThat(InfillPattern.ofCode(pattern.code())).contains(pattern);
        assertThat(pattern.directionsDeg(0)).hasSameSizeAs(pattern.directionsDeg(1));
    }

    @Test
    void heating_takes_the_minutes_people_wonder_about() {
        // Bed heating about 3 minutes, nozzle about 1: common practice, no source.
        Preparation standard = BuiltIn.printer("standard").orElseThrow().preparation();
        assertThat(standard.bedHeatingS(BuiltIn.PLA)).isBetween(120.0, 240.0);
        assertThat(standard.nozzleHeatingS(BuiltIn.PLA)).isBetween(40.0, 100.0);
    }

    @Test
    void a_brim_and_a_raft_take_room_and_a_raft_takes_height() {
        assertThat(Adhesion.BRIM.marginMm(0.4)).isEqualTo(5.4);
        assertThat(Adhesion.SKIRT.marginMm(0.4)).isCloseTo(4.8, within(1e-9));
        assertThat(Adhesion.RAFT.heightMm()).isCloseTo(0.8, within(1e-9));
        assertThat(Adhesion.NONE.marginMm(0.4)).isZero();
    }
}
