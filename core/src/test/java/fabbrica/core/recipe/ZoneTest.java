package fabbrica.core.recipe;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;
import static org.assertj.core.api.Assertions.within;

import fabbrica.core.mesh.model.Bounds;
import fabbrica.core.units.OutOfRange;
import java.util.List;
import org.assertj.core.data.Offset;
import org.junit.jupiter.api.Test;

class ZoneTest {

    private static final Offset<Double> NEARLY = within(1e-9);
    private static final Zone BOX = Zone.box(1, 2, 3, 11, 7, 9);
    private static final Recipe PLAIN = StartingPoint.DAILY_BREAD.recipe(new Nozzle(0.4, false),
            BuiltIn.printer("standard").orElseThrow().kinematics());

    @Test
    void a_box_leaves_what_it_does_not_name_to_the_recipe() {
        assertThat(BOX.infillOr(0.15)).isEqualTo(0.15);
        assertThat(BOX.topLayersOr(4)).isEqualTo(4);
        assertThat(BOX.bottomLayersOr(3)).isEqualTo(3);
        Zone own = BOX.withInfill(0).withClosed(0, 7);
        assertThat(own.infillOr(0.15)).isZero();
        assertThat(own.topLayersOr(4)).isZero();
        assertThat(own.bottomLayersOr(3)).isEqualTo(7);
    }

    @Test
    void it_reaches_the_heights_between_its_own() {
        assertThat(BOX.reaches(2.9)).isFalse();
        assertThat(BOX.reaches(3.1)).isTrue();
        assertThat(BOX.reaches(9)).isFalse();
    }

    @Test
    void placing_it_moves_and_then_turns_it_with_its_part() {
        // (1, 2) moved by (10, 20) is (11, 22); a quarter turn to the left brings it to (−22, 11).
        double[] corners = BOX.placed(10, 20, 90).ring();
        assertThat(corners[0]).isCloseTo(-22, NEARLY);
        assertThat(corners[1]).isCloseTo(11, NEARLY);
        double[] moved = BOX.placed(10, 20, 90).moved(5, -3).ring();
        for (int i = 0; i < corners.length; i += 2) {
            assertThat(moved[i]).isCloseTo(corners[i] + 5, NEARLY);
            assertThat(moved[i + 1]).isCloseTo(corners[i + 1] - 3, NEARLY);
        }
    }

    @Test
    void a_part_in_another_size_has_its_boxes_in_that_size() {
        assertThat(BOX.scaled(2)).isEqualTo(Zone.box(2, 4, 6, 22, 14, 18));
        Recipe boxed = PLAIN.with(PLAIN.lines().withZones(List.of(BOX)));
        assertThat(boxed.scaled(0.5).lines().zones()).containsExactly(BOX.scaled(0.5));
        assertThat(boxed.placed(() -> new Bounds(3, 4, 5, 30, 30, 30), 0).lines().zones()).containsExactly(BOX.placed(3, 4, 0));
        assertThat(PLAIN.placed(() -> new Bounds(3, 4, 5, 30, 30, 30), 90)).isSameAs(PLAIN);
    }

    @Test
    void supports_are_wanted_everywhere_or_in_a_box_that_asks_for_them() {
        assertThat(PLAIN.propped()).isFalse();
        assertThat(PLAIN.with(Supports.of(Supports.Where.BED)).propped()).isTrue();
        assertThat(PLAIN.with(PLAIN.lines().withZones(List.of(BOX.with(Zone.Support.BLOCKED)))).propped()).isFalse();
        assertThat(PLAIN.with(PLAIN.lines().withZones(List.of(BOX.with(Zone.Support.ENFORCED)))).propped()).isTrue();
    }

    @Test
    void impossible_boxes_are_refused_with_what_is_allowed() {
        assertThatThrownBy(() -> Zone.box(0, 0, 0, 0, 1, 1)).isInstanceOf(OutOfRange.class)
                .hasMessage("A box needs some width, depth and height.");
        assertThatThrownBy(() -> BOX.withInfill(1.2)).hasMessage("Infill must be between 0 and 100 %; 120 was given.");
        assertThatThrownBy(() -> BOX.withClosed(-2, 0)).hasMessageContaining("Top layers must be between");
        assertThatThrownBy(() -> Zone.box(0, 0, 0, Double.NaN, 1, 1)).isInstanceOf(OutOfRange.class);
    }

    @Test
    void recipes_that_differ_in_speed_alone_lay_the_same_lines() {
        assertThat(PLAIN.faster(1.5).geometry()).isEqualTo(PLAIN.geometry());
        assertThat(PLAIN.withInfill(0.3).geometry()).isNotEqualTo(PLAIN.geometry());
    }

    @Test
    void thinner_layers_close_the_top_with_more_of_them() {
        Recipe fine = PLAIN.withLayerHeight(PLAIN.layerHeightMm() / 2, PLAIN.firstLayerHeightMm());
        assertThat(fine.topLayers()).isEqualTo(2 * PLAIN.topLayers());
        assertThat(fine.withLayerHeight(0.28, 0.28).topLayers() * 0.28)
                .isCloseTo(PLAIN.topLayers() * PLAIN.layerHeightMm(), within(0.15));
    }

    @Test
    void the_labs_own_lines_name_the_materials_temperatures() {
        assertThat(OwnWay.lines("M140 S{bed}\r\n\n  M109 S{nozzle} ; {bed}\n", 215, 60))
                .containsExactly("M140 S60", "M109 S215 ; 60");
        assertThat(OwnWay.lines(OwnWay.NONE.start(), 215, 60)).isEmpty();
    }
}
