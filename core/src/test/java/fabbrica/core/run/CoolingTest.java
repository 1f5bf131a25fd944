package fabbrica.core.run;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import org.junit.jupiter.api.Test;

class CoolingTest {

    /** Newton's law of cooling, 20 °C of room, by Euler steps of a tenth of a second. */
    @Test
    void a_bed_cools_as_small_steps_of_its_law_do() {
        double bed = 60;
        for (int step = 0; step < 6000; step++) {
            bed -= 0.1 * (bed - 20) / 900;
        }
        assertThat(Cooling.after(60, 600).bedC()).isCloseTo(bed, within(0.01));
    }

    @Test
    void when_it_can_be_lifted_is_when_it_has_come_down_to_that() {
        double seconds = new Cooling(60).secondsToLift();
        assertThat(seconds).isBetween(10 * 60.0, 20 * 60.0);
        assertThat(Cooling.after(60, seconds).bedC()).isCloseTo(Cooling.LIFT_C, within(1e-9));
        assertThat(Cooling.after(60, seconds).secondsToLift()).isCloseTo(0, within(1e-6));
        assertThat(new Cooling(22).secondsToLift()).isZero();
    }

    @Test
    void before_it_was_switched_off_it_is_as_warm_as_it_was() {
        assertThat(Cooling.after(60, -100).bedC()).isEqualTo(60);
    }
}
