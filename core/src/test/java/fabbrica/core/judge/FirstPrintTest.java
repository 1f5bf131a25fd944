package fabbrica.core.judge;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import fabbrica.core.units.OutOfRange;
import java.util.Arrays;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

/** What points where when a cube is off: common practice, no source. */
class FirstPrintTest {

    @Test
    void a_cube_within_two_tenths_and_about_the_time_lets_the_printer_be_trusted() {
        assertThat(new FirstPrint(15, 10.2, 9.8, 10.1, true).off(14)).isEmpty();
    }

    @ParameterizedTest
    @CsvSource({"10.3, 10.4, 10, 14, flow", "9.7, 9.7, 10, 14, clog", "10.3, 10, 10, 14, along x", "10, 9.7, 10, 14, along y", "10.3, 9.7, 10, 14, along x;along y",
            "10, 10, 10.3, 14, too far from the bed", "10, 10, 9.7, 14, too near the bed", "10, 10, 10, 17, took 17 min", "10, 10, 10, 11, took 11 min",
            "10.3, 10, 9.7, 17, along x;too near;took 17"})
    void what_is_off_is_named_with_where_to_look(double x, double y, double z, double minutes, String names) {
        String[] wanted = names.split(";");
        assertThat(new FirstPrint(minutes, x, y, z, true).off(14)).hasSize(wanted.length).allSatisfy(sentence -> assertThat(wanted).anyMatch(sentence::contains))
                .satisfies(all -> assertThat(Arrays.asList(wanted)).allMatch(name -> all.stream().anyMatch(sentence -> sentence.contains(name))));
    }

    @Test
    void a_cube_that_is_not_sound_passes_by_no_measure() {
        assertThat(new FirstPrint(14, 10, 10, 10, false).off(14)).singleElement().asString().contains("not sound");
    }

    @Test
    void what_cannot_be_a_cube_of_ten_millimetres_is_refused() {
        assertThatThrownBy(() -> new FirstPrint(14, 100, 10, 10, true)).isInstanceOf(OutOfRange.class).hasMessageContaining("width");
        assertThatThrownBy(() -> new FirstPrint(0, 10, 10, 10, true)).isInstanceOf(OutOfRange.class);
    }
}
