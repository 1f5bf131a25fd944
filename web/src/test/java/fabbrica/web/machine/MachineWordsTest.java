package fabbrica.web.machine;

import static org.assertj.core.api.Assertions.assertThat;

import fabbrica.core.run.MachineEvent.Warmth;
import fabbrica.core.run.MachineState.Kind;
import java.time.Instant;
import org.junit.jupiter.api.Test;

class MachineWordsTest {

    private final MachineWords words = new MachineWords();

    private static Watched machine(Kind kind, boolean reckoned, int layer) {
        return new Watched("door", "Door bench", kind, reckoned, 7L, layer, 120, 0.1, null, new Warmth(204.6, 210, 48, 0), 720, null, "", "", Instant.EPOCH, false);
    }

    @Test
    void what_a_machine_tells_is_said_plainly_and_what_is_reckoned_by_the_clock() {
        assertThat(words.course(machine(Kind.PRINTING, false, 12))).isEqualTo(", layer 12 of 120");
        assertThat(words.course(machine(Kind.PRINTING, true, 12))).isEqualTo(", by the clock about layer 12 of 120");
        assertThat(words.course(machine(Kind.COOLING, false, 120))).isEqualTo(": the bed is at 48 °C; lift it off at 35 °C, in about 12 min");
        assertThat(words.course(machine(Kind.COOLING, true, 120))).startsWith(": the bed should by now be at 48 °C");
        assertThat(words.course(machine(Kind.TO_BE_CLEARED, true, 120))).isEqualTo(", by the clock");
        assertThat(words.course(machine(Kind.TO_BE_CLEARED, false, 120))).isEmpty();
    }

    @Test
    void before_the_first_layer_none_is_named() {
        assertThat(words.course(machine(Kind.WARMING, false, 0))).isEmpty();
        assertThat(words.course(machine(Kind.WARMING, true, 0))).isEqualTo(", by the clock");
    }

    @Test
    void a_heater_that_is_off_has_no_temperature_to_come_to() {
        assertThat(words.warmth(machine(Kind.WARMING, false, 0))).isEqualTo("Nozzle 205 °C of 210, bed 48 °C");
    }
}
