package fabbrica.core.estimate;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;
import static org.assertj.core.api.Assertions.within;

import fabbrica.core.estimate.Calibration.Factor;
import fabbrica.core.mesh.model.Shapes;
import fabbrica.core.recipe.BuiltIn;
import fabbrica.core.recipe.Printer;
import fabbrica.core.recipe.StartingPoint;
import fabbrica.core.units.Progress;
import java.util.Map;
import org.junit.jupiter.api.Test;

class ExpectedTest {

    private static final Printer STANDARD = BuiltIn.printer("standard").orElseThrow();
    private static final Estimate RAW = Estimate.of(Shapes.box(20, 20, 5), StartingPoint.DAILY_BREAD.recipe(STANDARD.nozzle(), STANDARD.kinematics()),
            STANDARD, BuiltIn.PLA, Progress.IGNORED);
    private static final Calibration SLOW = new Calibration(Map.of(Stage.HEATING, new Factor(1.1, 1.2, 1.3, 40), Stage.READYING, Factor.EXACT,
            Stage.PRINTING, new Factor(1.0, 1.1, 1.25, 40)), new Factor(0.9, 1.05, 1.2, 12));

    private static double seconds(Stage stage) {
        return RAW.secondsByPhase().entrySet().stream().filter(entry -> entry.getKey().stage() == stage).mapToDouble(Map.Entry::getValue).sum();
    }

    @Test
    void as_long_as_nothing_was_learned_it_takes_what_was_worked_out_give_or_take_what_is_usual() {
        Expected expected = Expected.unlearned(RAW);
        assertThat(expected.totalSeconds()).isCloseTo(RAW.totalSeconds(), within(1e-9));
        assertThat(expected.grams()).isEqualTo(RAW.grams());
        assertThat(expected.earliestSeconds()).isCloseTo(RAW.totalSeconds() - 0.05 * seconds(Stage.PRINTING), within(1e-9));
        assertThat(expected.latestSeconds()).isCloseTo(RAW.totalSeconds() + 0.2 * seconds(Stage.PRINTING), within(1e-9));
        assertThat(expected.by().runs()).isZero();
    }

    @Test
    void what_was_learned_of_each_stage_is_applied_to_that_stage_and_the_estimate_stays_as_it_is() {
        Expected expected = new Expected(RAW, SLOW);
        assertThat(expected.totalSeconds()).isCloseTo(1.2 * seconds(Stage.HEATING) + seconds(Stage.READYING) + 1.1 * seconds(Stage.PRINTING), within(1e-9));
        assertThat(expected.prepareSeconds() + expected.printSeconds()).isCloseTo(expected.totalSeconds(), within(1e-9));
        assertThat(expected.grams()).isCloseTo(1.05 * RAW.grams(), within(1e-9));
        assertThat(expected.raw()).isEqualTo(RAW);
        assertThat(expected.by().runs()).isEqualTo(40);
    }

    @Test
    void stages_that_differ_by_themselves_widen_the_range_by_their_squares() {
        Expected expected = new Expected(RAW, SLOW);
        assertThat(expected.latestSeconds() - expected.totalSeconds()).isCloseTo(Math.hypot(0.1 * seconds(Stage.HEATING), 0.15 * seconds(Stage.PRINTING)), within(1e-9));
        assertThat(expected.leastGrams()).isCloseTo(0.9 * RAW.grams(), within(1e-9));
        assertThat(expected.mostGrams()).isCloseTo(1.2 * RAW.grams(), within(1e-9));
    }

    @Test
    void a_factor_lies_within_its_bounds() {
        assertThatThrownBy(() -> new Factor(1.1, 1, 1.2, 3)).isInstanceOf(IllegalArgumentException.class);
        assertThatThrownBy(() -> new Factor(0, 1, 1.2, 3)).isInstanceOf(IllegalArgumentException.class);
        assertThatThrownBy(() -> new Calibration(Map.of(Stage.HEATING, Factor.EXACT), Factor.EXACT)).isInstanceOf(IllegalArgumentException.class);
    }
}
