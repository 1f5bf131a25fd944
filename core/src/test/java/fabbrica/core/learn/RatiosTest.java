package fabbrica.core.learn;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import java.util.Arrays;
import java.util.Random;
import java.util.stream.DoubleStream;
import java.util.stream.IntStream;
import org.junit.jupiter.api.Test;

class RatiosTest {

    /** Hollander and Wolfe, “Nonparametric Statistical Methods”, 1973, example 3.1: depression of nine patients before and after a drug. */
    private static final double[] BEFORE = {1.83, 0.50, 1.62, 2.48, 1.68, 1.88, 1.55, 3.06, 1.30};
    private static final double[] AFTER = {0.878, 0.647, 0.598, 2.05, 1.06, 1.29, 1.06, 3.14, 1.29};
    private static final double[] CHANGES = IntStream.range(0, 9).mapToDouble(i -> AFTER[i] - BEFORE[i]).toArray();

    @Test
    void the_centre_is_that_of_a_textbook() {
        assertThat(Ratios.of(CHANGES).centre()).isCloseTo(-0.46, within(1e-9));
    }

    /** By qn_scale of the Python library statsmodels 0.15, which takes 2.2191 for the constant and corrects nothing for few values. */
    @Test
    void the_spread_is_that_of_another_library_but_for_the_correction_for_few_values() {
        assertThat(Ratios.of(CHANGES).spread()).isCloseTo(0.4216374485371638 / 2.2191 * 2.2219 * 0.872, within(2e-4));
        double[] ten = {0.12, 0.07, 0.11, 0.09, 0.10, 0.14, 0.05, 0.08, 0.55, 0.10};
        assertThat(Ratios.of(ten).spread()).isCloseTo(0.044382889319701524 / 2.2191 * 2.2219 * 10 / 13.8, within(1e-5));
        double[] roots = DoubleStream.iterate(1, i -> i <= 30, i -> i + 1).map(Math::sqrt).toArray();
        assertThat(Ratios.of(roots).spread()).isCloseTo(1.4624251029184547 / 2.2191 * 2.2219 * 30 / 33.8, within(1e-3));
    }

    @Test
    void of_few_normal_values_the_spread_is_right_on_average() {
        Random random = new Random(5);
        for (int count : new int[] {3, 5, 9, 10, 15, 40}) {
            double mean = DoubleStream.generate(() -> Ratios.of(random.doubles(count, 0, 1).map(each -> 0.3 + 0.05 * random.nextGaussian()).toArray()).spread())
                    .limit(4000).average().orElseThrow();
            assertThat(mean).as("of %d", count).isCloseTo(0.05, within(0.002));
        }
    }

    @Test
    void some_runs_may_be_wrong_in_any_way() {
        Random random = new Random(7);
        double[] logs = random.doubles(40, 0, 1).map(each -> Math.log(1.1) + 0.05 * random.nextGaussian()).toArray();
        Ratios right = Ratios.of(logs);
        for (int i = 0; i < 4; i++) {
            logs[9 * i] = 3 + i;
        }
        assertThat(Ratios.of(logs).centre()).isCloseTo(right.centre(), within(0.02));
        assertThat(Ratios.of(logs).spread()).isLessThan(0.08);
        assertThat(Arrays.stream(logs).average().orElseThrow()).isGreaterThan(0.5);
    }

    @Test
    void one_run_has_no_spread() {
        assertThat(Ratios.of(new double[] {0.2})).isEqualTo(new Ratios(1, 0.2, 0));
    }
}
