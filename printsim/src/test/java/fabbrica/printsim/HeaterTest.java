package fabbrica.printsim;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import org.junit.jupiter.api.Test;

/** Lumped capacitance (textbook heat transfer), here against its equation integrated step by step with the classical Runge–Kutta method. */
class HeaterTest {

    private static final double ROOM = 20;
    private static final double TAU = 900;
    private static final double REACH = 200;

    /** τ·dT/dt = u·ΔT − (T − room). */
    private static double integrated(double celsius, double share, double seconds) {
        double step = 0.01, at = celsius;
        for (int i = 0; i < Math.round(seconds / step); i++) {
            double k1 = slope(at, share), k2 = slope(at + step / 2 * k1, share), k3 = slope(at + step / 2 * k2, share), k4 = slope(at + step * k3, share);
            at += step / 6 * (k1 + 2 * k2 + 2 * k3 + k4);
        }
        return at;
    }

    private static double slope(double celsius, double share) {
        return (share * REACH - (celsius - ROOM)) / TAU;
    }

    @Test
    void at_full_power_it_warms_as_its_equation_says() {
        Heater heater = new Heater(REACH, TAU);
        heater.set(110);
        heater.pass(120);
        assertThat(heater.celsius()).isCloseTo(integrated(ROOM, 1, 120), within(1e-6));
    }

    @Test
    void switched_off_it_cools_as_its_equation_says() {
        Heater heater = new Heater(REACH, TAU);
        heater.set(90);
        heater.pass(3600);
        assertThat(heater.celsius()).isEqualTo(90);
        heater.set(0);
        heater.pass(600);
        assertThat(heater.celsius()).isCloseTo(integrated(90, 0, 600), within(1e-6));
    }

    @Test
    void many_small_steps_come_to_one_large_one() {
        Heater once = new Heater(REACH, TAU), often = new Heater(REACH, TAU);
        once.set(60);
        often.set(60);
        once.pass(137);
        for (int i = 0; i < 1370; i++) {
            often.pass(0.1);
        }
        assertThat(often.celsius()).isCloseTo(once.celsius(), within(1e-9));
    }

    @Test
    void the_time_to_the_target_is_the_time_it_takes() {
        Heater heater = Heater.reaching(60, 180, TAU);
        heater.set(60);
        assertThat(heater.secondsToTarget()).isCloseTo(180, within(1e-9));
        heater.pass(179.9);
        assertThat(heater.celsius()).isLessThan(60);
        heater.pass(0.1 + 1e-6);
        assertThat(heater.celsius()).isEqualTo(60);
        assertThat(heater.secondsDownTo(40)).isCloseTo(TAU * Math.log(2), within(1e-9));
        assertThat(heater.secondsDownTo(ROOM)).isInfinite();
    }

    @Test
    void what_full_power_does_not_reach_is_never_reached() {
        Heater weak = new Heater(50, TAU);
        weak.set(90);
        assertThat(weak.secondsToTarget()).isInfinite();
        weak.pass(100_000);
        assertThat(weak.celsius()).isCloseTo(70, within(1e-6));
    }

    @Test
    void one_that_has_run_away_heats_on_whatever_its_target_until_it_is_cut_off() {
        Heater heater = new Heater(REACH, TAU);
        heater.set(60);
        heater.pass(1000);
        heater.runAway();
        heater.pass(60);
        assertThat(heater.celsius()).isCloseTo(integrated(60, 1, 60), within(1e-6));
        heater.cutOff();
        heater.pass(60);
        assertThat(heater.celsius()).isLessThan(integrated(60, 1, 60));
    }
}
