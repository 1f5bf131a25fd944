package fabbrica.web.platform;

import static org.assertj.core.api.Assertions.assertThat;

import fabbrica.web.SetClock;
import java.time.Duration;
import java.util.concurrent.atomic.AtomicInteger;
import org.junit.jupiter.api.Test;

class ClockJumpsTest {

    private final SetClock clock = new SetClock();
    private long nanos = 42;
    private final AtomicInteger told = new AtomicInteger();
    private final ClockJumps jumps = new ClockJumps(clock, () -> nanos, told::incrementAndGet);

    private void pass(Duration time, Duration onTheClock) {
        nanos += time.toNanos();
        clock.pass(onTheClock);
        jumps.look();
    }

    @Test
    void a_clock_that_goes_with_time_or_is_put_right_bit_by_bit_has_not_jumped() {
        for (int i = 0; i < 1000; i++) {
            pass(Duration.ofSeconds(1), Duration.ofMillis(i % 2 == 0 ? 990 : 1010));
        }
        assertThat(jumps.total()).isZero();
        assertThat(jumps.said()).isEmpty();
        assertThat(told).hasValue(0);
    }

    @Test
    void a_jump_is_told_once_and_said_for_an_hour() {
        pass(Duration.ofSeconds(1), Duration.ofSeconds(1).plusHours(2));
        assertThat(jumps.total()).isEqualTo(Duration.ofHours(2));
        assertThat(jumps.said()).contains("jumped ahead by 2 h");
        pass(Duration.ofMinutes(59), Duration.ofMinutes(59));
        assertThat(jumps.said()).isNotEmpty();
        pass(Duration.ofMinutes(2), Duration.ofMinutes(2));
        assertThat(jumps.said()).isEmpty();
        assertThat(told).hasValue(1);
    }

    @Test
    void jumps_there_and_back_are_no_jump_in_all() {
        pass(Duration.ofSeconds(1), Duration.ofSeconds(1).plusDays(1));
        pass(Duration.ofSeconds(1), Duration.ofSeconds(1).minusDays(1));
        assertThat(jumps.total()).isZero();
        assertThat(jumps.said()).contains("jumped back by 24 h");
    }
}
