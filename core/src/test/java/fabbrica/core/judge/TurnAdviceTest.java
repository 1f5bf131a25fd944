package fabbrica.core.judge;

import static org.assertj.core.api.Assertions.assertThat;

import fabbrica.core.inspect.Inspection;
import fabbrica.core.inspect.PrintLimits;
import fabbrica.core.mesh.model.Mesh;
import fabbrica.core.mesh.model.Rotation;
import fabbrica.core.mesh.model.Shapes;
import org.junit.jupiter.api.Test;

/** Turn before supporting, and onto a big face: common practice, no source. */
class TurnAdviceTest {

    private final Mesh tee = Shapes.revolution(new double[] {0, 0, 15, 0, 15, 20, 25, 20, 25, 25, 0, 25}, 60);

    @Test
    void a_tee_is_turned_onto_its_cap() {
        assertThat(advice(tee, tee.turned(Rotation.bringingDown(0, 0, 1)))).isEqualTo("It needs no supports this way.");
        assertThat(TurnAdvice.mayHelp(Inspection.of(tee), PrintLimits.USUAL)).isTrue();
    }

    @Test
    void a_rod_is_laid_down_and_a_block_stays() {
        Mesh rod = Shapes.box(4, 4, 80), block = Shapes.box(30, 20, 10);
        assertThat(advice(rod, rod.turned(Rotation.bringingDown(1, 0, 0)))).isEqualTo("It stands firmly this way.");
        assertThat(advice(block, block.turned(Rotation.bringingDown(1, 0, 0)))).isEmpty();
        assertThat(TurnAdvice.mayHelp(Inspection.of(block), PrintLimits.USUAL)).isFalse();
    }

    @Test
    void one_trouble_is_not_cured_by_another() {
        Mesh rod = Shapes.box(4, 4, 80);
        assertThat(advice(rod.turned(Rotation.bringingDown(1, 0, 0)), rod)).isEmpty();
        assertThat(advice(tee.turned(Rotation.bringingDown(0, 0, 1)), tee)).isEmpty();
    }

    private static String advice(Mesh now, Mesh then) {
        return TurnAdvice.of(Inspection.of(now), Inspection.of(then), PrintLimits.USUAL).map(TurnAdvice::reason).orElse("");
    }
}
