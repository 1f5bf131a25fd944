package fabbrica.core.run;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import fabbrica.core.gcode.FileCourse;
import fabbrica.core.recipe.BuiltIn;
import fabbrica.core.recipe.Preparation;
import fabbrica.core.recipe.Printer;
import fabbrica.core.run.MachineEvent.Doing;
import fabbrica.core.run.MachineEvent.Reported;
import java.io.IOException;
import java.nio.charset.StandardCharsets;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;

class ReckoningTest {

    private static final Printer PRINTER = BuiltIn.printer("standard").orElseThrow();
    private static final Preparation PREPARATION = PRINTER.preparation();
    private static final String TEXT = """
            M190 S60
            M109 S210
            G28
            G1 X50 Y50 Z0.2 F6000
            G1 X150 Y50 E4 F1200
            G4 S30
            G1 Z0.4 F6000
            G1 X50 Y50 E8 F1200
            M104 S0
            """;

    private FileCourse course;
    private Reckoning reckoning;
    private double whole;

    @BeforeEach
    void replayed() throws IOException {
        course = FileCourse.of(TEXT.getBytes(StandardCharsets.UTF_8), PRINTER);
        reckoning = new Reckoning(course, PREPARATION);
        whole = course.left(0, Preparation.ROOM_C, Preparation.ROOM_C, PREPARATION).inAllS();
    }

    private Reported after(double seconds) {
        return reckoning.after("a.gcode", seconds);
    }

    @Test
    void what_has_passed_and_what_is_left_are_all_of_it_while_it_heats_and_moves() {
        double warm = 40 / PREPARATION.bedCPerS() + 190 / PREPARATION.nozzleCPerS(), moves = warm + PREPARATION.homingS();
        for (double seconds : new double[] {0, warm / 3, warm * 0.9, moves + 0.5, moves + 3, whole - 3, whole - 0.5}) {
            Reported now = after(seconds);
            assertThat(now.doing()).isEqualTo(Doing.PRINTING);
            assertThat(course.left(now.byteAt(), now.warmth().bedC(), now.warmth().nozzleC(), PREPARATION).inAllS()).as("left after %s s", seconds)
                    .isCloseTo(whole - seconds, within(0.1));
        }
    }

    @Test
    void the_bed_comes_first_then_the_nozzle_and_both_stay_warm_to_the_end() {
        double bed = 40 / PREPARATION.bedCPerS();
        assertThat(after(bed / 2).warmth()).isEqualTo(new MachineEvent.Warmth(20, 0, 40, 60));
        assertThat(after(bed + 95 / PREPARATION.nozzleCPerS()).warmth().nozzleC()).isCloseTo(115, within(1e-9));
        assertThat(after(whole - 1).warmth()).isEqualTo(new MachineEvent.Warmth(210, 210, 60, 60));
    }

    @Test
    void it_never_goes_back_and_ends_with_the_last_byte() {
        long at = 0;
        int layer = 0;
        for (double seconds = 0; seconds < whole; seconds += 0.7) {
            Reported now = after(seconds);
            assertThat(now.byteAt()).isBetween(at, course.bytes());
            assertThat(now.layer()).isBetween(layer, 2);
            assertThat(now.reckoned()).isTrue();
            at = now.byteAt();
            layer = now.layer();
        }
        assertThat(layer).isEqualTo(2);
        assertThat(after(whole - 1e-3).doing()).isEqualTo(Doing.PRINTING);
    }

    @Test
    void once_it_should_be_over_its_bed_cools_from_what_it_had() {
        Reported now = after(whole + 600);
        assertThat(now.doing()).isEqualTo(Doing.NOTHING);
        assertThat(now.file()).isEmpty();
        assertThat(now.warmth().bedC()).isCloseTo(Cooling.after(60, 600).bedC(), within(0.05));
    }
}
