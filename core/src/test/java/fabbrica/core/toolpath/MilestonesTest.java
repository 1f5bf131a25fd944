package fabbrica.core.toolpath;

import static org.assertj.core.api.Assertions.assertThat;

import fabbrica.core.mesh.model.Shapes;
import fabbrica.core.recipe.Adhesion;
import fabbrica.core.recipe.InfillPattern;
import fabbrica.core.recipe.LineWork;
import fabbrica.core.recipe.Recipe;
import fabbrica.core.recipe.Supports;
import fabbrica.core.toolpath.Milestones.Milestone;
import fabbrica.core.toolpath.Milestones.Spot;
import fabbrica.core.units.Progress;
import java.util.List;
import org.junit.jupiter.api.Test;

class MilestonesTest {

    @Test
    void the_layers_where_something_happens_are_told_from_the_bed_up() {
        Recipe recipe = new Recipe(0.2, 0.2, 0.4, 2, 4, 4, 0.15, InfillPattern.LINES, Adhesion.NONE, 60)
                .with(Supports.of(Supports.Where.BED)).with(LineWork.USUAL.withChanges(List.of(5.0)));
        Toolpath gate = Toolpath.of(Shapes.together(Shapes.box(6, 20, 10.5), Shapes.box(6, 20, 10.5).moved(14, 0, 0),
                Shapes.box(20, 20, 2).moved(0, 0, 10), Shapes.box(12, 20, 2).moved(19.5, 0, 10)), recipe, Progress.IGNORED);
        List<Milestone> found = Milestones.of(gate, List.of(new Spot(10, "largest overhang", "")));
        assertThat(found).extracting(Milestone::what).contains("first layer", "supports begin", "change of filament", "supports end",
                "largest overhang", "longest bridges", "top");
        assertThat(found).extracting(Milestone::layer).isSorted();
        assertThat(found).filteredOn(m -> m.what().equals("longest bridges")).singleElement()
                .satisfies(m -> assertThat(gate.layers().get(m.layer()).topMm()).isBetween(10.1, 10.3));
        assertThat(found).filteredOn(m -> m.what().equals("largest overhang")).singleElement()
                .extracting(Milestone::layer).isEqualTo(50);
        assertThat(found.getLast().layer()).isEqualTo(gate.layers().size() - 1);
    }
}
