package fabbrica.core.gcode;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import fabbrica.core.recipe.BuiltIn;
import fabbrica.core.recipe.Preparation;
import fabbrica.core.recipe.Printer;
import java.io.ByteArrayInputStream;
import java.io.IOException;
import java.nio.charset.StandardCharsets;
import org.junit.jupiter.api.Test;

class FileCourseTest {

    private static final Printer PRINTER = BuiltIn.printer("standard").orElseThrow();
    private static final Preparation PREPARATION = PRINTER.preparation();
    /** Two layers of one line each, 100 mm long and 0.2 mm high. */
    private static final String TEXT = """
            ; printer: bench
            M190 S60
            M109 S210
            G28
            G1 X50 Y50 Z0.2 F6000
            G1 X150 Y50 E4 F1200
            G1 Z0.4 F6000
            G1 X50 Y50 E8 F1200
            M104 S0
            """;
    private static final byte[] FILE = TEXT.getBytes(StandardCharsets.UTF_8);

    private static FileCourse course() throws IOException {
        return FileCourse.of(FILE, PRINTER);
    }

    private static long at(String line) {
        return TEXT.indexOf(line);
    }

    @Test
    void all_that_is_left_at_its_first_byte_is_all_that_its_replay_comes_to() throws IOException {
        Replay replay = Replay.of(new ByteArrayInputStream(FILE), PRINTER);
        assertThat(course().left(0, Preparation.ROOM_C, Preparation.ROOM_C, PREPARATION).inAllS()).isCloseTo(replay.totalSeconds(), within(1e-6));
        assertThat(course().hints()).containsEntry("printer", "bench");
    }

    @Test
    void what_is_warm_already_is_not_waited_for_again() throws IOException {
        double cold = course().left(0, 20, 20, PREPARATION).inAllS(), warm = course().left(0, 60, 210, PREPARATION).inAllS();
        assertThat(cold - warm).isCloseTo(40 / PREPARATION.bedCPerS() + 190 / PREPARATION.nozzleCPerS(), within(1e-6));
    }

    @Test
    void layers_filament_and_time_go_up_with_the_bytes() throws IOException {
        FileCourse course = course();
        assertThat(course.layers()).isEqualTo(2);
        assertThat(course.layerAt(at("G28"))).isZero();
        assertThat(course.layerAt(at("G1 Z0.4"))).isEqualTo(1);
        assertThat(course.layerAt(FILE.length)).isEqualTo(2);
        assertThat(course.filamentMmAt(0)).isZero();
        assertThat(course.filamentMmAt(FILE.length)).isCloseTo(8, within(1e-9));
        double last = 0;
        for (long b = 0; b <= FILE.length; b++) {
            assertThat(course.doneAt(b)).isBetween(last, 1.0);
            last = course.doneAt(b);
        }
        assertThat(last).isEqualTo(1);
    }

    @Test
    void nothing_is_left_at_its_end_and_beyond() throws IOException {
        assertThat(course().left(FILE.length, 60, 210, PREPARATION).inAllS()).isZero();
        assertThat(course().left(FILE.length + 100L, 60, 210, PREPARATION).inAllS()).isZero();
        assertThat(course().doneAt(FILE.length + 100L)).isEqualTo(1);
    }
}
