package fabbrica.core.judge;

import static org.assertj.core.api.Assertions.assertThat;

import fabbrica.core.inspect.Inspection;
import fabbrica.core.inspect.PrintLimits;
import fabbrica.core.mesh.model.Mesh;
import fabbrica.core.mesh.model.Rotation;
import fabbrica.core.mesh.model.Shapes;
import fabbrica.core.recipe.Adhesion;
import fabbrica.core.recipe.BuiltIn;
import fabbrica.core.recipe.Nozzle;
import fabbrica.core.recipe.Recipe;
import fabbrica.core.recipe.RecipeField;
import fabbrica.core.recipe.StartingPoint;
import fabbrica.core.recipe.Supports.Where;
import java.util.List;
import org.junit.jupiter.api.Test;

/** Overhangs want support, small contact a brim, raft where the lab says so: common practice, no source. */
class RecipeAdviceTest {

    private static final Recipe USUAL = StartingPoint.DAILY_BREAD.recipe(new Nozzle(0.4, false), BuiltIn.printer("standard").orElseThrow().kinematics());

    @Test
    void a_block_needs_nothing_but_the_raft_that_the_lab_wants() {
        assertThat(advice(Shapes.box(30, 30, 10), false)).isEmpty();
        Recipe put = RecipeAdvice.put(USUAL, advice(Shapes.box(30, 30, 10), true));
        assertThat(put).isEqualTo(USUAL.with(Adhesion.RAFT));
    }

    @Test
    void supports_stand_on_the_bed_where_that_is_enough_and_else_everywhere() {
        Mesh tee = Shapes.revolution(new double[] {0, 0, 15, 0, 15, 20, 25, 20, 25, 25, 0, 25}, 60);
        List<RecipeAdvice> wanted = advice(tee, false);
        assertThat(wanted).extracting(RecipeAdvice::field).containsExactly(RecipeField.SUPPORTS);
        assertThat(wanted.getFirst().usual()).isEqualTo("none");
        Recipe put = RecipeAdvice.put(USUAL, wanted);
        assertThat(put.supports().where()).isEqualTo(Where.BED);
        assertThat(wanted).allMatch(each -> each.isIn(put)).noneMatch(each -> each.isIn(USUAL));

        Mesh shelf = Shapes.extrusion(Shapes.polygon(0, 0, 40, 0, 40, 5, 5, 5, 5, 15, 40, 15, 40, 20, 0, 20), 10)
                .turned(Rotation.bringingDown(0, -1, 0));
        assertThat(RecipeAdvice.put(USUAL, advice(shelf, false)).supports().where()).as("it hangs over its own foot").isEqualTo(Where.EVERYWHERE);
    }

    @Test
    void what_the_recipe_has_already_is_not_advised() {
        assertThat(RecipeAdvice.of(Inspection.of(Shapes.box(30, 30, 10)), PrintLimits.USUAL, true, USUAL.with(Adhesion.RAFT))).isEmpty();
    }

    private static List<RecipeAdvice> advice(Mesh part, boolean raftAlways) {
        return RecipeAdvice.of(Inspection.of(part), PrintLimits.USUAL, raftAlways, USUAL);
    }
}
