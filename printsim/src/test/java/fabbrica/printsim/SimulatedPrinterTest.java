package fabbrica.printsim;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;
import static org.assertj.core.api.Assertions.within;

import fabbrica.core.mesh.model.Shapes;
import fabbrica.core.recipe.BuiltIn;
import fabbrica.core.recipe.Printer;
import fabbrica.printsim.SimulatedPrinter.Doing;
import fabbrica.printsim.SimulatedPrinter.Ended;
import java.time.Duration;
import java.time.Instant;
import java.util.ArrayList;
import java.util.List;
import java.util.Random;
import java.util.stream.IntStream;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.EnumSource;

class SimulatedPrinterTest {

    private static final Instant ON = Instant.parse("2031-05-05T08:00:00Z");
    private static final Files BOX = Files.of(Shapes.box(20, 20, 6));

    private final SimulatedPrinter printer = with(Truth.EXACT, Odds.NEVER, 1);

    private static SimulatedPrinter with(Truth truth, Odds odds, long seed) {
        return new SimulatedPrinter(Files.STANDARD, truth, odds, new Random(seed), ON);
    }

    private static Instant after(Duration time) {
        return ON.plus(time);
    }

    private Ended printed(SimulatedPrinter on) {
        on.start(BOX.program());
        on.passTo(after(Duration.ofDays(1)));
        return on.ended().orElseThrow();
    }

    @Test
    void without_a_truth_of_its_own_it_takes_the_time_and_the_plastic_that_the_planner_says() {
        Ended ended = printed(printer);
        assertThat(ended.whole()).isTrue();
        assertThat(ended.seconds()).isCloseTo(BOX.estimate().totalSeconds(), within(0.001 * BOX.estimate().totalSeconds()));
        // It parks with the filament drawn back.
        assertThat(ended.filamentMm() + Files.STANDARD.kinematics().retractionMm()).isCloseTo(BOX.estimate().filamentMm(), within(0.001 * BOX.estimate().filamentMm()));
        assertThat(printer.said()).containsExactly("Done printing file");
    }

    @Test
    void looking_often_changes_nothing() {
        printer.start(BOX.program());
        long millis = 0;
        for (; printer.ended().isEmpty(); millis += 700) {
            printer.passTo(after(Duration.ofMillis(millis)));
        }
        Ended once = printed(with(Truth.EXACT, Odds.NEVER, 1));
        assertThat(printer.ended().orElseThrow().seconds()).isCloseTo(once.seconds(), within(1e-6));
        assertThat(Duration.ofMillis(millis).toSeconds()).isCloseTo((long) once.seconds(), within(2L));
    }

    @Test
    void its_truth_stretches_each_phase_by_itself() {
        double readying = BOX.estimate().prepareSeconds(), printing = BOX.estimate().printSeconds();
        assertThat(printed(with(new Truth(1, 1, 1.2, 1, 0), Odds.NEVER, 1)).seconds()).isBetween(1.19 * printing + readying, 1.2 * (printing + readying));
        assertThat(printed(with(new Truth(2, 1, 1, 1, 0), Odds.NEVER, 1)).seconds()).isCloseTo(printing + readying + Files.STANDARD.preparation().bedHeatingS(BuiltIn.PLA)
                + Files.STANDARD.preparation().nozzleHeatingS(BuiltIn.PLA), within(1.0));
        assertThat(printed(with(new Truth(1, 1, 1, 1.1, 0), Odds.NEVER, 1)).filamentMm()).isCloseTo(1.1 * printed(with(Truth.EXACT, Odds.NEVER, 1)).filamentMm(), within(1e-6));
    }

    @Test
    void runs_differ_from_one_another_as_far_as_its_noise_goes_and_the_same_seed_gives_the_same() {
        List<Double> seconds = new ArrayList<>();
        for (long seed = 0; seed < 200; seed++) {
            seconds.add(Math.log(printed(with(new Truth(1, 1, 1, 1, 0.05), Odds.NEVER, seed)).filamentMm() / printed(printer()).filamentMm()));
        }
        double mean = seconds.stream().mapToDouble(Double::doubleValue).average().orElseThrow();
        double spread = Math.sqrt(seconds.stream().mapToDouble(each -> (each - mean) * (each - mean)).sum() / (seconds.size() - 1));
        assertThat(mean).isCloseTo(0, within(0.012));
        assertThat(spread).isCloseTo(0.05, within(0.008));
        assertThat(printed(with(new Truth(1, 1, 1, 1, 0.05), Odds.USUAL, 7))).isEqualTo(printed(with(new Truth(1, 1, 1, 1, 0.05), Odds.USUAL, 7)));
    }

    private static SimulatedPrinter printer() {
        return with(Truth.EXACT, Odds.NEVER, 1);
    }

    @Test
    void it_warms_for_minutes_before_anything_moves() {
        printer.start(BOX.program());
        printer.passTo(after(Duration.ofSeconds(60)));
        assertThat(printer.standing()).matches(standing -> standing.layer() == 0 && standing.bedC() > 30 && standing.bedC() < 60 && standing.filamentMm() == 0);
    }

    @ParameterizedTest
    @EnumSource(names = {"OFF_BED", "CLOG", "SNAG", "DOOR_OPEN"})
    void what_it_notices_makes_it_pause_at_that_layer_and_it_goes_on_when_told(Fault fault) {
        printer.whenLayer(11, fault);
        printer.start(BOX.program());
        printer.passTo(after(Duration.ofHours(5)));
        assertThat(printer.standing()).matches(standing -> standing.doing() == Doing.PAUSED && standing.layer() == 11);
        assertThat(printer.said()).containsExactly("//action:paused " + fault.sentence());
        printer.resume();
        printer.passTo(after(Duration.ofHours(10)));
        assertThat(printer.ended().orElseThrow().whole()).isTrue();
    }

    @Test
    void it_pauses_when_the_filament_has_run_out_and_another_spool_helps() {
        double needed = BOX.estimate().filamentMm();
        printer.load(needed / 2);
        printer.start(BOX.program());
        printer.passTo(after(Duration.ofHours(5)));
        assertThat(printer.standing().doing()).isEqualTo(Doing.PAUSED);
        assertThat(printer.standing().filamentMm()).isCloseTo(needed / 2, within(2.0));
        printer.resume();
        printer.passTo(after(Duration.ofHours(6)));
        assertThat(printer.standing().doing()).isEqualTo(Doing.PAUSED);
        printer.load(1e6);
        printer.resume();
        printer.passTo(after(Duration.ofHours(9)));
        assertThat(printer.ended().orElseThrow().whole()).isTrue();
    }

    @Test
    void a_heater_that_runs_away_makes_it_stop_everything_until_it_is_switched_off_and_on() {
        printer.whenLayer(3, Fault.RUNAWAY);
        printer.start(BOX.program());
        printer.passTo(after(Duration.ofHours(5)));
        assertThat(printer.standing()).matches(standing -> standing.doing() == Doing.HALTED && standing.nozzleTargetC() == 0 && standing.nozzleC() < 40);
        assertThat(printer.said()).anyMatch(line -> line.startsWith("!! Thermal runaway"));
        assertThat(printer.ended().orElseThrow()).matches(ended -> !ended.whole() && ended.layer() >= 3);
        assertThatThrownBy(() -> printer.start(BOX.program())).isInstanceOf(Refused.class).hasMessageContaining("switch it off and on");
        printer.switchOffAndOn();
        assertThat(printer.isReachable()).isFalse();
        printer.passTo(after(Duration.ofHours(5).plusMinutes(2)));
        assertThat(printer.isReachable()).isTrue();
        printer.start(BOX.program());
    }

    @Test
    void with_the_power_goes_what_it_was_at() {
        printer.whenLayer(5, Fault.POWER_CUT);
        printer.start(BOX.program());
        printer.passTo(after(Duration.ofHours(5)));
        assertThat(printer.standing()).matches(standing -> standing.doing() == Doing.IDLE && standing.file().isEmpty() && standing.bedTargetC() == 0);
        assertThat(printer.ended()).isEmpty();
    }

    @Test
    void nobody_reaches_it_while_the_line_is_dead_and_it_goes_on_meanwhile() {
        printer.whenLayer(2, Fault.LOST_CONNECTION);
        printer.start(BOX.program());
        printer.passTo(after(Duration.ofSeconds(Math.round(BOX.estimate().prepareSeconds()) + 90)));
        assertThat(printer.isReachable()).isFalse();
        printer.passTo(after(Duration.ofHours(5)));
        assertThat(printer.isReachable()).isTrue();
        assertThat(printer.ended().orElseThrow().whole()).isTrue();
    }

    @Test
    void it_takes_no_file_for_another_machine_and_no_second_one() {
        Printer other = BuiltIn.printer("large").orElseThrow();
        assertThatThrownBy(() -> new SimulatedPrinter(other, Truth.EXACT, Odds.NEVER, new Random(1), ON).start(BOX.program())).isInstanceOf(Refused.class)
                .hasMessage("that file is for “Standard”, this is “Large”");
        printer.start(BOX.program());
        assertThatThrownBy(() -> printer.start(BOX.program())).isInstanceOf(Refused.class);
    }

    @Test
    void cancelled_it_says_how_far_it_came() {
        printer.start(BOX.program());
        printer.passTo(after(Duration.ofSeconds(Math.round(BOX.estimate().totalSeconds() * 0.9))));
        printer.cancel();
        assertThat(printer.ended().orElseThrow()).matches(ended -> !ended.whole() && ended.layer() > 3 && ended.filamentMm() > 0);
        assertThat(printer.standing().bedTargetC()).isZero();
    }

    @Test
    void a_clock_that_is_set_back_lets_it_wait() {
        printer.start(BOX.program());
        printer.passTo(after(Duration.ofMinutes(20)));
        SimulatedPrinter.Standing standing = printer.standing();
        printer.passTo(after(Duration.ofMinutes(10)));
        assertThat(printer.standing()).isEqualTo(standing);
    }

    @Test
    void about_one_run_in_twelve_goes_wrong_by_itself() {
        Random random = new Random(1);
        assertThat(IntStream.range(0, 1000).filter(run -> Odds.USUAL.draw(random).isPresent()).count()).isBetween(50L, 105L);
    }
}
