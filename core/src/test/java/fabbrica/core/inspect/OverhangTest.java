package fabbrica.core.inspect;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import fabbrica.core.mesh.model.Mesh;
import fabbrica.core.mesh.model.Shapes;
import fabbrica.core.mesh.repair.Split;
import java.util.Arrays;
import java.util.List;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;

/** Areas and angles against closed forms of the shapes drawn; tolerance 0.5 %. */
class OverhangTest {

    @Test
    void the_underside_of_a_cap_hangs_and_the_foot_does_not() {
        Mesh tee = Shapes.revolution(new double[] {0, 0, 5, 0, 5, 20, 15, 20, 15, 25, 0, 25}, 90);
        Inspection inspection = Inspection.of(tee);
        double polygon = 90 / 2.0 * Math.sin(2 * Math.PI / 90);
        assertThat(inspection.overhang().areaSteeperThan(45)).isCloseTo(polygon * (225 - 25), within(1e-6));
        assertThat(inspection.stand().contactMm2()).isCloseTo(polygon * 25, within(1e-6));
        assertThat(inspection.overhang().patches()).hasSize(1);
        assertThat(inspection.overhang().patches().getFirst().lowestZMm()).isEqualTo(20);
        assertThat(inspection.columns().supportMm3()).isCloseTo(polygon * 200 * 20, within(polygon * 200 * 20 * 0.01));
    }

    @ParameterizedTest
    @ValueSource(doubles = {10, 30, 44, 46, 70})
    void a_flare_hangs_at_the_angle_it_was_drawn_with(double degrees) {
        double reach = 10 * Math.tan(Math.toRadians(degrees));
        int sides = 720;
        Mesh cone = Shapes.cone(5, 5 + reach, 10, sides);
        double[] byDegree = Inspection.of(cone).overhang().areaByDegree();
        double slant = Math.PI * (10 + reach) * Math.hypot(10, reach);
        assertThat(Arrays.stream(byDegree).sum()).isCloseTo(slant, within(0.005 * slant));
        double near = byDegree[(int) degrees] + byDegree[(int) degrees - 1];
        assertThat(near).isCloseTo(slant, within(0.005 * slant));
    }

    @Test
    void a_slope_of_just_under_45_degrees_needs_no_support_and_just_over_does() {
        assertThat(Inspection.of(Shapes.cone(5, 14.9, 10, 180)).overhang().areaSteeperThan(45)).isZero();
        assertThat(Inspection.of(Shapes.cone(5, 15.2, 10, 180)).overhang().areaSteeperThan(45)).isPositive();
    }

    @Test
    void half_a_sphere_hangs_steeper_than_45_degrees_below_its_parallel() {
        // Zone between the bed contact at the pole and the parallel at 45°: 2πr²(1 − cos 45°), less the tiny foot.
        double area = Inspection.of(Shapes.sphere(20, 360, 181)).overhang().areaSteeperThan(45);
        double zone = 2 * Math.PI * 400 * (1 - Math.cos(Math.toRadians(45)));
        assertThat(area).isCloseTo(zone, within(0.02 * zone));
    }

    @Test
    void a_lintel_between_two_posts_is_a_bridge_of_their_distance() {
        Mesh gate = Shapes.extrusion(Shapes.polygon(0, 0, 5, 0, 5, 15, 23, 15, 23, 0, 28, 0, 28, 20, 0, 20), 6)
                .turned(fabbrica.core.mesh.model.Rotation.bringingDown(0, -1, 0));
        Overhang overhang = Inspection.of(gate).overhang();
        assertThat(overhang.patches()).hasSize(1);
        Overhang.Patch lintel = overhang.patches().getFirst();
        assertThat(lintel.bridgedPart()).isCloseTo(1, within(0.01));
        assertThat(lintel.spanMm()).isCloseTo(18, within(0.1));
        assertThat(lintel.isBridge(20)).isTrue();
        assertThat(lintel.isBridge(10)).isFalse();
        assertThat(overhang.freeAreaMm2(20)).isZero();
    }

    @Test
    void a_shelf_held_at_one_side_is_no_bridge() {
        Mesh shelf = Shapes.extrusion(Shapes.polygon(0, 0, 5, 0, 5, 15, 25, 15, 25, 20, 0, 20), 6)
                .turned(fabbrica.core.mesh.model.Rotation.bringingDown(0, -1, 0));
        assertThat(Inspection.of(shelf).overhang().patches().getFirst().bridgedPart()).isCloseTo(0, within(0.02));
    }

    @Test
    void a_drop_that_hangs_from_an_arm_begins_in_mid_air() {
        Mesh arm = Shapes.extrusion(Shapes.polygon(0, 0, 6, 0, 6, 20, 24, 20, 24, 8, 30, 8, 30, 26, 0, 26), 6)
                .turned(fabbrica.core.mesh.model.Rotation.bringingDown(0, -1, 0));
        List<Place> islands = Inspection.of(arm).islands();
        assertThat(islands).hasSize(1);
        double bed = arm.bounds().minZ();
        assertThat(islands.getFirst().z() - bed).isCloseTo(8, within(1e-9));
    }

    @Test
    void neither_the_foot_nor_a_pit_nor_a_shelf_is_an_island() {
        Mesh cup = Shapes.revolution(new double[] {0, 0, 20, 0, 20, 30, 17, 30, 17, 5, 0, 5}, 60);
        assertThat(Inspection.of(cup).islands()).isEmpty();
        assertThat(Inspection.of(Shapes.sphere(20, 60, 31)).islands()).isEmpty();
        Mesh shelf = Shapes.extrusion(Shapes.polygon(0, 0, 5, 0, 5, 15, 25, 15, 25, 20, 0, 20), 6)
                .turned(fabbrica.core.mesh.model.Rotation.bringingDown(0, -1, 0));
        assertThat(Inspection.of(shelf).islands()).isEmpty();
    }

    @Test
    void a_body_that_begins_inside_another_is_no_island() {
        Mesh post = Split.joined(List.of(Shapes.box(20, 20, 10), Shapes.cylinder(4, 20, 24).moved(10, 10, 5)));
        assertThat(Inspection.of(post).islands()).isEmpty();
        Mesh crossed = Split.joined(List.of(Shapes.box(40, 8, 8), Shapes.box(8, 40, 8).moved(16, -16, 2)));
        assertThat(Inspection.of(crossed).islands()).as("lies across the other in its middle").isEmpty();
        Mesh above = Split.joined(List.of(Shapes.box(20, 20, 10), Shapes.cylinder(4, 20, 24).moved(10, 10, 15)));
        assertThat(Inspection.of(above).islands()).hasSize(1);
    }

    @Test
    void what_stands_on_another_surface_does_not_hang() {
        // A top of 40 × 40 mm that touches a leg of 10 × 10 mm, all bodies of their own: 1600 − 100 mm².
        Mesh table = Shapes.together(Shapes.box(10, 10, 20).moved(15, 15, 0), Shapes.box(40, 40, 4).moved(0, 0, 20));
        Overhang overhang = Inspection.of(table).overhang();
        assertThat(overhang.areaSteeperThan(Overhang.STEEP_DEG)).isCloseTo(1500, within(1e-6));
        assertThat(overhang.freeAreaMm2(10)).isCloseTo(1500, within(1e-6));
    }

    @Test
    void raised_letters_do_not_hang_whether_they_touch_their_plate_or_are_sunk_into_it() {
        Mesh plate = Shapes.box(60, 20, 3), letter = Shapes.box(10, 8, 2);
        for (double foot : new double[] {3, 2.98, 2, 1.2}) {
            Inspection plated = Inspection.of(Shapes.together(plate, letter.moved(5, 5, foot)));
            assertThat(plated.overhang().areaSteeperThan(Overhang.STEEP_DEG)).as("foot at " + foot).isZero();
            assertThat(Findings.of(plated, PrintLimits.USUAL)).noneMatch(finding -> finding.code() == Finding.Code.OVERHANG);
        }
        Inspection half = Inspection.of(Shapes.together(plate, letter.moved(55, 5, 2)));
        assertThat(half.overhang().freeAreaMm2(0)).as("5 × 8 mm stand out beyond the edge").isCloseTo(40, within(4.0));
        Inspection ball = Inspection.of(Shapes.together(plate, Shapes.sphere(6, 36, 37).moved(20, 10, 7)));
        assertThat(ball.overhang().freeAreaMm2(0)).as("what hangs of a ball, up to 6 (1 − cos 45°) mm from its pole, is inside the plate").isLessThan(1);
    }

    @Test
    void a_room_too_small_to_say_is_not_said_to_be_nothing() {
        Mesh above = Shapes.together(Shapes.box(60, 20, 3), Shapes.box(10, 8, 2).moved(5, 5, 3.1));
        assertThat(Findings.of(Inspection.of(above), PrintLimits.USUAL)).filteredOn(finding -> finding.code() == Finding.Code.OVERHANG)
                .singleElement().extracting(Finding::advice).asString().endsWith("Supports would fill less than 0.1 cm³.");
    }
}
