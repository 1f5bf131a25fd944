package fabbrica.core.judge;

import static org.assertj.core.api.Assertions.assertThat;

import fabbrica.core.bed.Allowance;
import fabbrica.core.bed.BedFit;
import fabbrica.core.bed.Footprint;
import fabbrica.core.inspect.Finding;
import fabbrica.core.inspect.Inspection;
import fabbrica.core.inspect.PrintLimits;
import fabbrica.core.mesh.model.Mesh;
import fabbrica.core.mesh.model.Shapes;
import fabbrica.core.recipe.BuiltIn;
import fabbrica.core.recipe.Nozzle;
import fabbrica.core.recipe.Printer;
import fabbrica.core.recipe.Recipe;
import fabbrica.core.recipe.Spool;
import fabbrica.core.recipe.StartingPoint;
import java.util.Currency;
import java.util.List;
import org.junit.jupiter.api.Test;

class JudgementTest {

    private static final Printer STANDARD = BuiltIn.printer("standard").orElseThrow();
    private static final Printer FAST = BuiltIn.printer("fast").orElseThrow();
    private static final Recipe EVERYDAY = StartingPoint.DAILY_BREAD.recipe(STANDARD.nozzle(), STANDARD.kinematics());

    @Test
    void each_reason_against_a_printer_is_a_sentence_with_its_numbers() {
        assertThat(against(STANDARD, EVERYDAY, "pla", Shapes.box(20, 20, 20))).isEmpty();
        assertThat(against(STANDARD, EVERYDAY, "pla", Shapes.box(300, 300, 20))).singleElement().asString()
                .startsWith("Does not fit: Too large for the bed").contains("Largest scale 73.3 %");
        assertThat(against(STANDARD, EVERYDAY, "abs", Shapes.box(20, 20, 20)))
                .contains("ABS is not allowed on this printer.", "ABS needs an enclosed printer.");
        assertThat(against(STANDARD, EVERYDAY, "pla-wood", Shapes.box(20, 20, 20)))
                .containsExactly("PLA with wood is abrasive and the nozzle is not hardened.");
        assertThat(against(FAST, EVERYDAY, "pa-carbon", Shapes.box(20, 20, 20))).isEmpty();
        assertThat(against(STANDARD.with(new Nozzle(0.25, false)), EVERYDAY, "pla", Shapes.box(20, 20, 20)))
                .contains("Layer height 0.2 mm is outside the 0.25 mm nozzle's window (0.05 to 0.18 mm).");
    }

    @Test
    void a_spool_that_runs_out_is_short_by_so_many_grams() {
        Spool spool = new Spool("1", "pla", "any", 12, 25, Currency.getInstance("EUR"));
        assertThat(Suitability.against(spool, 12)).isEmpty();
        assertThat(Suitability.against(spool, 20.2)).containsExactly("9 g short: 12 g left, 20.2 g needed.");
    }

    @Test
    void the_verdict_is_as_bad_as_its_worst_finding() {
        BedFit fits = fit(Shapes.box(20, 20, 20)), tooBig = fit(Shapes.box(900, 20, 20));
        assertThat(verdict(Shapes.box(20, 20, 20), fits).state()).isEqualTo(Verdict.State.GOES);
        assertThat(verdict(Shapes.box(3, 3, 3), fits).state()).isEqualTo(Verdict.State.WITH_CARE);
        assertThat(verdict(Shapes.without(Shapes.box(20, 20, 20), 1), fits).state()).isEqualTo(Verdict.State.STOPS);
        assertThat(verdict(Shapes.box(900, 20, 20), tooBig).findings().getFirst().code())
                .isEqualTo(Finding.Code.TOO_BIG);
    }

    private static Verdict verdict(Mesh mesh, BedFit fit) {
        return Verdict.of(Inspection.of(mesh), PrintLimits.USUAL, List.of(fit));
    }

    private static List<String> against(Printer printer, Recipe recipe, String material, Mesh mesh) {
        return Suitability.against(printer, recipe, BuiltIn.material(material).orElseThrow(), fit(mesh));
    }

    private static BedFit fit(Mesh mesh) {
        return BedFit.of(Footprint.of(mesh), STANDARD.bed(), Allowance.NONE);
    }
}
