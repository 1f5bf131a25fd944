package fabbrica.core.learn;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import fabbrica.core.estimate.Calibration;
import fabbrica.core.estimate.Calibration.Factor;
import fabbrica.core.estimate.Stage;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.OptionalDouble;
import java.util.Random;
import org.junit.jupiter.api.Test;

/** Runs of four minutes of heating, eight of getting ready and one to five hours of printing. */
class CalibrationsTest {

    private final Random random = new Random(13);
    private final List<Experience> runs = new ArrayList<>();

    private CalibrationsTest runs(String printer, int count, double heating, double readying, double printing, double plastic, boolean measured) {
        for (int i = 0; i < count; i++) {
            double h = 240 * heating, r = 480 * readying * noise(), promised = 3600 * (1 + 4 * random.nextDouble()), p = promised * printing * noise();
            runs.add(new Experience(printer, Map.of(Stage.HEATING, 240.0, Stage.READYING, 480.0, Stage.PRINTING, promised),
                    measured ? Map.of(Stage.HEATING, h, Stage.READYING, r) : Map.of(), OptionalDouble.of(h + r + p), 40, OptionalDouble.of(40 * plastic * noise())));
        }
        return this;
    }

    private double noise() {
        return Math.exp(0.05 * random.nextGaussian());
    }

    private Calibration learned(String printer) {
        return Calibrations.of(runs).of(printer);
    }

    private static double width(Factor factor) {
        return factor.most() / factor.least();
    }

    @Test
    void without_runs_nothing_is_learned() {
        assertThat(learned("door")).isEqualTo(Calibration.NONE);
    }

    @Test
    void each_stage_is_learned_by_itself() {
        Calibration door = runs("door", 100, 1.3, 0.9, 1.15, 1.04, true).learned("door");
        assertThat(door.of(Stage.HEATING).usual()).isCloseTo(1.3, within(0.01));
        assertThat(door.of(Stage.READYING).usual()).isCloseTo(0.9, within(0.02));
        assertThat(door.of(Stage.PRINTING).usual()).isCloseTo(1.15, within(0.02));
        assertThat(door.plastic().usual()).isCloseTo(1.04, within(0.02));
        assertThat(door.runs()).isEqualTo(100);
    }

    @Test
    void where_only_the_whole_is_known_printing_is_what_is_left_of_it() {
        Calibration old = runs("door", 60, 1.3, 0.9, 1.1, 1, true).runs("old", 60, 1.3, 0.9, 1.25, 1, false).learned("old");
        assertThat(old.of(Stage.PRINTING).usual()).isCloseTo(1.25, within(0.02));
        assertThat(old.of(Stage.HEATING).runs()).isZero();
        assertThat(old.of(Stage.HEATING).usual()).isBetween(1.1, 1.3);
    }

    @Test
    void few_runs_lean_on_those_of_the_other_machines() {
        runs("door", 60, 1, 1, 1.2, 1, true).runs("glass", 60, 1, 1, 1.22, 1, true).runs("long", 60, 1, 1, 1.18, 1, true).runs("new", 1, 1, 1, 1, 1, true);
        double one = learned("new").of(Stage.PRINTING).usual();
        assertThat(one).isBetween(1.03, 1.17);
        double many = runs("new", 60, 1, 1, 1, 1, true).learned("new").of(Stage.PRINTING).usual();
        assertThat(many).isCloseTo(1, within(0.02));
        assertThat(learned("never").of(Stage.PRINTING).usual()).isBetween(1.08, 1.2);
        assertThat(learned("never").runs()).isZero();
    }

    @Test
    void the_more_runs_the_narrower_the_range() {
        double never = width(learned("door").of(Stage.PRINTING));
        double three = width(runs("door", 3, 1, 1, 1.1, 1, true).learned("door").of(Stage.PRINTING));
        double thirty = width(runs("door", 27, 1, 1, 1.1, 1, true).learned("door").of(Stage.PRINTING));
        assertThat(three).isLessThan(never).isGreaterThan(thirty);
        // Four in five of what differs by 5 % lie within 1.28 times that on either side.
        assertThat(thirty).isGreaterThan(Math.exp(2 * 1.28 * 0.05 * 0.8));
    }

    @Test
    void runs_that_were_cut_short_teach_what_they_came_through_and_no_more() {
        runs.add(new Experience("door", Map.of(Stage.HEATING, 240.0, Stage.READYING, 480.0, Stage.PRINTING, 3600.0), Map.of(Stage.HEATING, 360.0), OptionalDouble.empty(),
                40, OptionalDouble.empty()));
        assertThat(learned("door").of(Stage.HEATING).runs()).isEqualTo(1);
        assertThat(learned("door").of(Stage.PRINTING)).isEqualTo(Calibration.NONE.of(Stage.PRINTING));
        assertThat(learned("door").plastic()).isEqualTo(Factor.EXACT);
    }

    @Test
    void one_run_in_ten_may_be_written_down_wrongly() {
        runs("door", 60, 1, 1, 1.1, 1, true);
        for (int i = 0; i < 60; i += 10) {
            Experience wrong = runs.get(i);
            runs.set(i, new Experience("door", wrong.promisedS(), Map.of(), OptionalDouble.of(60), wrong.promisedG(), OptionalDouble.of(1000)));
        }
        assertThat(learned("door").of(Stage.PRINTING).usual()).isCloseTo(1.1, within(0.03));
        assertThat(learned("door").plastic().usual()).isCloseTo(1, within(0.03));
    }

    @Test
    void what_was_long_ago_is_forgotten() {
        assertThat(runs("door", 100, 1, 1, 1.3, 1, true).runs("door", 120, 1, 1, 1, 1, true).learned("door").of(Stage.PRINTING).usual()).isCloseTo(1, within(0.02));
    }
}
