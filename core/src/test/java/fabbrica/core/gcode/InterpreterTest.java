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
        assertThat(moveAfter("M204 P500\n")).isCloseTo(2.1, within(1e-9));
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
    void plastic_on_a_place_to_be_kept_free_is_found() throws IOException {
        Printer kept = new Printer("kept", "Kept", new Bed(220, 220, 250, List.of(new Bed.Zone(0, 0, 20, 20))),
                STANDARD.nozzle(), STANDARD.kinematics(), STANDARD.preparation(), 1.75, false, 260, 100, STANDARD.materialIds());
        Replay replay = replay(READY + "G1 X10 Y10 E1\nG1 X50 Y50 E1\nG0 X10 Y10\n", kept);
        assertThat(replay.onKeepOut()).isEqualTo(1);
        assertThat(codes(SlicedFileFindings.of(replay, kept, BuiltIn.PLA, null))).contains(Code.OFF_BED);
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
