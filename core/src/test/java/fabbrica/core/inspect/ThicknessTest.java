package fabbrica.core.inspect;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import fabbrica.core.mesh.model.Mesh;
import fabbrica.core.mesh.model.Rotation;
import fabbrica.core.mesh.model.Shapes;
import fabbrica.core.mesh.repair.Split;
import java.util.List;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;

/** Thickness of shapes whose thickness follows from how they were drawn; tolerance 0.02 mm or 0.5 %. */
class ThicknessTest {

    @ParameterizedTest
    @ValueSource(doubles = {0.3, 0.8, 1.2, 3.0})
    void a_plate_is_as_thick_as_it_was_drawn(double mm) {
        Thickness plate = thickness(Shapes.box(30, 20, mm));
        assertThat(plate.thinnestWallMm()).isCloseTo(mm, within(1e-6));
        assertThat(plate.narrowestGapMm()).isInfinite();
        assertThat(plate.wallAreaThinnerThan(mm + 0.1)).isCloseTo(2 * 30 * 20, within(12.0));
    }

    @ParameterizedTest
    @ValueSource(doubles = {0.4, 1.0, 2.5})
    void a_spherical_shell_is_as_thick_as_the_difference_of_its_radii(double mm) {
        Mesh shell = Split.joined(List.of(Shapes.sphere(20, 160, 81),
                SoundnessTest.reversed(Shapes.sphere(20 - mm, 160, 81))));
        assertThat(thickness(shell).thinnestWallMm()).isCloseTo(mm, within(0.02));
    }

    @Test
    void a_tube_has_its_wall_and_its_bore() {
        Thickness tube = thickness(Shapes.revolution(new double[] {9, 0, 10, 0, 10, 40, 9, 40}, 180));
        assertThat(tube.thinnestWallMm()).isCloseTo(1, within(0.02));
        assertThat(tube.narrowestGapMm()).isCloseTo(18, within(0.02));
    }

    @ParameterizedTest
    @ValueSource(doubles = {0.1, 0.2, 0.35})
    void a_pin_in_a_hole_leaves_the_gap_of_its_radii(double mm) {
        Mesh ring = Shapes.revolution(new double[] {5 + mm, 0, 9, 0, 9, 10, 5 + mm, 10}, 180);
        Mesh pin = Shapes.cylinder(5, 10, 180);
        assertThat(thickness(Split.joined(List.of(ring, pin))).narrowestGapMm()).isCloseTo(mm, within(0.005));
    }

    @Test
    void a_wedge_that_ends_blunt_is_thinnest_at_its_end() {
        Mesh wedge = Shapes.extrusion(Shapes.polygon(0, 0, 20, 0, 20, 5, 0, 1), 12);
        Thickness.ThinPlace thinnest = thickness(wedge).thinPlaces().getFirst();
        assertThat(thinnest.mm()).isCloseTo(1, within(0.02));
        assertThat(thinnest.x()).isCloseTo(0, within(0.1));
    }

    @Test
    void the_edges_of_a_box_are_not_thin() {
        assertThat(thickness(Shapes.box(30, 40, 50)).thinnestWallMm()).isCloseTo(30, within(1e-6));
    }

    @Test
    void a_pin_on_a_plate_is_named_apart_from_it_with_its_size() {
        Mesh pin = Split.joined(List.of(Shapes.box(40, 40, 4), Shapes.cylinder(0.5, 8, 24).moved(20, 20, 4)));
        Thickness.ThinPlace thinnest = thickness(pin).thinPlaces().getFirst();
        assertThat(thinnest.mm()).isCloseTo(1, within(0.02));
        assertThat(thinnest.lengthMm()).isBetween(7.0, 8.1);
        assertThat(thinnest.widthMm()).isLessThan(1.1);
        assertThat(thinnest.z()).isGreaterThan(4);
    }

    @Test
    void turning_changes_nothing_and_scaling_scales() {
        Mesh tube = Shapes.revolution(new double[] {9, 0, 10, 0, 10, 40, 9, 40}, 90);
        double thin = thickness(tube).thinnestWallMm();
        assertThat(thickness(tube.turned(new Rotation(0.9, 0.1, -0.4, 0.3)).moved(7, 8, 9)).thinnestWallMm())
                .isCloseTo(thin, within(1e-6));
        assertThat(thickness(tube.scaled(3)).thinnestWallMm()).isCloseTo(3 * thin, within(1e-6));
    }

    @Test
    void the_smallest_scale_keeps_one_line_of_wall_and_the_gap_open() {
        Mesh ring = Shapes.revolution(new double[] {5.6, 0, 9, 0, 9, 10, 5.6, 10}, 180);
        Thickness joint = thickness(Split.joined(List.of(ring, Shapes.cylinder(5, 10, 180))));
        assertThat(PrintLimits.USUAL.smallestScale(joint)).isCloseTo(0.3 / 0.6, within(0.01));
        assertThat(PrintLimits.USUAL.smallestScale(thickness(Shapes.box(30, 30, 0.8)))).isCloseTo(0.5, within(1e-6));
    }

    private static Thickness thickness(Mesh mesh) {
        return Inspection.of(mesh).thickness();
    }
}
