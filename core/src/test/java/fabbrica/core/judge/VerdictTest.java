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
import fabbrica.core.recipe.Printer;
import java.util.List;
import org.junit.jupiter.api.Test;

class VerdictTest {

    private static final Printer STANDARD = BuiltIn.printer("standard").orElseThrow();

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

    private static BedFit fit(Mesh mesh) {
        return BedFit.of(Footprint.of(mesh), STANDARD.bed(), Allowance.NONE);
    }
}
