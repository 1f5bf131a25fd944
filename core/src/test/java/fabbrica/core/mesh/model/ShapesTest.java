package fabbrica.core.mesh.model;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import fabbrica.core.inspect.Inspection;
import org.junit.jupiter.api.Test;

/** Volumes and areas of tessellated solids against their closed forms (any handbook of solid geometry). */
class ShapesTest {

    @Test
    void a_box_measures_what_its_sides_say() {
        Inspection box = Inspection.of(Shapes.box(20, 30, 40));
        assertThat(box.measures().volumeMm3()).isCloseTo(24_000, within(1e-6));
        assertThat(box.measures().areaMm2()).isCloseTo(2 * (600 + 800 + 1200), within(1e-6));
        assertThat(box.bounds().sizeZ()).isEqualTo(40);
        assertThat(box.triangles()).isEqualTo(12);
        assertThat(box.vertices()).isEqualTo(8);
    }

    @Test
    void a_cylinder_of_n_sides_is_a_prism_over_the_regular_polygon() {
        int sides = 24;
        double polygon = sides / 2.0 * 100 * Math.sin(2 * Math.PI / sides);
        double perimeter = 2 * sides * 10 * Math.sin(Math.PI / sides);
        Inspection cylinder = Inspection.of(Shapes.cylinder(10, 30, sides));
        assertThat(cylinder.measures().volumeMm3()).isCloseTo(30 * polygon, within(1e-6));
        assertThat(cylinder.measures().areaMm2()).isCloseTo(2 * polygon + 30 * perimeter, within(1e-6));
    }

    @Test
    void a_fine_sphere_comes_within_a_thousandth_of_the_true_one() {
        Inspection sphere = Inspection.of(Shapes.sphere(25, 180, 90));
        assertThat(sphere.measures().volumeMm3()).isCloseTo(4 / 3.0 * Math.PI * 25 * 25 * 25, within(65.0 * 1.5));
        assertThat(sphere.measures().areaMm2()).isCloseTo(4 * Math.PI * 25 * 25, within(8.0));
        assertThat(sphere.triangles()).isEqualTo(2 * 180 * 89);
    }

    @Test
    void a_cone_holds_a_third_of_its_prism() {
        int sides = 60;
        double base = sides / 2.0 * 15 * 15 * Math.sin(2 * Math.PI / sides);
        assertThat(Inspection.of(Shapes.cone(15, 0, 40, sides)).measures().volumeMm3())
                .isCloseTo(base * 40 / 3, within(1e-6));
    }

    @Test
    void an_extrusion_keeps_its_holes() {
        Mesh plate = Shapes.extrusion((org.locationtech.jts.geom.Polygon) Shapes.rectangle(0, 0, 30, 20)
                .difference(Shapes.rectangle(5, 5, 15, 15)), 4);
        Inspection inspection = Inspection.of(plate);
        assertThat(inspection.measures().volumeMm3()).isCloseTo((600 - 100) * 4, within(1e-6));
        assertThat(inspection.soundness().watertight()).isTrue();
    }

    @Test
    void a_tube_turned_from_a_closed_profile_is_sound() {
        Mesh tube = Shapes.revolution(new double[] {8, 0, 10, 0, 10, 20, 8, 20}, 48);
        double ring = 48 / 2.0 * (100 - 64) * Math.sin(2 * Math.PI / 48);
        assertThat(Inspection.of(tube).soundness().watertight()).isTrue();
        assertThat(Inspection.of(tube).measures().volumeMm3()).isCloseTo(20 * ring, within(1e-6));
    }

    @Test
    void scaling_turning_and_moving_do_to_volume_and_size_what_geometry_says() {
        Mesh cone = Shapes.cone(10, 4, 12, 30);
        double volume = Inspection.of(cone).measures().volumeMm3();
        assertThat(Inspection.of(cone.scaled(2.5)).measures().volumeMm3()).isCloseTo(volume * 15.625, within(1e-6));
        assertThat(Inspection.of(cone.turned(33).moved(5, -70, 3)).measures().volumeMm3())
                .isCloseTo(volume, within(1e-6));
    }

    @Test
    void corners_at_one_position_are_welded_and_minus_zero_is_zero() {
        MeshBuilder builder = new MeshBuilder(1);
        assertThat(builder.vertex(0.0, 1, 2)).isEqualTo(builder.vertex(-0.0, 1, 2)).isZero();
        for (int i = 0; i < 1000; i++) {
            builder.vertex(i, i * 0.5, -i);
        }
        assertThat(builder.vertex(999, 499.5, -999)).isEqualTo(1000);
    }
}
