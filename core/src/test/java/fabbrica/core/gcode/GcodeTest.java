package fabbrica.core.gcode;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;
import static org.assertj.core.api.Assertions.within;

import fabbrica.core.estimate.Estimate;
import fabbrica.core.gcode.Replay.Wait;
import fabbrica.core.inspect.Finding;
import fabbrica.core.inspect.Finding.Code;
import fabbrica.core.inspect.Severity;
import fabbrica.core.mesh.model.Mesh;
import fabbrica.core.mesh.model.Shapes;
import fabbrica.core.motion.Motion;
import fabbrica.core.printing.Printed;
import fabbrica.core.recipe.Adhesion;
import fabbrica.core.recipe.BuiltIn;
import fabbrica.core.recipe.LineWork;
import fabbrica.core.recipe.Material;
import fabbrica.core.recipe.OwnWay;
import fabbrica.core.recipe.Printer;
import fabbrica.core.recipe.Recipe;
import fabbrica.core.recipe.Spool;
import fabbrica.core.recipe.StartingPoint;
import fabbrica.core.recipe.Supports;
import fabbrica.core.toolpath.PathType;
import fabbrica.core.toolpath.Toolpath;
import fabbrica.core.units.OutOfRange;
import fabbrica.core.units.Progress;
import java.io.ByteArrayInputStream;
import java.io.ByteArrayOutputStream;
import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.util.Currency;
import java.util.List;
import java.util.stream.Stream;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.MethodSource;

/** The language as NIST's RS274/NGC interpreter report (NISTIR 6556) and the RepRap project's open G-code list have it. */
class GcodeTest {

    private static final Printer STANDARD = BuiltIn.printer("standard").orElseThrow();
    private static final Printer FAST = BuiltIn.printer("fast").orElseThrow();
    private static final Recipe DAILY = StartingPoint.DAILY_BREAD.recipe(STANDARD.nozzle(), STANDARD.kinematics());

    static Stream<Recipe> recipes() {
        return Stream.of(DAILY, DAILY.with(Adhesion.RAFT), DAILY.with(Supports.of(Supports.Where.EVERYWHERE)),
                DAILY.with(LineWork.USUAL.asSpiral()), DAILY.with(LineWork.USUAL.withChanges(List.of(3.0))),
                DAILY.with(LineWork.USUAL.withVariableLayers(true)));
    }

    @ParameterizedTest
    @MethodSource("recipes")
    void what_is_written_and_read_back_takes_the_estimated_time_and_filament(Recipe recipe) throws IOException {
        for (Printer printer : List.of(STANDARD, FAST)) {
            Mesh mesh = Shapes.together(Shapes.cone(6, 14, 12, 48), Shapes.box(30, 12, 6).moved(20, 0, 0));
            Toolpath toolpath = Toolpath.of(mesh, recipe, Progress.IGNORED);
            Estimate estimate = Printed.estimate(toolpath, recipe, printer);
            Replay replay = replay(written(toolpath, recipe, printer), printer);
            assertThat(replay.totalSeconds()).isCloseTo(estimate.totalSeconds(), within(estimate.totalSeconds() * 0.001));
            // The head parks with the filament drawn back.
            double drawnBack = printer.kinematics().retractionMm();
            double byHand = recipe.lines().changesMm().size() * printer.preparation().purgeMm3() / printer.filamentAreaMm2();
            assertThat(replay.totalFilamentMm() + byHand + drawnBack)
                    .isCloseTo(estimate.filamentMm(), within(estimate.filamentMm() * 0.001));
            assertThat(replay.motion().seconds(PathType.OUTER_WALL)).isCloseTo(estimate.byPath().get(PathType.OUTER_WALL)
                    .seconds(), within(estimate.totalSeconds() * 0.001));
            assertThat(replay.unknown()).isEmpty();
            assertThat(replay.faultCount()).isZero();
            assertThat(SlicedFileFindings.of(replay, printer, BuiltIn.PLA, null)).isEmpty();
            if (!recipe.lines().spiral()) {
                assertThat(replay.layers()).hasSize(toolpath.layers().size());
            }
        }
    }

    @Test
    void the_labs_own_start_and_end_stand_in_place_of_the_usual() throws IOException {
        Printer own = STANDARD.with(new OwnWay("M140 S{bed}\nM109 S{nozzle}\n\nG28 ; home\nG91\nG1 E4 F300\nM83",
                "M104 S0\nG28 X0"));
        Toolpath path = Toolpath.of(Shapes.box(15, 15, 4), DAILY, Progress.IGNORED);
        String file = written(path, DAILY, own);
        assertThat(file).contains("M140 S60\nM109 S210\nG28 ; home\nG91").doesNotContain("G29").endsWith("M104 S0\nG28 X0\n");
        Replay replay = replay(file, own);
        Estimate estimate = Printed.estimate(path, DAILY, own);
        // The start feeds 4 mm before its count is set back; the usual purge is not laid.
        double purged = own.preparation().purgeMm3() / own.filamentAreaMm2();
        assertThat(replay.totalFilamentMm() - 4).isCloseTo(estimate.filamentMm() - purged, within(0.01));
        assertThat(SlicedFileFindings.of(replay, own, BuiltIn.PLA, null)).isEmpty();
        assertThat(OwnWayCheck.of(own.ownWay().start(), own)).isEmpty();
        assertThat(OwnWayCheck.of("M109 S300\nM140 S130\nG1 X1 X2", own)).containsExactly(
                "Own start or end, line 3, “X” comes twice: G1 X1 X2.",
                "The own start or end heats the nozzle to 300 °C; Standard allows 260 °C.",
                "The own start or end heats the bed to 130 °C; Standard allows 100 °C.");
    }

    @Test
    void parts_printed_one_after_another_read_back_as_estimated_and_each_begins_slowly_on_the_bed() throws IOException {
        Toolpath both = Toolpath.oneAfterAnother(List.of(Toolpath.of(Shapes.box(15, 15, 4), DAILY, Progress.IGNORED),
                Toolpath.of(Shapes.box(15, 15, 6).moved(60, 0, 0), DAILY, Progress.IGNORED)));
        Estimate estimate = Printed.estimate(both, DAILY, STANDARD);
        Replay replay = replay(written(both, DAILY, STANDARD), STANDARD);
        assertThat(replay.totalSeconds()).isCloseTo(estimate.totalSeconds(), within(estimate.totalSeconds() * 0.001));
        assertThat(replay.layers()).hasSize(both.layers().size());
        int second = 20;
        assertThat(both.layers().get(second).topMm()).isEqualTo(both.layers().getFirst().topMm());
        assertThat(new fabbrica.core.motion.LayerMoves(both.layers().get(second), both.layers().get(second - 1), DAILY,
                STANDARD.kinematics(), 1).speedMmS(0)).isEqualTo(DAILY.pace().firstLayerMmS());
    }

    @Test
    void a_drawn_file_has_the_layers_and_lines_of_the_toolpath_it_came_from() throws IOException {
        Toolpath path = Toolpath.of(Shapes.cone(10, 6, 5, 40), DAILY, Progress.IGNORED);
        GcodeLayers drawn = GcodeLayers.of(new ByteArrayInputStream(written(path, DAILY, STANDARD)
                .getBytes(StandardCharsets.UTF_8)), STANDARD);
        assertThat(drawn.toolpath().layers()).hasSize(path.layers().size());
        for (PathType type : List.of(PathType.OUTER_WALL, PathType.INNER_WALL, PathType.SOLID, PathType.INFILL)) {
            assertThat(drawn.toolpath().lengthMm(type)).isCloseTo(path.lengthMm(type), within(path.lengthMm(type) * 0.002 + 0.1));
        }
        assertThat(drawn.speeds().get(3)).hasSize(drawn.toolpath().layers().get(3).pathCount());
    }

    @Test
    void the_writer_refuses_what_lies_beyond_the_printer() {
        Toolpath path = Toolpath.of(Shapes.box(20, 20, 5), DAILY, Progress.IGNORED);
        Motion motion = Motion.of(path, DAILY, STANDARD, Progress.IGNORED);
        assertThatThrownBy(() -> GcodeWriter.write(path, motion, DAILY, STANDARD, BuiltIn.PLA, 210, 10, List.of(),
                new ByteArrayOutputStream())).isInstanceOf(OutOfRange.class).hasMessageContaining("220 × 220 × 250 mm");
        assertThatThrownBy(() -> GcodeWriter.write(path, motion, DAILY, STANDARD, BuiltIn.PA_CARBON, 50, 50, List.of(),
                new ByteArrayOutputStream())).isInstanceOf(OutOfRange.class).hasMessageContaining("280 °C");
    }

    @Test
    void a_straight_move_takes_the_time_of_the_textbook() throws IOException {
        // 100 mm at 50 mm/s and 1000 mm/s²: s / v + v / a = 2.05 s.
        Replay replay = replay("G28\nG1 X100 F3000\n", STANDARD);
        assertThat(replay.motion().totalSeconds()).isCloseTo(2.05, within(1e-9));
        assertThat(replay.waits().get(Wait.HOME)).isEqualTo(25);
    }

    @Test
    void words_may_come_in_any_order_case_and_spacing_with_numbers_checksums_and_comments() throws IOException {
        String plain = "G28\nM109 S200\nG92 E0\nG1 X10 Y20 Z0.2 F1200\nG1 X60.5 E2.5\n";
        String odd = "g28 (home)\r\nN2 M109S200*31\nG92E0;zero\n\n  N3 G1F1200Z.2Y+20X10 *7\nG1 E2.50 x60.500 ; on\n";
        assertThat(replay(odd, STANDARD).totalSeconds()).isEqualTo(replay(plain, STANDARD).totalSeconds());
        assertThat(replay(odd, STANDARD).printed()).isEqualTo(replay(plain, STANDARD).printed());
        assertThat(replay(odd, STANDARD).faultCount()).isZero();
    }

    @Test
    void relative_and_absolute_inches_and_shifted_axes_mean_the_same_square() throws IOException {
        String heat = "G28\nM109 S200\n";
        Replay absolute = replay(heat + "G90\nM82\nG1 Z0.2\nG1 X10 Y10\nG1 X20 Y10 E1\nG1 X20 Y20 E2\n", STANDARD);
        Replay relative = replay(heat + "G91\nM83\nG1 Z0.2\nG1 X10 Y10\nG1 X10 E1\nG1 Y10 E1\n", STANDARD);
        Replay inches = replay(heat + "G20\nG1 Z0.00787401574803\nG1 X0.393700787401575 Y0.393700787401575\n"
                + "G1 X0.78740157480315 E0.0393700787401575\nG1 Y0.78740157480315 E0.078740157480315\n", STANDARD);
        Replay shifted = replay(heat + "G1 Z0.2\nG1 X10 Y10\nG92 X0 Y0\nG1 X10 E1\nG1 Y10 E2\n", STANDARD);
        for (Replay other : List.of(relative, inches, shifted)) {
            assertThat(other.totalFilamentMm()).isCloseTo(absolute.totalFilamentMm(), within(1e-9));
            assertThat(other.printed().maxX()).isCloseTo(20, within(1e-6));
            assertThat(other.printed().maxY()).isCloseTo(20, within(1e-6));
            assertThat(other.totalSeconds()).isCloseTo(absolute.totalSeconds(), within(1e-6));
        }
    }

    @Test
    void arcs_are_walked_along_their_circle() throws IOException {
        String heat = "G28\nM109 S200\nG1 X10 Y0 Z0.2 F6000\nM83\n";
        Replay half = replay(heat + "G3 X-10 Y0 I-10 J0 E1\n", STANDARD);
        assertThat(half.laidMm()).isCloseTo(Math.PI * 10, within(0.02));
        assertThat(half.printed().maxY()).isCloseTo(10, within(0.02));
        Replay clockwise = replay(heat + "G2 X-10 Y0 R10 E1\n", STANDARD);
        assertThat(clockwise.printed().minY()).isCloseTo(-10, within(0.02));
        Replay full = replay(heat + "G2 X10 Y0 I-10 J0 E1\n", STANDARD);
        assertThat(full.laidMm()).isCloseTo(2 * Math.PI * 10, within(0.03));
        Replay quarter = replay(heat + "G3 X0 Y10 R10 E1\n", STANDARD);
        assertThat(quarter.laidMm()).isCloseTo(Math.PI * 5, within(0.02));
    }

    @Test
    void heaters_warm_at_their_rate_and_side_by_side() throws IOException {
        // 0.25 °C/s from 20 to 60: 160 s; 2.5 °C/s from 20 to 210: 76 s, over long before the bed is warm.
        Replay apart = replay("M190 S60\nM109 S210\n", STANDARD);
        assertThat(apart.waits().get(Wait.HEAT_BED)).isCloseTo(160, within(1e-9));
        assertThat(apart.waits().get(Wait.HEAT_NOZZLE)).isCloseTo(76, within(1e-9));
        Replay together = replay("M140 S60\nM104 S210\nM190 S60\nM109 S210\n", STANDARD);
        assertThat(together.waitSeconds()).isCloseTo(160, within(1e-9));
    }

    @Test
    void lines_that_make_no_sense_are_named_and_unknown_codes_are_listed() throws IOException {
        Replay replay = replay("G28\nhello?\nG1 X10 Y1x0\nM9999\nM9999 S1\nG1 X10\nM117 Nearly done!\nG\n", STANDARD);
        assertThat(replay.faultCount()).isEqualTo(3);
        assertThat(replay.faults().getFirst()).startsWith("line 2");
        assertThat(replay.unknown()).containsEntry("M9999", 2);
        assertThat(replay.motion().totalSeconds()).isPositive();
        assertThat(codes(SlicedFileFindings.of(replay, STANDARD, BuiltIn.PLA, null)))
                .contains(Code.NOTHING_LAID, Code.MALFORMED, Code.UNKNOWN_CODES);
    }

    @Test
    void layers_are_told_by_what_is_laid_and_not_by_lifts() throws IOException {
        StringBuilder file = new StringBuilder("G28\nM109 S200\nM83\n");
        for (int layer = 1; layer <= 10; layer++) {
            file.append("G0 Z").append(layer * 0.2).append("\nG1 X10 E0.4\nG0 Z").append(layer * 0.2 + 0.4)
                    .append("\nG0 X50\nG0 Z").append(layer * 0.2).append("\nG1 X0 E0.4\n");
        }
        Replay hops = replay(file.toString(), STANDARD);
        assertThat(hops.layers()).hasSize(10);
        assertThat(hops.layers().get(9).topMm()).isCloseTo(2, within(1e-9));
        StringBuilder spiral = new StringBuilder("G28\nM109 S200\nM83\nG0 Z0.2\n");
        for (int step = 0; step < 400; step++) {
            spiral.append("G1 X").append(20 * Math.cos(step * 0.157)).append(" Y").append(20 * Math.sin(step * 0.157))
                    .append(" Z").append(0.2 + step * 0.005).append(" E0.1\n");
        }
        assertThat(replay(spiral.toString(), STANDARD).layers().size()).isBetween(9, 11);
    }

    @Test
    void a_picture_in_the_comments_is_found() throws IOException {
        Replay replay = replay("; preview\n; iVBORw0KGgoAAAANSUhEUgAAAAEAAAABCAYAAAAfFcSJAAAADUlEQVR4\n"
                + "; 2mNk+M9QDwADhgGAWjR9awAAAABJRU5ErkJggg==\n; end\nG28\n", STANDARD);
        assertThat(java.util.Base64.getDecoder().decode(replay.thumbnail())).hasSize(70);
    }

    @Test
    void a_file_for_another_printer_is_told_from_the_right_one() throws IOException {
        Printer large = BuiltIn.printer("large").orElseThrow();
        Toolpath path = Toolpath.of(Shapes.box(280, 30, 4), DAILY, Progress.IGNORED);
        Replay replay = replay(written(path, DAILY, large), STANDARD);
        List<Finding> findings = SlicedFileFindings.of(replay, STANDARD, BuiltIn.PLA, null);
        assertThat(findings.getFirst().code()).isEqualTo(Code.OFF_BED);
        assertThat(findings.getFirst().severity()).isEqualTo(Severity.BLOCK);
        assertThat(codes(findings)).contains(Code.WRONG_NOZZLE);
        assertThat(SlicedFileFindings.of(replay(written(path, DAILY, large), large), large, BuiltIn.PLA, null)).isEmpty();
    }

    @Test
    void wrong_material_spool_filament_and_mixed_up_amounts_are_found() throws IOException {
        Toolpath path = Toolpath.of(Shapes.box(20, 20, 5), DAILY, Progress.IGNORED);
        String file = written(path, DAILY, STANDARD);
        Replay replay = replay(file, STANDARD);
        assertThat(codes(SlicedFileFindings.of(replay, STANDARD, BuiltIn.PETG, null))).contains(Code.WRONG_TEMPERATURE);
        Spool nearlyEmpty = new Spool("1", "pla", "any", 1, 25, Currency.getInstance("EUR"));
        assertThat(codes(SlicedFileFindings.of(replay, STANDARD, BuiltIn.PLA, nearlyEmpty)))
                .containsExactly(Code.SPOOL_SHORT);
        String mixed = file.replace("M82", "M83").replace("G90", "G90\nM83");
        assertThat(codes(SlicedFileFindings.of(replay(mixed, STANDARD), STANDARD, BuiltIn.PLA, null)))
                .contains(Code.AXES_MIXED);
        String thick = file.replace("filament diameter: 1.75", "filament diameter: 2.85");
        assertThat(codes(SlicedFileFindings.of(replay(thick, STANDARD), STANDARD, BuiltIn.PLA, null)))
                .containsExactly(Code.WRONG_FILAMENT);
        String unhomed = file.replace("G28\n", "");
        assertThat(codes(SlicedFileFindings.of(replay(unhomed, STANDARD), STANDARD, BuiltIn.PLA, null)))
                .contains(Code.FIRST_MOVE);
        String cold = file.replaceAll("M109 S\\d+\n", "");
        assertThat(codes(SlicedFileFindings.of(replay(cold, STANDARD), STANDARD, BuiltIn.PLA, null)))
                .contains(Code.FIRST_MOVE, Code.WRONG_TEMPERATURE);
        String second = file.replace("M82\n", "M82\nT1\n");
        assertThat(codes(SlicedFileFindings.of(replay(second, STANDARD), STANDARD, BuiltIn.PLA, null)))
                .contains(Code.WRONG_TOOL);
    }

    @Test
    void no_file_however_broken_stops_the_reader() throws IOException {
        byte[] file = written(Toolpath.of(Shapes.box(8, 8, 1), DAILY, Progress.IGNORED), DAILY, STANDARD)
                .getBytes(StandardCharsets.UTF_8);
        java.util.Random chance = new java.util.Random(5);
        for (int round = 0; round < 300; round++) {
            byte[] broken = file.clone();
            for (int i = 0; i < 1 + chance.nextInt(60); i++) {
                broken[chance.nextInt(broken.length)] = (byte) chance.nextInt(256);
            }
            Replay replay = Replay.of(new ByteArrayInputStream(broken), STANDARD);
            assertThat(replay.totalSeconds()).isGreaterThanOrEqualTo(0).isFinite();
            SlicedFileFindings.of(replay, STANDARD, BuiltIn.PLA, null);
        }
    }

    private static List<Code> codes(List<Finding> findings) {
        return findings.stream().map(Finding::code).toList();
    }

    private static String written(Toolpath toolpath, Recipe recipe, Printer printer) throws IOException {
        ByteArrayOutputStream out = new ByteArrayOutputStream();
        Material pla = BuiltIn.PLA;
        GcodeWriter.write(toolpath, Motion.of(toolpath, recipe, printer, Progress.IGNORED), recipe, printer,
                pla, 40, 60, List.of("Ticket 7", "printer: " + printer.name()), out);
        return out.toString(StandardCharsets.UTF_8);
    }

    private static Replay replay(String file, Printer printer) throws IOException {
        return Replay.of(new ByteArrayInputStream(file.getBytes(StandardCharsets.UTF_8)), printer);
    }
}
