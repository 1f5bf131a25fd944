package fabbrica.core.schedule;

import static org.assertj.core.api.Assertions.assertThat;

import fabbrica.core.schedule.QueueForecast.Slot;
import java.time.Duration;
import java.time.Instant;
import java.util.List;
import org.junit.jupiter.api.Test;

class QueueForecastTest {

    private static final Instant NOON = Instant.parse("2026-03-02T12:00:00Z");

    @Test
    void an_idle_printer_starts_at_once_and_each_job_after_the_bed_is_clear() {
        assertThat(QueueForecast.of(NOON, null, List.of(Duration.ofHours(1), Duration.ofMinutes(30)))).containsExactly(
                new Slot(NOON, at(60)), new Slot(at(70), at(100)));
    }

    @Test
    void a_busy_printer_starts_when_it_is_done_and_cleared() {
        assertThat(QueueForecast.of(NOON, at(25), List.of(Duration.ofHours(1))).getFirst().start()).isEqualTo(at(35));
    }

    @Test
    void a_run_that_is_late_is_taken_to_end_now() {
        assertThat(QueueForecast.of(NOON, at(-90), List.of(Duration.ofHours(1))).getFirst().start()).isEqualTo(at(10));
    }

    private static Instant at(int minutes) {
        return NOON.plus(Duration.ofMinutes(minutes));
    }
}
