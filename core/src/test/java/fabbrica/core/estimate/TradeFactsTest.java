package fabbrica.core.estimate;

import static org.assertj.core.api.Assertions.assertThat;

import fabbrica.core.mesh.model.Mesh;
import fabbrica.core.mesh.model.Shapes;
import fabbrica.core.recipe.Adhesion;
import fabbrica.core.recipe.BuiltIn;
import fabbrica.core.recipe.InfillPattern;
import fabbrica.core.recipe.Nozzle;
import fabbrica.core.recipe.Printer;
import fabbrica.core.recipe.Recipe;
import fabbrica.core.toolpath.Progress;
import org.junit.jupiter.api.Test;
import org.locationtech.jts.geom.Geometry;
import org.locationtech.jts.geom.Polygon;

/** What people at the counter know about time and plastic, as bands (common practice, no source). */
class TradeFactsTest {

    private static final Printer STANDARD = BuiltIn.printer("standard").orElseThrow();
    private static final Mesh ARM = latticeArm();

    @Test
    void a_lattice_arm_at_0_28_takes_about_two_thirds_of_its_time_at_0_2() {
        // 8 h 43 at 0.2 mm, 5 h 57 at 0.28 mm, three walls, 15 %: a ratio of 0.68.
        double fine = print(ARM, recipe(0.2, 0.42, 3, 0.15), 0.4).printSeconds();
        double coarse = print(ARM, recipe(0.28, 0.42, 3, 0.15), 0.4).printSeconds();
        assertThat(coarse / fine).isBetween(0.6, 0.82);
    }

    @Test
    void one_wall_less_with_a_wider_line_is_quicker_for_about_the_same_plastic() {
        // 9 h 20 and 68 g (0.4 mm, 3 walls) to 7 h 43 and 66 g (0.5 mm, 2 walls), 0.18 mm layers, 8 %: 0.83 and 0.97.
        Estimate narrow = print(ARM, recipe(0.18, 0.42, 3, 0.08), 0.4);
        Estimate wide = print(ARM, recipe(0.18, 0.52, 2, 0.08), 0.5);
        assertThat(wide.printSeconds() / narrow.printSeconds()).isBetween(0.65, 0.95);
        assertThat(wide.grams() / narrow.grams()).isBetween(0.85, 1.05);
    }

    @Test
    void half_the_bore_on_a_wider_nozzle_saves_more_time_still() {
        // 3 h 30 (0.4 at 0.20) to 2 h 33 (0.5 at 0.25): 0.73.
        double usual = print(ARM, recipe(0.2, 0.42, 3, 0.15), 0.4).printSeconds();
        double wide = print(ARM, recipe(0.25, 0.52, 2, 0.15), 0.5).printSeconds();
        assertThat(wide / usual).isBetween(0.5, 0.8);
    }

    @Test
    void more_than_a_fifth_of_infill_mostly_costs_plastic() {
        Estimate fifteen = print(ARM, recipe(0.2, 0.42, 3, 0.15), 0.4), sixty = print(ARM, recipe(0.2, 0.42, 3, 0.6), 0.4);
        assertThat(sixty.grams()).isGreaterThan(fifteen.grams());
        assertThat(sixty.printSeconds()).isGreaterThan(fifteen.printSeconds());
    }

    @Test
    void a_keyring_takes_a_few_grams_and_minutes() {
        Mesh tag = Shapes.extrusion((Polygon) Shapes.rectangle(0, 0, 60, 24).buffer(3, 6), 4);
        Estimate estimate = print(tag, recipe(0.2, 0.42, 3, 0.18), 0.4);
        assertThat(estimate.grams()).isBetween(5.0, 20.0);
        assertThat(estimate.totalSeconds() / 60).isBetween(15.0, 90.0);
    }

    private static Estimate print(Mesh mesh, Recipe recipe, double bore) {
        return Estimate.of(mesh, recipe, STANDARD.with(new Nozzle(bore, false)), BuiltIn.PLA, Progress.IGNORED);
    }

    private static Recipe recipe(double layer, double width, int walls, double infill) {
        return new Recipe(layer, Math.max(0.24, layer), width, walls, 4, 4, infill, InfillPattern.LINES,
                Adhesion.SKIRT, 60);
    }

    /** A long arm of triangles between two rails. */
    private static Mesh latticeArm() {
        Geometry arm = Shapes.rectangle(0, 0, 120, 30);
        for (int bay = 0; bay < 5; bay++) {
            double x = 4 + bay * 23;
            arm = arm.difference(Shapes.polygon(x + 2, 4, x + 20, 4, x + 11, 24));
        }
        return Shapes.extrusion((Polygon) arm, 14);
    }
}
