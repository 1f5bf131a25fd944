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
import fabbrica.core.units.Progress;
import org.junit.jupiter.api.Test;
import org.locationtech.jts.geom.Geometry;
import org.locationtech.jts.geom.Polygon;

/** What people at the counter know about time and plastic, as bands (common practice, no source). */
class TradeFactsTest {

    private static final Printer STANDARD = BuiltIn.printer("standard").orElseThrow();
    private static final Mesh ARM = latticeArm();
    /** A small figure on a foot: a body, a head. */
    private static final Mesh FIGURE = Shapes.together(Shapes.cylinder(14, 3, 48), Shapes.cone(12, 6, 28, 48).moved(0, 0, 2.5),
            Shapes.sphere(8, 40, 30).moved(0, 0, 36));

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
    void half_as_high_layers_take_a_small_figure_about_twice_as_long() {
        // A small figure: 2 h 30 at 0.1 mm, less than 1 h 30 at 0.2: a ratio of at least 1.67.
        Estimate fine = print(FIGURE, recipe(0.1, 0.42, 3, 0.15), 0.4), coarse = print(FIGURE, recipe(0.2, 0.42, 3, 0.15), 0.4);
        assertThat(fine.printSeconds() / coarse.printSeconds()).isBetween(1.6, 2.2);
    }

    @Test
    void more_flow_helps_until_speed_and_acceleration_are_the_limit() {
        // 24 to 40 mm³/s saved 2 min of 83 on a fast machine; 40 to 65 nothing.
        Printer fast = BuiltIn.printer("fast").orElseThrow();
        Recipe quick = new Recipe(0.24, 0.28, 0.42, 2, 4, 4, 0.15, InfillPattern.LINES, Adhesion.SKIRT, 300);
        double at24 = seconds(fast, quick, 24), at40 = seconds(fast, quick, 40), at65 = seconds(fast, quick, 65);
        assertThat(1 - at40 / at24).isBetween(0.0, 0.06);
        assertThat(at65).isCloseTo(at40, org.assertj.core.api.Assertions.within(at40 * 0.001));
    }

    @Test
    void getting_ready_takes_a_modern_machine_minutes_and_fewer_when_it_may_skip_what_is_fresh() {
        // Homing, levelling and calibration 7 to 9.5 min, bed about 3 min (to 60 °C on most), nozzle about 1 min.
        Printer fast = BuiltIn.printer("fast").orElseThrow();
        double calibrating = fast.preparation().homingS() + fast.preparation().levellingS() + fast.preparation().flowS();
        assertThat(calibrating / 60).isBetween(7.0, 9.5);
        assertThat(STANDARD.preparation().bedHeatingS(BuiltIn.PLA) / 60).isBetween(2.0, 4.0);
        assertThat(STANDARD.preparation().nozzleHeatingS(BuiltIn.PLA)).isBetween(45.0, 90.0);
        Recipe recipe = recipe(0.2, 0.42, 3, 0.15);
        Estimate full = Estimate.of(FIGURE, recipe, fast, BuiltIn.PLA, Progress.IGNORED);
        Estimate fresh = Estimate.of(FIGURE, recipe, fast.with(fast.preparation().fresh()), BuiltIn.PLA, Progress.IGNORED);
        assertThat(full.prepareSeconds() - fresh.prepareSeconds()).isBetween(300.0, 500.0);
        assertThat(fresh.printSeconds()).isEqualTo(full.printSeconds());
    }

    @Test
    void a_picture_at_each_layer_adds_two_or_three_minutes_to_a_print_of_an_hour() {
        // Time-lapse pictures added 2 to 3 min to a print of an hour and a quarter.
        Printer fast = BuiltIn.printer("fast").orElseThrow();
        fabbrica.core.recipe.Preparation p = fast.preparation();
        Printer filmed = fast.with(new fabbrica.core.recipe.Preparation(p.bedCPerS(), p.nozzleCPerS(), p.homingS(), p.levellingS(),
                p.flowS(), p.purgeS(), p.purgeMm3(), 0.6, p.endS(), p.changeS()));
        Recipe recipe = recipe(0.2, 0.42, 3, 0.15);
        double more = Estimate.of(FIGURE, recipe, filmed, BuiltIn.PLA, Progress.IGNORED).totalSeconds()
                - Estimate.of(FIGURE, recipe, fast, BuiltIn.PLA, Progress.IGNORED).totalSeconds();
        assertThat(more / 60).isBetween(2.0, 3.0);
    }

    @Test
    void an_open_skin_about_halves_the_time_of_a_flat_thing() {
        // Opening the skin with a visible pattern halves time (a design trick).
        Mesh tile = Shapes.box(60, 60, 2.4);
        Recipe closed = new Recipe(0.2, 0.24, 0.42, 2, 4, 4, 0.2, InfillPattern.TRIANGLES, Adhesion.SKIRT, 60);
        Recipe open = new Recipe(0.2, 0.24, 0.42, 2, 0, 0, 0.2, InfillPattern.TRIANGLES, Adhesion.SKIRT, 60);
        assertThat(print(tile, open, 0.4).printSeconds() / print(tile, closed, 0.4).printSeconds()).isBetween(0.3, 0.6);
    }

    @Test
    void supports_cost_time_and_plastic_that_turning_the_part_saves() {
        Mesh shelf = Shapes.together(Shapes.box(8, 40, 40), Shapes.box(40, 40, 6).moved(0, 0, 36));
        Recipe propped = recipe(0.2, 0.42, 3, 0.15).with(fabbrica.core.recipe.Supports.of(fabbrica.core.recipe.Supports.Where.BED));
        Estimate standing = print(shelf, propped, 0.4);
        Estimate upsideDown = print(shelf.turned(new fabbrica.core.mesh.model.Rotation(0, 1, 0, 0)), propped, 0.4);
        assertThat(standing.supportG()).isGreaterThan(1);
        assertThat(upsideDown.supportG()).isZero();
        assertThat(upsideDown.totalSeconds()).isLessThan(standing.totalSeconds());
        assertThat(upsideDown.grams()).isLessThan(standing.grams());
    }

    @Test
    void every_gram_is_somewhere() {
        Estimate estimate = print(FIGURE, recipe(0.2, 0.42, 3, 0.15), 0.4);
        double sum = estimate.byPath().values().stream().mapToDouble(Estimate.Share::grams).sum() + estimate.purgedG();
        assertThat(sum).isCloseTo(estimate.grams(), org.assertj.core.api.Assertions.within(1e-9));
        assertThat(estimate.grams()).isEqualTo(BuiltIn.PLA.grams(estimate.filamentMm3()));
    }

    @Test
    void a_keyring_takes_a_few_grams_and_minutes() {
        Mesh tag = Shapes.extrusion((Polygon) Shapes.rectangle(0, 0, 60, 24).buffer(3, 6), 4);
        Estimate estimate = print(tag, recipe(0.2, 0.42, 3, 0.18), 0.4);
        assertThat(estimate.grams()).isBetween(5.0, 20.0);
        assertThat(estimate.totalSeconds() / 60).isBetween(15.0, 90.0);
    }

    private static double seconds(Printer printer, Recipe recipe, double flow) {
        return Estimate.of(FIGURE, recipe, printer.with(printer.kinematics().withMaxFlow(flow)), BuiltIn.PLA, Progress.IGNORED)
                .printSeconds();
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
