package fabbrica.core.estimate;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import fabbrica.core.mesh.model.Mesh;
import fabbrica.core.mesh.model.Shapes;
import fabbrica.core.recipe.Adhesion;
import fabbrica.core.recipe.BuiltIn;
import fabbrica.core.recipe.InfillPattern;
import fabbrica.core.recipe.Printer;
import fabbrica.core.recipe.Recipe;
import fabbrica.core.recipe.Spool;
import fabbrica.core.recipe.StartingPoint;
import fabbrica.core.toolpath.PathType;
import fabbrica.core.units.Progress;
import java.util.Currency;
import java.util.List;
import org.junit.jupiter.api.Test;

class EstimateTest {

    private static final Printer STANDARD = BuiltIn.printer("standard").orElseThrow();
    private static final Printer FAST = BuiltIn.printer("fast").orElseThrow();
    private static final Recipe EVERYDAY = StartingPoint.DAILY_BREAD.recipe(STANDARD.nozzle(), STANDARD.kinematics());

    @Test
    void a_kilogram_of_1_75_mm_pla_is_about_335_metres() {
        // 1000 g / 1.24 g/cm³ / (π/4 · 1.75²) mm²: worked by hand, and common practice.
        double mm3 = 1000 / BuiltIn.PLA.densityGPerCm3() * 1000;
        assertThat(mm3 / STANDARD.filamentAreaMm2() / 1000).isCloseTo(335.3, within(0.1));
    }

    @Test
    void halving_the_layer_height_about_doubles_the_time() {
        // Common practice, no source: a floor tile took 2 h at 0.1 mm and 1 h at 0.2 mm; band 1.7 to 2.2.
        Mesh tile = Shapes.box(50, 50, 6);
        double coarse = printSeconds(tile, 0.2), fine = printSeconds(tile, 0.1);
        assertThat(fine / coarse).isBetween(1.7, 2.2);
    }

    @Test
    void leaving_acceleration_out_would_promise_a_small_part_far_too_short() {
        // Common practice, no source: such estimates are 15 to 30 % short on a classic machine of 500 mm/s².
        Printer classic = STANDARD.with(STANDARD.kinematics().withAcceleration(500));
        Printer ideal = STANDARD.with(STANDARD.kinematics().withAcceleration(100_000));
        Mesh part = Shapes.extrusion(Shapes.polygon(0, 0, 60, 0, 60, 6, 12, 6, 6, 12, 6, 60, 0, 60), 24);
        double honest = Estimate.of(part, EVERYDAY, classic, BuiltIn.PLA, Progress.IGNORED).printSeconds();
        double naive = Estimate.of(part, EVERYDAY, ideal, BuiltIn.PLA, Progress.IGNORED).printSeconds();
        assertThat(1 - naive / honest).isBetween(0.15, 0.45);
    }

    @Test
    void phases_add_up_and_getting_ready_is_real_time() {
        Estimate estimate = estimate(Shapes.box(20, 20, 20));
        assertThat(estimate.totalSeconds()).isCloseTo(
                estimate.secondsByPhase().values().stream().mapToDouble(Double::doubleValue).sum(), within(1e-9));
        // Bed 160 s, nozzle 76 s, homing 25 s, levelling 120 s, purge 20 s.
        assertThat(estimate.prepareSeconds()).isCloseTo(160 + 76 + 25 + 120 + 20, within(1e-9));
        assertThat(estimate.layers()).isEqualTo(100);
    }

    @Test
    void plates_one_after_another_take_the_sum_of_what_each_takes() {
        Estimate low = estimate(Shapes.box(20, 20, 4)), high = estimate(Shapes.box(10, 10, 20)), both = Estimate.together(List.of(low, high, low));
        assertThat(both.totalSeconds()).isCloseTo(2 * low.totalSeconds() + high.totalSeconds(), within(1e-9));
        assertThat(both.prepareSeconds()).as("each is warmed up for").isCloseTo(3 * low.prepareSeconds(), within(1e-9));
        assertThat(both.grams()).isCloseTo(2 * low.grams() + high.grams(), within(1e-9));
        assertThat(both.grams(PathType.OUTER_WALL)).isCloseTo(2 * low.grams(PathType.OUTER_WALL) + high.grams(PathType.OUTER_WALL), within(1e-9));
        assertThat(both.layers()).isEqualTo(high.layers());
        assertThat(Estimate.together(List.of(low))).isEqualTo(low);
    }

    @Test
    void grams_follow_from_the_volume_and_length_from_the_cross_section() {
        Estimate estimate = estimate(Shapes.box(20, 20, 20));
        assertThat(estimate.grams()).isCloseTo(estimate.filamentMm3() * 1.24 / 1000, within(1e-12));
        assertThat(estimate.filamentMm()).isCloseTo(estimate.filamentMm3() / (Math.PI * 0.875 * 0.875), within(1e-9));
    }

    @Test
    void a_solid_cube_weighs_its_volume_times_its_density() {
        Recipe solid = new Recipe(0.2, 0.2, 0.4, 2, 0, 0, 1, InfillPattern.LINES, Adhesion.NONE, 60);
        Estimate estimate = Estimate.of(Shapes.box(20, 20, 20), solid, STANDARD, BuiltIn.PLA, Progress.IGNORED);
        double purge = BuiltIn.PLA.grams(STANDARD.preparation().purgeMm3());
        assertThat(estimate.grams() - purge).isCloseTo(8 * 1.24, within(0.2));
    }

    @Test
    void a_spool_at_46_a_kilogram_makes_57_63_grams_cost_2_65() {
        // Common practice, no source: one lab's price and bill.
        Spool spool = new Spool("1", "pla", "any", 1000, 46, Currency.getInstance("EUR"));
        assertThat(spool.price(57.63)).hasToString("2.65 EUR");
    }

    private static Estimate estimate(Mesh mesh) {
        return Estimate.of(mesh, EVERYDAY, STANDARD, BuiltIn.PLA, Progress.IGNORED);
    }

    private static double printSeconds(Mesh mesh, double layer) {
        Recipe recipe = new Recipe(layer, 0.2, 0.42, 3, (int) Math.round(0.8 / layer), (int) Math.round(0.8 / layer),
                0.15, InfillPattern.LINES, Adhesion.SKIRT, 60);
        return Estimate.of(mesh, recipe, STANDARD, BuiltIn.PLA, Progress.IGNORED).printSeconds();
    }
}
