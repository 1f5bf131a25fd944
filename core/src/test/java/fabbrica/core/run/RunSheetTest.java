package fabbrica.core.run;

import static org.assertj.core.api.Assertions.assertThat;

import fabbrica.core.inspect.Finding;
import fabbrica.core.inspect.Severity;
import fabbrica.core.judge.BedCare;
import fabbrica.core.judge.BedCare.School;
import fabbrica.core.recipe.Adhesion;
import fabbrica.core.recipe.BuiltIn;
import fabbrica.core.recipe.Material;
import fabbrica.core.recipe.Nozzle;
import fabbrica.core.recipe.Printer;
import fabbrica.core.recipe.Recipe;
import fabbrica.core.recipe.StartingPoint;
import fabbrica.core.recipe.Supports;
import java.util.List;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

/** What has to be thought of around a run (common practice, no source). */
class RunSheetTest {

    private static final Printer PRINTER = BuiltIn.printer("standard").orElseThrow();
    private static final Recipe PLAIN = StartingPoint.DAILY_BREAD.recipe(PRINTER.nozzle(), PRINTER.kinematics()).with(Adhesion.NONE).with(Supports.NONE);

    private static RunSheet sheet(Material material, boolean checked, BedCare care, Recipe recipe, Finding... findings) {
        return RunSheet.of(new RunSheet.Start("Bench", "Ticket 7 box.gcode", checked, new Nozzle(0.4, false), 214, material, "sand (spool no. 2)", 612, 34, care, 400, 250,
                "It ends about today 19:50."), recipe, List.of(findings));
    }

    private static RunSheet usual() {
        return sheet(BuiltIn.PLA, false, BedCare.USUAL, PLAIN);
    }

    private static String all(List<RunSheet.Line> lines) {
        return String.join("\n", lines.stream().map(line -> line.what() + " | " + line.caution()).toList());
    }

    @Test
    void what_is_carried_to_its_printer_is_named_and_what_its_machine_has_read_back_is_not_asked_again() {
        assertThat(all(usual().before())).contains("“Ticket 7 box.gcode”, none for another printer");
        assertThat(all(sheet(BuiltIn.PLA, true, BedCare.USUAL, PLAIN).before())).doesNotContain("gcode");
    }

    @Test
    void plate_spool_nozzle_and_whoever_stays_come_in_working_order() {
        assertThat(usual().before()).extracting(RunSheet.Line::what).satisfiesExactly(
                plate -> assertThat(plate).startsWith("The last print is off"), file -> assertThat(file).contains("has the file"),
                spool -> assertThat(spool).contains("sand (spool no. 2)", "unwinds freely", "612 g left, 34 g needed"),
                nozzle -> assertThat(nozzle).contains("0.4 mm nozzle", "214 h", "cover"), stays -> assertThat(stays).contains("within reach", "19:50"));
    }

    @Test
    void the_plate_is_clean_by_the_school_of_the_house_with_the_caution_that_belongs_to_it() {
        assertThat(all(usual().before())).contains("wiped with water").doesNotContain("glue", "flammable");
        assertThat(all(sheet(BuiltIn.PLA, false, new BedCare(School.ALCOHOL, true), PLAIN).before())).contains("wiped with alcohol, with a thin film of washable glue", "flammable", "nitrile");
        assertThat(all(sheet(BuiltIn.PLA, false, new BedCare(School.SOAP, false), PLAIN).before())).contains("rinsed well");
    }

    @Test
    void what_gives_off_fumes_is_printed_with_its_enclosure_closed() {
        Material abs = BuiltIn.materials().stream().filter(Material::enclosed).findFirst().orElseThrow();
        assertThat(all(sheet(abs, false, BedCare.USUAL, PLAIN).before())).contains("enclosure is closed", "fumes");
        assertThat(all(usual().before())).doesNotContain("enclosure");
    }

    @Test
    void nothing_moves_at_first_and_the_first_layer_is_seen_from_minute_to_minute() {
        assertThat(usual().expect()).containsExactly("Nothing moves for the first minutes: the bed warms to 60 °C, the nozzle to 210 °C.",
                "Watch the first layer, from minute 7 to minute 11: it lies flat everywhere, or the run is ended.");
    }

    @ParameterizedTest
    @CsvSource({"SKIRT, skirt", "BRIM, brim", "EARS, ears", "RAFT, raft"})
    void what_helped_it_to_stick_is_taken_off_afterwards(Adhesion adhesion, String named) {
        assertThat(all(sheet(BuiltIn.PLA, false, BedCare.USUAL, PLAIN.with(adhesion)).after())).contains(named);
        assertThat(all(usual().after())).doesNotContain(named);
    }

    @Test
    void supports_fling_and_thin_bits_and_joints_are_named_for_the_clean_up() {
        RunSheet sheet = sheet(BuiltIn.PLA, false, BedCare.USUAL, PLAIN.with(new Supports(Supports.Where.BED, 45, 0.15, 0.2, 2)),
                Finding.everywhere(Finding.Code.THIN_WALL, Severity.CARE, 1, "", "", ""), Finding.everywhere(Finding.Code.THIN_WALL, Severity.CARE, 1, "", "", ""),
                Finding.everywhere(Finding.Code.NARROW_GAP, Severity.CARE, 1, "", "", ""));
        assertThat(all(sheet.after())).contains("Break off the supports", "safety glasses", "joints free little by little").containsOnlyOnce("thin walls");
        assertThat(sheet.after().getFirst().what()).contains("cool");
        assertThat(sheet.after().getLast().what()).contains("nothing is left on it");
    }
}
