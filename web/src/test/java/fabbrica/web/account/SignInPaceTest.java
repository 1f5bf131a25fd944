package fabbrica.web.account;

import static org.assertj.core.api.Assertions.assertThat;

import fabbrica.web.SetClock;
import java.time.Duration;
import org.junit.jupiter.api.Test;

class SignInPaceTest {

    private static final String HOME = "10.0.0.1";
    private static final String SCHOOL = "10.0.0.2";

    private final SetClock clock = new SetClock();
    private final SignInPace pace = new SignInPace(clock);

    @Test
    void five_tries_are_free_and_then_each_waits_twice_as_long_up_to_a_minute() {
        fail("mira", SCHOOL, 4);
        assertThat(pace.toWait("mira", SCHOOL, false)).isZero();
        fail("mira", SCHOOL, 1);
        assertThat(pace.toWait("MIRA", SCHOOL, false)).as("whatever the case").isEqualTo(Duration.ofSeconds(1));
        fail("mira", SCHOOL, 2);
        assertThat(pace.toWait("mira", SCHOOL, false)).isEqualTo(Duration.ofSeconds(4));
        fail("mira", SCHOOL, 100);
        assertThat(pace.toWait("mira", SCHOOL, false)).isEqualTo(Duration.ofMinutes(1));
        clock.pass(Duration.ofSeconds(61));
        assertThat(pace.toWait("mira", SCHOOL, false)).isZero();
    }

    @Test
    void one_pupil_shuts_out_neither_the_class_nor_the_owner_of_the_name() {
        fail("mira", SCHOOL, 30);
        assertThat(pace.toWait("mira", SCHOOL, true)).as("on a browser of hers").isZero();
        assertThat(pace.toWait("june", SCHOOL, false)).as("another name from the same address").isZero();
        assertThat(pace.toWait("mira", HOME, false)).as("a new browser of hers, from elsewhere").isLessThanOrEqualTo(Duration.ofMinutes(1));
    }

    @Test
    void many_names_from_one_address_are_slowed_down_too() {
        for (int i = 0; i < 60; i++) {
            pace.failed("name" + i, SCHOOL, false);
        }
        assertThat(pace.toWait("name999", SCHOOL, false)).isPositive();
        assertThat(pace.toWait("name999", HOME, false)).isZero();
    }

    @Test
    void a_browser_that_is_known_is_slowed_down_when_it_fails_itself() {
        for (int i = 0; i < 8; i++) {
            pace.failed("mira", HOME, true);
        }
        assertThat(pace.toWait("mira", HOME, true)).isPositive();
        pace.succeeded("mira", HOME, true);
        assertThat(pace.toWait("mira", HOME, true)).isZero();
    }

    private void fail(String name, String address, int times) {
        for (int i = 0; i < times; i++) {
            pace.failed(name, address, false);
        }
    }
}
