package fabbrica.core.inspect;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import fabbrica.core.inspect.Overhang.Patch;
import fabbrica.core.mesh.model.Mesh;
import fabbrica.core.mesh.model.Rotation;
import fabbrica.core.mesh.model.Shapes;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;
import org.locationtech.jts.geom.Polygon;

/** What spans and what does not follows from the drawing of each shape. */
class BridgingTest {

    @ParameterizedTest
    @ValueSource(doubles = {4, 9, 25})
    void a_slot_is_spanned_across_its_width_however_long_it_is(double width) {
        // A block on its side with a slot through it from front to back.
        Polygon section = (Polygon) Shapes.rectangle(0, 0, width + 20, 30)
                .difference(Shapes.rectangle(10, -1, 10 + width, 12));
        Patch slot = onlyPatch(Shapes.extrusion(section, 80).turned(Rotation.bringingDown(0, -1, 0)));
        assertThat(slot.bridgedPart()).isCloseTo(1, within(0.01));
        assertThat(slot.spanMm()).isCloseTo(width, within(0.1));
        assertThat(slot.areaMm2()).isCloseTo(80 * width, within(1e-6));
        assertThat(slot.lowestZMm()).isCloseTo(12, within(1e-9));
    }

    @Test
    void a_round_ceiling_held_all_around_is_a_bridge_of_its_diameter_at_most() {
        Mesh cup = Shapes.revolution(new double[] {8, 0, 12, 0, 12, 20, 0, 20, 0, 15, 8, 15}, 60);
        Patch ceiling = onlyPatch(cup);
        assertThat(ceiling.bridgedPart()).isCloseTo(1, within(0.01));
        assertThat(ceiling.spanMm()).isBetween(15.0, 16.0);
    }

    @Test
    void a_brim_around_a_post_hangs_free_however_narrow_the_post() {
        Mesh hat = Shapes.revolution(new double[] {0, 0, 3, 0, 3, 20, 18, 20, 18, 23, 0, 23}, 60);
        assertThat(onlyPatch(hat).isBridge(100)).isFalse();
    }

    @Test
    void a_table_with_legs_at_its_corners_only_is_spanned_in_part() {
        Mesh table = Shapes.extrusion(Shapes.polygon(0, 0, 6, 0, 6, 14, 34, 14, 34, 0, 40, 0, 40, 18, 0, 18), 20)
                .turned(Rotation.bringingDown(0, -1, 0));
        assertThat(onlyPatch(table).spanMm()).isCloseTo(28, within(0.2));
    }

    private static Patch onlyPatch(Mesh mesh) {
        Overhang overhang = Inspection.of(mesh).overhang();
        assertThat(overhang.patches()).hasSize(1);
        return overhang.patches().getFirst();
    }
}
