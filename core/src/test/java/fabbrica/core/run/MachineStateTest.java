package fabbrica.core.run;

import static org.assertj.core.api.Assertions.assertThat;

import fabbrica.core.run.MachineEvent.Doing;
import fabbrica.core.run.MachineEvent.Reported;
import fabbrica.core.run.MachineEvent.Warmth;
import fabbrica.core.run.MachineState.Job;
import fabbrica.core.run.MachineState.Kind;
import java.time.Instant;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

class MachineStateTest {

    private static final Instant NOW = Instant.EPOCH;
    private static final double COLD_C = 35;
    private static final Job OURS = new Job("ours.gcode", false, false);
    private static final Warmth HOT = new Warmth(210, 210, 60, 60);
    private static final Warmth COLD = new Warmth(20, 0, 22, 0);

    private final MachineState reached = MachineState.unknown(NOW).after(new MachineEvent.Reached("u", "bench", true), NOW);

    private static Reported report(Doing doing, String file, int layer, Warmth warmth) {
        return new Reported(warmth, doing, file, 10, 100, layer, 5, null, false);
    }

    private Kind kind(Reported report, Job job) {
        return reached.after(report, NOW).kind(job, COLD_C);
    }

    @Test
    void what_was_never_reached_is_out_of_reach_and_no_trouble_until_something_was_begun_on_it() {
        MachineState unknown = MachineState.unknown(NOW);
        assertThat(unknown.kind(null, COLD_C)).isEqualTo(Kind.OUT_OF_REACH);
        assertThat(unknown.trouble(null)).isEmpty();
        assertThat(unknown.trouble(OURS)).contains(Trouble.SILENT);
        assertThat(reached.kind(null, COLD_C)).as("as long as it has not said how it stands").isEqualTo(Kind.OUT_OF_REACH);
    }

    @Test
    void it_warms_up_until_both_are_warm_and_prints_from_then_on() {
        assertThat(kind(report(Doing.PRINTING, "ours.gcode", 0, new Warmth(120, 210, 60, 60)), OURS)).isEqualTo(Kind.WARMING);
        assertThat(kind(report(Doing.PRINTING, "ours.gcode", 0, new Warmth(210, 210, 40, 60)), OURS)).isEqualTo(Kind.WARMING);
        assertThat(kind(report(Doing.PRINTING, "ours.gcode", 0, HOT), OURS)).isEqualTo(Kind.PRINTING);
        assertThat(kind(report(Doing.PRINTING, "ours.gcode", 3, HOT), OURS)).isEqualTo(Kind.PRINTING);
    }

    @Test
    void after_a_print_it_cools_then_waits_to_be_cleared_and_is_idle_once_it_was() {
        Job over = new Job("ours.gcode", true, true);
        assertThat(kind(report(Doing.NOTHING, "", 0, new Warmth(90, 0, 55, 0)), over)).isEqualTo(Kind.COOLING);
        assertThat(kind(report(Doing.NOTHING, "", 0, COLD), over)).isEqualTo(Kind.TO_BE_CLEARED);
        assertThat(kind(report(Doing.NOTHING, "", 0, COLD), null)).isEqualTo(Kind.IDLE);
        assertThat(reached.after(report(Doing.NOTHING, "", 0, COLD), NOW).trouble(over)).isEmpty();
    }

    @ParameterizedTest
    @CsvSource({"the part has come off the bed, OFF_BED", "no filament moves: the nozzle is clogged, NO_FILAMENT", "the filament has run out, NO_FILAMENT",
            "the door is open, OPEN", "button pressed, PAUSED"})
    void why_it_has_paused_says_what_to_do_first(String said, Trouble trouble) {
        MachineState paused = reached.after(new MachineEvent.Paused(said), NOW).after(report(Doing.PAUSED, "ours.gcode", 7, HOT), NOW);
        assertThat(paused.kind(OURS, COLD_C)).isEqualTo(Kind.PAUSED);
        assertThat(paused.trouble(OURS)).contains(trouble);
        assertThat(paused.after(report(Doing.PRINTING, "ours.gcode", 7, HOT), NOW).trouble(OURS)).isEmpty();
    }

    @Test
    void a_pause_that_somebody_asked_for_is_no_trouble() {
        assertThat(reached.after(report(Doing.PAUSED, "ours.gcode", 7, HOT), NOW).trouble(OURS)).isEmpty();
    }

    @Test
    void a_nozzle_that_grows_cold_while_it_prints_is_seen_and_the_swing_of_its_control_is_not() {
        assertThat(reached.after(report(Doing.PRINTING, "ours.gcode", 7, new Warmth(190, 210, 60, 60)), NOW).trouble(OURS)).contains(Trouble.COLD);
        assertThat(reached.after(report(Doing.PRINTING, "ours.gcode", 7, new Warmth(203, 210, 60, 60)), NOW).trouble(OURS)).isEmpty();
        assertThat(reached.after(report(Doing.PRINTING, "ours.gcode", 0, new Warmth(90, 210, 60, 60)), NOW).trouble(OURS)).as("it still warms up").isEmpty();
    }

    @Test
    void a_halt_stays_until_it_says_that_it_has_gone() {
        MachineState halted = reached.after(new MachineEvent.Halted("thermal runaway"), NOW);
        assertThat(halted.trouble(OURS)).contains(Trouble.HALTED);
        assertThat(halted.after(report(Doing.STOPPED, "", 0, COLD), NOW).kind(OURS, COLD_C)).isEqualTo(Kind.FAULT);
        assertThat(halted.after(report(Doing.NOTHING, "", 0, COLD), NOW).trouble(null)).isEmpty();
    }

    @Test
    void silence_counts_from_when_it_began_and_a_line_that_another_holds_is_told_apart() {
        MachineState lost = reached.after(new MachineEvent.Lost("it does not answer"), NOW.plusSeconds(5));
        assertThat(lost.after(new MachineEvent.Lost("nobody answers there"), NOW.plusSeconds(50)).since()).isEqualTo(NOW.plusSeconds(5));
        assertThat(lost.trouble(OURS)).contains(Trouble.SILENT);
        assertThat(lost.trouble(null)).isEmpty();
        assertThat(reached.after(new MachineEvent.Lost("busy, another host is at the line"), NOW).trouble(null)).contains(Trouble.TAKEN);
    }

    @Test
    void what_breaks_off_and_what_nobody_here_began_is_said() {
        assertThat(reached.after(report(Doing.NOTHING, "", 0, COLD), NOW).trouble(new Job("ours.gcode", true, false))).contains(Trouble.CUT_SHORT);
        assertThat(reached.after(report(Doing.PRINTING, "theirs.gcode", 3, HOT), NOW).trouble(null)).contains(Trouble.UNKNOWN_FILE);
        assertThat(reached.after(report(Doing.PRINTING, "theirs.gcode", 3, HOT), NOW).trouble(OURS)).contains(Trouble.UNKNOWN_FILE);
    }

    @ParameterizedTest
    @CsvSource({"OFF_BED, 200 °C", "HALTED, fire", "NO_FILAMENT, gloves", "COLD, qualified", "OPEN, pinch"})
    void each_trouble_brings_the_caution_that_belongs_to_it(Trouble trouble, String word) {
        assertThat(trouble.caution()).contains(word);
    }
}
