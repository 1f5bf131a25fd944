package fabbrica.core.recipe;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import fabbrica.core.units.OutOfRange;
import java.util.Arrays;
import java.util.List;
import java.util.stream.Stream;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.EnumSource;

class RecipeFieldTest {

    private static final Recipe EVERYDAY = StartingPoint.DAILY_BREAD.recipe(new Nozzle(0.4, false), BuiltIn.printer("standard").orElseThrow().kinematics());

    /** A recipe in which no value is the usual one. */
    private static final Recipe UNUSUAL = RecipeValues.plain(EVERYDAY).with(RecipeField.LAYER_HEIGHT, 0.12).with(RecipeField.WALLS, 5)
            .with(RecipeField.INFILL, 37.5).with(RecipeField.PATTERN, "gyroid").with(RecipeField.ADHESION, "raft").with(RecipeField.SUPPORTS, "bed")
            .with(RecipeField.SUPPORT_ANGLE, 61.0).with(RecipeField.OUTER_SPEED, 31.0).with(RecipeField.TRAVEL_SPEED, 140.0)
            .with(RecipeField.CHANGE_AT, List.of(4.0, 12.5)).with(RecipeField.SEAM, "rear").with(RecipeField.THIN_LINES, false)
            .with(RecipeField.SPIRAL, true).with(RecipeField.INFILL_LINES, 3).recipe(List.of());

    @Test
    void a_recipe_taken_apart_into_its_values_is_put_together_the_same() {
        for (Recipe recipe : List.of(EVERYDAY, UNUSUAL)) {
            RecipeValues values = RecipeValues.none();
            for (RecipeField field : RecipeField.values()) {
                values = values.with(field, field.of(recipe));
            }
            assertThat(values.recipe(recipe.lines().zones())).isEqualTo(recipe);
        }
    }

    @Test
    void fine_values_that_are_not_given_are_as_usual() {
        assertThat(RecipeValues.plain(EVERYDAY).recipe(List.of())).isEqualTo(EVERYDAY);
    }

    @ParameterizedTest
    @EnumSource(RecipeField.class)
    void a_number_outside_its_range_is_refused_with_the_range(RecipeField field) {
        if (field.kind() instanceof RecipeField.Amount) {
            assertThatThrownBy(() -> RecipeValues.plain(EVERYDAY).with(field, 1e7).recipe(List.of())).isInstanceOf(OutOfRange.class)
                    .hasMessageContaining(field.label() + " must be between");
        }
    }

    @Test
    void each_field_has_its_own_name_for_the_shell_for_forms_and_for_json() {
        assertThat(RecipeField.FIRST_LAYER_SPEED.option()).isEqualTo("first-layer-speed");
        assertThat(RecipeField.FIRST_LAYER_SPEED.formName()).isEqualTo("firstLayerSpeed");
        assertThat(RecipeField.FIRST_LAYER_SPEED.jsonName()).isEqualTo("first_layer_speed_mm_s");
        assertThat(Arrays.stream(RecipeField.values()).flatMap(field -> Stream.of(field.jsonName())).distinct()).hasSize(RecipeField.values().length);
        assertThat(RecipeField.INFILL.json(UNUSUAL)).isEqualTo(0.375);
        assertThat(RecipeField.WALLS.json(UNUSUAL)).isEqualTo(5);
    }

    @Test
    void a_value_is_spoken_with_its_unit() {
        assertThat(RecipeField.LAYER_HEIGHT.spoken(UNUSUAL)).isEqualTo("0.12 mm");
        assertThat(RecipeField.SUPPORTS.spoken(UNUSUAL)).isEqualTo("from the bed only");
        assertThat(RecipeField.SUPPORT_ANGLE.spoken(UNUSUAL)).isEqualTo("61° from vertical");
        assertThat(RecipeField.CHANGE_AT.spoken(UNUSUAL)).isEqualTo("4, 12.5 mm");
        assertThat(RecipeField.CHANGE_AT.spoken(EVERYDAY)).isEmpty();
        assertThat(RecipeField.SPIRAL.spoken(UNUSUAL)).isEqualTo("yes");
    }
}
