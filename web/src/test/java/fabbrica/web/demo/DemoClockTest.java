package fabbrica.web.demo;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import fabbrica.web.machine.Until;
import java.time.Duration;
import java.time.Instant;
import java.time.LocalDate;
import java.time.LocalTime;
import java.time.ZoneId;
import java.time.temporal.ChronoUnit;
import org.junit.jupiter.api.Test;

class DemoClockTest {

    @Test
    void it_goes_with_the_system_unless_it_is_put_somewhere() {
        DemoClock clock = new DemoClock("", 1);
        assertThat(clock.instant()).isCloseTo(Instant.now(), within(1, ChronoUnit.MINUTES));
        clock.put(Instant.EPOCH);
        assertThat(clock.instant()).isEqualTo(Instant.EPOCH);
        assertThat(clock.now()).isAfter(Instant.EPOCH);
        clock.release();
        assertThat(clock.instant()).isCloseTo(Instant.now(), within(1, ChronoUnit.MINUTES));
    }

    @Test
    void once_it_is_released_it_goes_as_many_times_as_fast_from_there() {
        DemoClock clock = new DemoClock("12:30", 600);
        Instant before = clock.now();
        clock.put(Instant.EPOCH);
        clock.release();
        Instant released = clock.instant(), real = Instant.now();
        assertThat(Duration.between(before, released)).isBetween(Duration.ZERO, Duration.ofMinutes(100));
        Until.true_("a tenth of a second goes by", () -> Duration.between(real, Instant.now()).toMillis() > 100);
        Duration gone = Duration.between(released, clock.instant()), really = Duration.between(real, Instant.now());
        assertThat(gone.toMillis() / 600.0).isBetween(99.0, really.toMillis() + 5.0);
    }

    @Test
    void a_demo_that_begins_at_a_time_of_day_does_so_today_and_goes_on_from_there() {
        DemoClock clock = new DemoClock("12:30", 1);
        Instant begin = LocalDate.now().atTime(LocalTime.of(12, 30)).atZone(ZoneId.systemDefault()).toInstant();
        assertThat(Duration.between(begin, clock.instant())).isBetween(Duration.ofSeconds(-1), Duration.ofMinutes(1));
        assertThat(clock.withZone(ZoneId.of("Asia/Tokyo")).instant()).isCloseTo(clock.instant(), within(1, ChronoUnit.MINUTES));
    }
}
