package fabbrica.core.gcode;

import static org.assertj.core.api.Assertions.assertThat;

import fabbrica.core.recipe.BuiltIn;
import fabbrica.core.recipe.Printer;
import org.junit.jupiter.api.Test;

class GcodeFileTest {

    @Test
    void a_file_is_named_as_somebody_would_read_it_aloud_beginning_with_its_ticket() {
        Printer printer = BuiltIn.printer("standard").orElseThrow();
        assertThat(GcodeFile.name("Ticket 39", "2 x shelf-bracket.stl", printer)).isEqualTo("Ticket 39, 2 x shelf-bracket, for %s.gcode".formatted(printer.name()));
    }

    @Test
    void what_file_systems_refuse_is_left_out_and_long_names_are_cut() {
        Printer printer = BuiltIn.printer("standard").orElseThrow();
        assertThat(GcodeFile.name("Ticket 1", "a/b: <c>\u0007|d?.OBJ", printer)).startsWith("Ticket 1, a b c d, for ");
        assertThat(GcodeFile.name("Ticket 1", "x".repeat(500), printer)).hasSizeLessThan(120);
    }
}
