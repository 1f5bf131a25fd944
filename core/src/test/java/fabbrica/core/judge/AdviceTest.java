package fabbrica.core.judge;

import static org.assertj.core.api.Assertions.assertThat;

import fabbrica.core.inspect.Finding.Code;
import fabbrica.core.inspect.Findings;
import fabbrica.core.inspect.Inspection;
import fabbrica.core.inspect.PrintLimits;
import fabbrica.core.mesh.model.Mesh;
import fabbrica.core.mesh.model.Shapes;
import fabbrica.core.recipe.Adhesion;
import java.util.List;
import org.junit.jupiter.api.Test;

/** Common practice, no source: a skirt for good contact, a brim for little, a raft for a point or where the lab says so. */
class AdviceTest {

    @Test
    void the_foot_decides_what_holds_the_first_layer() {
        assertThat(advice(Shapes.box(60, 40, 10), false)).isEqualTo(Adhesion.SKIRT);
        assertThat(advice(Shapes.cylinder(4, 60, 40), false)).isEqualTo(Adhesion.BRIM);
        assertThat(advice(Shapes.box(3, 40, 90), false)).isEqualTo(Adhesion.BRIM);
        assertThat(advice(Shapes.sphere(20, 60, 31), false)).isEqualTo(Adhesion.RAFT);
    }

    @Test
    void a_lab_that_prints_on_rafts_always_is_followed() {
        assertThat(advice(Shapes.box(60, 40, 10), true)).isEqualTo(Adhesion.RAFT);
    }

    @Test
    void advice_and_findings_agree_on_what_is_small_contact() {
        for (Mesh part : List.of(Shapes.box(8, 8, 8), Shapes.box(3, 3, 40), Shapes.box(60, 60, 2), Shapes.cylinder(2, 9, 24),
                Shapes.cone(1.5, 20, 15, 40), Shapes.box(9, 9, 60))) {
            Inspection inspection = Inspection.of(part);
            boolean found = Findings.of(inspection, PrintLimits.USUAL).stream().anyMatch(finding ->
                    finding.code() == Code.SMALL_CONTACT || finding.code() == Code.TIPS_OVER);
            Adhesion advised = AdhesionAdvice.of(inspection.stand(), false).adhesion();
            assertThat(advised != Adhesion.SKIRT).as("%s", inspection.bounds()).isEqualTo(found);
        }
    }

    private static Adhesion advice(Mesh mesh, boolean raftAlways) {
        return AdhesionAdvice.of(Inspection.of(mesh).stand(), raftAlways).adhesion();
    }
}
