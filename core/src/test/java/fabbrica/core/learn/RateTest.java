package fabbrica.core.learn;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;
import static org.assertj.core.api.Assertions.within;

import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

class RateTest {

    /** Newcombe 1998, “Two-sided confidence intervals for the single proportion”, table I, method 3. */
    @ParameterizedTest
    @CsvSource({"81, 263, 0.2553, 0.3662", "15, 148, 0.0624, 0.1605", "0, 20, 0.0, 0.1611", "1, 29, 0.0061, 0.1718"})
    void the_bounds_of_a_rate_are_those_of_the_published_examples(int failed, int runs, double least, double most) {
        assertThat(new Rate(failed, runs).least()).isCloseTo(least, within(5e-5));
        assertThat(new Rate(failed, runs).most()).isCloseTo(most, within(5e-5));
    }

    /** Newcombe 1998, “Interval estimation for the difference between independent proportions”, table II, method 10. */
    @ParameterizedTest
    @CsvSource({"56, 70, 48, 80, 0.0524, 0.3339", "9, 10, 3, 10, 0.1705, 0.8090", "6, 7, 2, 7, 0.0582, 0.8062", "5, 56, 0, 29, -0.0381, 0.1926"})
    void the_bounds_of_a_difference_are_those_of_the_published_examples(int failed, int runs, int others, int otherRuns, double least, double most) {
        Rate.Within difference = new Rate(failed, runs).less(new Rate(others, otherRuns), 0.05);
        assertThat(difference.least()).isCloseTo(least, within(5e-5));
        assertThat(difference.most()).isCloseTo(most, within(5e-5));
    }

    @Test
    void what_chance_may_do_is_no_difference() {
        assertThat(new Rate(3, 20).against(new Rate(5, 60), 1)).isZero();
        assertThat(new Rate(12, 20).against(new Rate(5, 60), 1)).isEqualTo(1);
        assertThat(new Rate(1, 60).against(new Rate(12, 30), 1)).isEqualTo(-1);
    }

    @Test
    void many_questions_at_once_want_a_clearer_answer() {
        assertThat(new Rate(9, 30).against(new Rate(7, 70), 1)).isEqualTo(1);
        assertThat(new Rate(9, 30).against(new Rate(7, 70), 20)).isZero();
    }

    @Test
    void a_rate_of_nothing_is_none() {
        assertThatThrownBy(() -> new Rate(0, 0)).isInstanceOf(IllegalArgumentException.class);
        assertThatThrownBy(() -> new Rate(3, 2)).hasMessageContaining("3 of 2 runs");
    }
}
