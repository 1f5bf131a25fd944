package fabbrica.core.learn;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import java.util.Random;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

class LimitTest {

    /** Feller, “An Introduction to Probability Theory and Its Applications”, volume 1, XIII.7: trials until the first run of k successes, (1 − pᵏ) / (q pᵏ). */
    @ParameterizedTest
    @CsvSource({"5, 0.5, 62", "10, 0.9, 18.68", "3, 0.2, 155"})
    void where_a_failure_takes_everything_off_it_is_the_wait_for_a_run_of_good_ones(int good, double share, double trials) {
        assertThat(Limit.trials(good, -good, 1, 1 - share)).isCloseTo(trials, within(0.01));
    }

    @Test
    void elsewhere_it_is_what_trials_come_to() {
        Random random = new Random(3);
        long all = 0;
        int repeats = 20_000;
        for (int repeat = 0; repeat < repeats; repeat++) {
            for (int sum = 0; sum < 30; all++) {
                sum = Math.max(0, sum + (random.nextDouble() < 0.1 ? 8 : -1));
            }
        }
        // The mean of so many waits strays by about one in 140.
        assertThat(Limit.trials(30, 8, -1, 0.1)).isCloseTo(all / (double) repeats, within(0.03 * all / repeats));
    }

    @Test
    void the_limit_is_the_lowest_that_gives_few_enough_false_alarms() {
        int limit = Limit.of(8, -1, 0.08);
        assertThat(Limit.trials(limit, 8, -1, 0.08)).isGreaterThanOrEqualTo(Limit.FALSE_ALARM);
        assertThat(Limit.trials(limit - 1, 8, -1, 0.08)).isLessThan(Limit.FALSE_ALARM);
    }
}
