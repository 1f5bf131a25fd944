package fabbrica.core.ledger;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import java.time.Duration;
import java.util.List;
import java.util.stream.IntStream;
import org.junit.jupiter.api.Test;

class WaitsTest {

    /** Worked example of R's documentation of {@code quantile}, type 7: the deciles of 0 to 10 are 0 to 10. */
    @Test
    void shares_of_people_are_between_neighbours() {
        Waits waits = new Waits(IntStream.rangeClosed(0, 10).mapToObj(Duration::ofSeconds).toList());
        assertThat(waits.within(0.9)).isCloseTo(9, within(1e-9));
        assertThat(waits.median()).isCloseTo(5, within(1e-9));
        assertThat(new Waits(List.of(Duration.ofSeconds(10), Duration.ofSeconds(20))).within(0.9)).isCloseTo(19, within(1e-9));
    }

    @Test
    void nobody_has_no_median() {
        assertThat(new Waits(List.of()).median()).isNaN();
        assertThat(new Waits(List.of()).count()).isZero();
    }

    @Test
    void days_are_counted_and_what_is_long_together() {
        Waits waits = new Waits(List.of(Duration.ofHours(3), Duration.ofHours(23), Duration.ofHours(24), Duration.ofDays(14), Duration.ofDays(90)));
        assertThat(waits.byDay()).hasSize(15).startsWith(2, 1, 0).endsWith(0, 2);
    }
}
