package fabbrica.web.demo;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

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
        DemoClock clock = new DemoClock("");
        assertThat(clock.instant()).isCloseTo(Instant.now(), within(1, ChronoUnit.MINUTES));
        clock.put(Instant.EPOCH);
        assertThat(clock.instant()).isEqualTo(Instant.EPOCH);
        assertThat(clock.now()).isAfter(Instant.EPOCH);
        clock.release();
        assertThat(clock.instant()).isCloseTo(Instant.now(), within(1, ChronoUnit.MINUTES));
    }

    @Test
    void a_demo_that_begins_at_a_time_of_day_does_so_today_and_goes_on_from_there() {
        DemoClock clock = new DemoClock("12:30");
        Instant begin = LocalDate.now().atTime(LocalTime.of(12, 30)).atZone(ZoneId.systemDefault()).toInstant();
        assertThat(Duration.between(begin, clock.instant())).isBetween(Duration.ofSeconds(-1), Duration.ofMinutes(1));
        assertThat(clock.withZone(ZoneId.of("Asia/Tokyo")).instant()).isCloseTo(clock.instant(), within(1, ChronoUnit.MINUTES));
    }
}
