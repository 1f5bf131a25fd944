package fabbrica.core.gcode;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import fabbrica.core.bed.Bed;
import fabbrica.core.gcode.Replay.Wait;
import fabbrica.core.inspect.Finding;
import fabbrica.core.inspect.Finding.Code;
import fabbrica.core.recipe.BuiltIn;
import fabbrica.core.recipe.Printer;
import fabbrica.core.toolpath.PathType;
import java.io.ByteArrayInputStream;
import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.util.List;
import java.util.stream.IntStream;
import org.junit.jupiter.api.Test;

/**
 * What each code does, worked by hand on a printer of 1000 mm/s² whose axis Z moves 10 mm/s; codes as the RepRap project's
 * open list has them.
 */
class InterpreterTest {

    private static final Printer STANDARD = BuiltIn.printer("standard").orElseThrow();
    private static final Printer KEPT = new Printer("kept", "Kept", new Bed(220, 220, 250, List.of(new Bed.Zone(0, 0, 20, 20))),
            STANDARD.nozzle(), STANDARD.kinematics(), STANDARD.preparation(), 1.75, false, 260, 100, STANDARD.materialIds());
    private static final String READY = "G28\nM109 S200\nM83\nG1 Z0.2 F600\n";

    @Test
    void a_dwell_is_in_milliseconds_or_seconds() throws IOException {
        assertThat(replay("G4 P1500\nG4 S2\n").waits()).containsEntry(Wait.DWELL, 3.5);
    }

    @Test
    void levelling_pictures_and_changes_take_what_the_lab_has_measured() throws IOException {
        Printer fast = BuiltIn.printer("fast").orElseThrow();
        Replay replay = replay("G28\nG29\nM240\nM240\nM600\n", fast);
        assertThat(replay.waits().get(Wait.LEVEL))
                .isEqualTo(fast.preparation().levellingS() + fast.preparation().flowS());
        assertThat(replay.waits().getOrDefault(Wait.PICTURE, 0.0)).isEqualTo(2 * fast.preparation().pictureS());
        assertThat(replay.waits()).containsEntry(Wait.CHANGE, 60.0);
        assertThat(replay.totalSeconds()).isCloseTo(replay.waitSeconds(), within(1e-9));
    }

    @Test
    void homing_one_axis_leaves_the_others_where_they_are() throws IOException {
        // 60 mm and back 0 mm: after G28 X the head stands at x 0, y 40.
        Replay replay = replay(READY + "G1 X60 Y40 F6000\nG28 X\nG1 X10 E0.5\n");
        assertThat(replay.printed().minX()).isZero();
        assertThat(replay.printed().minY()).isEqualTo(40);
    }

    @Test
    void factors_for_speed_and_flow_are_per_cent() throws IOException {
        double plain = replay(READY + "G1 X100 E4 F1200\n").motion().totalSeconds();
        Replay half = replay(READY + "M220 S50\nM221 S50\nG1 X100 E4 F1200\n");
        // 20 mm/s over 100 mm against 10 mm/s: 5 s more, ramps of 0.02 s apart.
        assertThat(half.motion().totalSeconds() - plain).isCloseTo(5, within(0.03));
        assertThat(half.totalFilamentMm()).isEqualTo(2);
    }

    @Test
    void acceleration_can_be_set_but_not_beyond_the_machine() throws IOException {
        // 100 mm at 50 mm/s: s / v + v / a = 2.05 s at 1000 mm/s², 2.1 s at 500.
        assertThat(moveAfter("M204 S500\n")).isCloseTo(2.1, within(1e-9));
        assertThat(moveAfter("M204 T500\n")).isCloseTo(2.1, within(1e-9));
        assertThat(moveAfter("M204 S90000\n")).isCloseTo(2.05, within(1e-9));
    }

    @Test
    void corners_are_limited_as_the_file_asks() throws IOException {
        String corner = "G1 X50 F6000\nG1 Y50\n";
        double gentle = replay("G28\nM205 X2\n" + corner).motion().totalSeconds();
        double hard = replay("G28\nM205 X20\n" + corner).motion().totalSeconds();
        double straying = replay("G28\nM205 J0.2\n" + corner).motion().totalSeconds();
        assertThat(hard).isLessThan(gentle);
        assertThat(straying).isLessThan(gentle);
    }

    @Test
    void the_slow_axis_holds_a_slanted_move_back() throws IOException {
        // 10 mm up at 10 mm/s takes 1 s however far it goes across meanwhile.
        assertThat(replay("G28\nG1 X30 Z10 F12000\n").motion().totalSeconds()).isGreaterThan(1);
        assertThat(replay("G28\nG1 X30 F12000\n").motion().totalSeconds()).isLessThan(0.5);
    }

    @Test
    void each_tool_has_its_own_filament() throws IOException {
        Replay replay = replay(READY + "G1 X10 E1\nT1\nG1 X20 E2\nT0\nG1 X30 E0.5\n");
        assertThat(replay.filamentMm()).containsEntry(0, 1.5).containsEntry(1, 2.0);
        assertThat(replay.totalFilamentMm()).isEqualTo(3.5);
    }

    @Test
    void filament_drawn_back_and_advanced_again_is_counted_once() throws IOException {
        Replay replay = replay(READY + "G1 X10 E1\nG1 E-0.8 F2400\nG0 X20 F600\nG1 E0.8 F2400\nG1 X30 E1 F600\nG10\nG0 X0\nG11\n");
        assertThat(replay.totalFilamentMm()).isCloseTo(2, within(1e-9));
        // Twice 0.8 mm at 40 mm/s by the file, twice the printer's own 1 mm.
        assertThat(replay.motion().totalSeconds()).isGreaterThan(replay(READY + "G1 X10 E1\nG0 X20\nG1 X30 E1\nG0 X0\n")
                .motion().totalSeconds());
    }

    @Test
    void moves_before_homing_cold_lines_and_backward_ones_are_counted() throws IOException {
        Replay replay = replay("G1 X5\nG1 X6\nG28\nM83\nG1 X10 E1\nG1 X20 E-1\n");
        assertThat(replay.beforeHoming()).isEqualTo(2);
        assertThat(replay.cold()).isTrue();
        assertThat(replay.backwards()).isEqualTo(1);
        assertThat(replay(READY + "G1 X10 E1\n").cold()).isFalse();
    }

    @Test
    void a_low_way_through_a_place_to_be_kept_free_is_found_but_not_one_into_it_or_high_above() throws IOException {
        Replay replay = replay("G1 X100 Y10\n" + READY + "G28\nG0 X30 Y5 Z0.3\nG0 X5 Y30\nG0 Y50\nG0 X30 Y5\nG0 X10\n"
                + "G0 Z5\nG0 X30\nG0 X5 Y30\nG0 Y40\nG0 Z1\nG0 X40 Y5\nG2 X5 Y40 I0 J35\n", KEPT);
        assertThat(replay.passages()).extracting(Replay.Passage::text).containsExactly("G0 X5 Y30", "G2 X5 Y40 I0 J35");
        assertThat(SlicedFileFindings.of(replay(READY + "G28\nG0 X30 Y5\nG0 X5 Y30\nG1 X90 Y90 E9\n", KEPT), KEPT, BuiltIn.PLA, null))
                .extracting(Finding::message).anyMatch(text -> text.contains("through what is to be kept free, 0 mm"));
    }

    @Test
    void plastic_on_a_place_to_be_kept_free_is_found() throws IOException {
        Replay replay = replay(READY + "G1 X10 Y10 E1\nG1 X50 Y50 E1\nG0 X10 Y10\nG0 X30 Y5\nG1 X5 Y30 E1\nG1 Y60 E1\n", KEPT);
        assertThat(replay.onKeepOut()).isEqualTo(3);
        assertThat(codes(SlicedFileFindings.of(replay, KEPT, BuiltIn.PLA, null))).contains(Code.OFF_BED);
    }

    @Test
    void flow_is_judged_on_moves_of_a_millimetre_and_more() throws IOException {
        // 10 mm with 0.5 mm of filament at 100 mm/s: 0.5 × 2.405 / 10 × 100 = 12.03 mm³/s.
        Replay replay = replay(READY + "G1 X10 E0.5 F6000\nG1 X10.5 E1\n");
        assertThat(replay.fastestFlow()).isCloseTo(12.03, within(0.01));
        List<Finding> findings = SlicedFileFindings.of(replay, STANDARD, BuiltIn.PLA, null);
        assertThat(codes(findings)).contains(Code.TOO_MUCH_FLOW);
        assertThat(findings).anySatisfy(finding -> assertThat(finding.message()).contains("12 mm³/s"));
    }

    @Test
    void comments_name_what_lines_are_for_and_what_the_file_says_of_itself() throws IOException {
        Replay replay = replay(READY + "; path: outer_wall\nG1 X10 E1\n; path: infill\nG1 X10 Y30 E1\n"
                + "; printer = Other One\n;Layer height: 0.2\n");
        assertThat(replay.motion().seconds(PathType.OUTER_WALL)).isPositive();
        assertThat(replay.motion().seconds(PathType.INFILL)).isGreaterThan(replay.motion().seconds(PathType.OUTER_WALL));
        assertThat(replay.hints()).containsEntry("printer", "Other One").containsEntry("layer height", "0.2");
        assertThat(codes(SlicedFileFindings.of(replay, STANDARD, BuiltIn.PLA, null))).contains(Code.OTHER_PRINTER);
    }

    @Test
    void an_arc_in_relative_inches_climbs_evenly() throws IOException {
        // A full turn of radius 1 inch over a rise of 0.2 inch: √((2π · 25.4)² + 5.08²) mm.
        Replay helix = replay(READY + "G20\nG91\nG3 X0 Y0 Z0.2 I1 J0 E0.2\n");
        assertThat(helix.laidMm()).isCloseTo(Math.hypot(2 * Math.PI * 25.4, 5.08), within(0.05));
        assertThat(helix.printed().maxZ()).isCloseTo(5.28, within(1e-6));
        assertThat(helix.totalFilamentMm()).isCloseTo(5.08, within(1e-9));
    }

    @Test
    void the_long_way_round_is_taken_for_a_negative_radius() throws IOException {
        String start = READY + "G1 X10 Y0 F6000\n";
        assertThat(replay(start + "G3 X0 Y10 R10 E1\n").laidMm()).isCloseTo(5 * Math.PI, within(0.02));
        assertThat(replay(start + "G3 X0 Y10 R-10 E1\n").laidMm()).isCloseTo(15 * Math.PI, within(0.05));
    }

    @Test
    void a_layer_knows_its_line_and_the_seconds_before_it() throws IOException {
        Replay replay = replay(READY + "G1 X50 E2 F1500\nG1 Z0.4 F600\nG1 X0 E2 F1500\n");
        assertThat(replay.layers()).hasSize(2);
        assertThat(replay.layers().get(0).line()).isEqualTo(5);
        assertThat(replay.layers().get(1).line()).isEqualTo(7);
        assertThat(replay.layers().get(1).startS()).isBetween(2.0, replay.motion().totalSeconds());
    }

    @Test
    void no_more_faults_and_hints_are_kept_than_anybody_reads() throws IOException {
        StringBuilder file = new StringBuilder(READY);
        IntStream.range(0, 5000).forEach(i -> file.append("! broken ").append(i).append('\n').append("; name").append(i)
                .append(" = ").append(i).append('\n'));
        Replay replay = replay(file.toString());
        assertThat(replay.faultCount()).isEqualTo(5000);
        assertThat(replay.faults()).hasSize(20);
        assertThat(replay.hints()).hasSize(400);
    }

    @Test
    void an_empty_file_lays_nothing_and_takes_no_time() throws IOException {
        Replay replay = replay("");
        assertThat(replay.totalSeconds()).isZero();
        assertThat(replay.printed()).isNull();
        assertThat(codes(SlicedFileFindings.of(replay, STANDARD, BuiltIn.PLA, null)).getFirst()).isEqualTo(Code.NOTHING_LAID);
    }

    @Test
    void several_commands_on_one_line_are_all_carried_out() throws IOException {
        Replay replay = replay("G28 M109 S200 M140 S60\nG90 M83\nG1 X10 E1 F600\nG1 X20 E1\n");
        assertThat(replay.totalFilamentMm()).isEqualTo(2);
        assertThat(replay.hottestNozzle()).isEqualTo(200);
        assertThat(replay.hottestBed()).isEqualTo(60);
        // RS-274: coordinates behind a mode belong to the motion that goes on.
        assertThat(replay(READY + "G0 X10\nG91 X5\nG1 X5 E1\n").printed().maxX()).isEqualTo(20);
        assertThat(replay(READY + "G1" + " G90".repeat(100) + " X5\n").faultCount()).isEqualTo(1);
    }

    @Test
    void amounts_after_both_m83_and_g90_are_read_as_the_file_makes_sense() throws IOException {
        StringBuilder steps = new StringBuilder("G28\nM109 S200\nM83\nG90\n");
        StringBuilder fromZero = new StringBuilder(steps);
        for (int i = 1; i <= 100; i++) {
            steps.append("G1 X%d E%.3f F1200\n".formatted(i, i % 3 == 0 ? 0.02 : 0.04));
            fromZero.append("G1 X%d E%.3f F1200\n".formatted(i, 0.03 * i));
        }
        Replay relative = replay(steps.toString()), absolute = replay(fromZero.toString());
        assertThat(relative.totalFilamentMm()).isCloseTo(33 * 0.02 + 67 * 0.04, within(1e-9));
        assertThat(absolute.totalFilamentMm()).isCloseTo(3, within(1e-9));
        assertThat(relative.cautions()).singleElement().satisfies(caution -> assertThat(caution.sentence())
                .startsWith("Line 4:").contains("step by step").doesNotContain("at least"));
        assertThat(absolute.cautions()).singleElement().satisfies(caution -> assertThat(caution.sentence())
                .contains("from the last zero"));
    }

    @Test
    void a_long_file_without_amounts_is_not_held_back_to_its_end() throws IOException {
        String file = "G28\nM109 S200\nM82\nG91\n" + "G1 X0.01\n".repeat(30_000) + "G90\nG1 X10 E1 F600\n";
        assertThat(replay(file).totalFilamentMm()).isEqualTo(1);
    }

    @Test
    void amounts_in_inches_are_told_apart_as_well() throws IOException {
        StringBuilder file = new StringBuilder("G28\nM109 S200\nG20\nM82\nG1 X0.1 E1 F60\nM83\nG90\n");
        for (int i = 1; i <= 60; i++) {
            file.append("G1 X%.2f E%.4f\n".formatted(0.1 + 0.05 * i, 1 + 0.001 * i));
        }
        assertThat(replay(file.toString()).totalFilamentMm()).isCloseTo(1.06 * 25.4, within(1e-6));
    }

    @Test
    void a_hop_in_steps_leaves_amounts_from_zero_alone() throws IOException {
        // M82, then a lift in steps that draws 2 mm back: 2 mm either way, not all the way to −2.
        String file = "G28\nM109 S200\nM82\nG1 X10 E40 F1200\nG91\nG1 E-2 F2400\nG1 Z1\nG90\nG1 E40\n";
        assertThat(replay(file).totalFilamentMm()).isCloseTo(40, within(1e-9));
        assertThat(replay(file).motion().retractionS()).isLessThan(0.2);
    }

    @Test
    void each_change_of_tool_takes_what_the_lab_has_measured() throws IOException {
        StringBuilder file = new StringBuilder(READY).append("T0\nG1 X1 E0.1 F1200\n");
        for (int i = 0; i < 200; i++) {
            file.append("T").append((i + 1) % 2).append("\nG1 X").append(i % 50).append(" E0.1\n");
        }
        assertThat(replay(file.toString()).waits()).containsEntry(Wait.CHANGE, 200 * 120.0);
    }

    @Test
    void what_would_stop_everything_is_said_and_not_taken() throws IOException {
        Replay replay = replay(READY + "G1 X50 E1 F1200\nG1 X0 E1 F0\nM220 S0\nG1 X50 E1\nM221 S0\nG1 X0 E1\n");
        assertThat(replay.motion().totalSeconds()).isLessThan(15);
        assertThat(replay.totalFilamentMm()).isEqualTo(3);
        assertThat(replay.atLeast()).isTrue();
        assertThat(replay.cautions()).extracting(Cautions.Caution::line).containsExactly(6L, 7L);
        assertThat(codes(SlicedFileFindings.of(replay, STANDARD, BuiltIn.PLA, null))).contains(Code.READ_WITH_CARE);
    }

    @Test
    void limits_that_a_file_sets_hold_where_they_are_below_the_machine_s() throws IOException {
        // 100 mm at 20 mm/s and 1000 mm/s²: s / v + v / a; at 50 mm/s and 200 mm/s² likewise.
        assertThat(moveAfter("M203 X20\n")).isCloseTo(5.02, within(1e-9));
        assertThat(moveAfter("M203 X900 Y20\n")).isCloseTo(2.05, within(1e-9));
        assertThat(moveAfter("M201 X200\n")).isCloseTo(2.25, within(1e-9));
        // T for what is not laid, P for what is.
        assertThat(moveAfter("M204 P100 T500\n")).isCloseTo(2.1, within(1e-9));
        // 1 mm of filament at 40 mm/s and 500 mm/s² never gets there: 2 · √(s / a).
        assertThat(replay("G28\nM204 R500\nG10\n").motion().retractionS()).isCloseTo(2 * Math.sqrt(1 / 500.0), within(1e-9));
        // No move is over in less than 20 000 µs.
        assertThat(replay("G28\nM205 B20000\nG91\n" + "G1 X0.1 F9000\n".repeat(500)).motion().totalSeconds())
                .isCloseTo(10, within(0.1));
    }

    @Test
    void waits_whose_end_cannot_be_known_make_the_time_a_least_one() throws IOException {
        assertThat(replay(READY + "M140 S90\nM190 S90\nM190 R40\n").atLeast()).isTrue();
        assertThat(replay(READY + "M190 R60\n").atLeast()).isFalse();
        assertThat(replay(READY + "M0\n").atLeast()).isTrue();
        assertThat(replay(READY + "G1 X10 E1\nG7 X3\n").atLeast()).isTrue();
        assertThat(replay(READY + "G1 X10 E1\n! broken\n").cautions()).singleElement()
                .satisfies(caution -> assertThat(caution.sentence()).startsWith("Line 6:").contains("at least"));
        assertThat(replay(READY + "G1 X10 E1\n").atLeast()).isFalse();
    }

    @Test
    void a_tool_is_set_up_and_not_drawn_back() throws IOException {
        Replay replay = replay("G28\nG10 P0 S215 R180\nM83\nG1 X10 E1 F600\n");
        assertThat(replay.hottestNozzle()).isEqualTo(215);
        assertThat(replay.motion().retractionS()).isZero();
    }

    @Test
    void arcs_turn_in_all_three_planes() throws IOException {
        // A quarter of 10 mm; RS-274 has the axes of G18 in the order Z, X and of G19 in the order Y, Z.
        String start = READY + "G1 X100 Y100 Z20 F6000\n";
        for (String arc : List.of("G17\nG3 X90 Y110 I-10 J0 E1", "G18\nG3 X110 Z10 I0 K-10 E1", "G19\nG3 Y90 Z30 J-10 K0 E1")) {
            assertThat(replay(start + arc + "\n").laidMm()).as(arc).isCloseTo(5 * Math.PI, within(0.02));
        }
        assertThat(replay(start + "G19\nG3 Y90 Z30 J-10 K0 E1\n").printed().maxZ()).isCloseTo(30, within(1e-6));
    }

    @Test
    void centres_can_be_given_from_the_origin() throws IOException {
        String start = READY + "G1 X10 Y0 F6000\n";
        assertThat(replay(start + "G90.1\nG3 X0 Y10 I0 J0 E1\n").laidMm()).isCloseTo(5 * Math.PI, within(0.02));
        assertThat(replay(start + "G90.1\nG91.1\nG3 X0 Y10 I-10 J0 E1\n").laidMm()).isCloseTo(5 * Math.PI, within(0.02));
        // G90.1 is no G90: amounts stay steps.
        assertThat(replay(start + "G90.1\nG1 X5 E1\nG1 X0 E1\n").totalFilamentMm()).isEqualTo(2);
    }

    @Test
    void arcs_that_do_not_exist_are_gone_straight_and_said() throws IOException {
        for (String arc : List.of("G2 X40 R5 E1", "G2 X40 E1", "G3 X10 Y0 R5 E1")) {
            Replay replay = replay(READY + "G1 X10 Y0 F6000\n" + arc + "\n");
            assertThat(replay.atLeast()).as(arc).isTrue();
            assertThat(replay.cautions().getFirst().line()).isEqualTo(6);
            assertThat(replay.laidMm()).as(arc).isBetween(0.0, 30.0);
        }
    }

    @Test
    void a_byte_order_mark_is_no_fault() throws IOException {
        Replay replay = replay("\uFEFF" + READY + "G1 X10 E1\n");
        assertThat(replay.faultCount()).isZero();
        assertThat(replay.beforeHoming()).isZero();
    }

    private static double moveAfter(String setting) throws IOException {
        return replay("G28\n" + setting + "G1 X100 F3000\n").motion().totalSeconds();
    }

    private static List<Code> codes(List<Finding> findings) {
        return findings.stream().map(Finding::code).toList();
    }

    private static Replay replay(String file) throws IOException {
        return replay(file, STANDARD);
    }

    private static Replay replay(String file, Printer printer) throws IOException {
        return Replay.of(new ByteArrayInputStream(file.getBytes(StandardCharsets.UTF_8)), printer);
    }
}
