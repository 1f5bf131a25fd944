package fabbrica.core.toolpath;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;
import static org.assertj.core.api.Assertions.within;

import fabbrica.core.mesh.model.Mesh;
import fabbrica.core.mesh.model.Shapes;
import fabbrica.core.recipe.Adhesion;
import fabbrica.core.recipe.InfillPattern;
import fabbrica.core.recipe.Recipe;
import fabbrica.core.units.Progress;
import java.util.concurrent.CancellationException;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.EnumSource;

/** Lengths worked by hand on a 20 mm box: 100 layers of 0.2 mm, lines 0.4 mm wide. */
class ToolpathTest {

    private static final Mesh BOX = Shapes.box(20, 20, 20);
    /** Distance between lines: 0.4 − 0.2·(1 − π/4). */
    private static final double SPACING = 0.4 - 0.2 * (1 - Math.PI / 4);

    @Test
    void walls_of_a_box_are_squares_each_a_line_further_in() {
        Toolpath path = lay(recipe(3, 4, 4, 0.15));
        assertThat(path.layers()).hasSize(100);
        assertThat(path.lengthMm(PathType.OUTER_WALL)).isCloseTo(100 * 4 * (20 - SPACING), within(1e-6));
        double second = 20 - 3 * SPACING, third = second - 2 * SPACING;
        assertThat(path.lengthMm(PathType.INNER_WALL)).isCloseTo(100 * 4 * (second + third), within(1e-6));
    }

    @Test
    void the_lowest_and_the_highest_layers_are_closed_and_the_rest_is_filled_by_density() {
        Toolpath path = lay(recipe(3, 4, 5, 0.15));
        double side = 20 - 6 * SPACING;
        assertThat(path.lengthMm(PathType.SOLID)).isCloseTo(9 * side * side / SPACING, within(9 * side * 2));
        assertThat(path.lengthMm(PathType.INFILL))
                .isCloseTo(91 * side * side * 0.15 / SPACING, within(91 * side * 0.5));
        assertThat(path.layers().get(4).lengthMm(PathType.INFILL)).isZero();
        assertThat(path.layers().get(50).lengthMm(PathType.SOLID)).isZero();
    }

    @ParameterizedTest
    @EnumSource(InfillPattern.class)
    void every_pattern_lays_the_same_length_for_the_same_density(InfillPattern pattern) {
        Recipe recipe = new Recipe(0.2, 0.2, 0.4, 2, 0, 0, 0.2, pattern, Adhesion.NONE, 60);
        double side = 20 - 0.4 - 3 * SPACING;
        assertThat(lay(recipe).lengthMm(PathType.INFILL))
                .isCloseTo(100 * side * side * 0.2 / SPACING, within(100 * side * 1.2));
    }

    @Test
    void a_box_filled_to_the_brim_holds_its_volume_in_plastic() {
        Toolpath path = lay(recipe(2, 0, 0, 1));
        double mm3 = path.layers().stream().mapToDouble(layer -> java.util.stream.IntStream.range(0, layer.pathCount())
                .mapToDouble(layer::mm3).sum()).sum();
        assertThat(mm3).isCloseTo(8000, within(8000 * 0.02));
    }

    @Test
    void a_step_gets_a_closed_top_only_where_nothing_covers_it() {
        Mesh stairs = Shapes.extrusion(Shapes.polygon(0, 0, 30, 0, 30, 10, 15, 10, 15, 20, 0, 20), 10);
        Mesh upright = Shapes.together(Shapes.box(30, 10, 5), Shapes.box(15, 10, 10));
        assertThat(Toolpath.of(stairs, recipe(2, 3, 3, 0.1), Progress.IGNORED).layers().get(25)
                .lengthMm(PathType.SOLID)).isZero();
        double open = Toolpath.of(upright, recipe(2, 3, 3, 0.1), Progress.IGNORED).layers().get(24)
                .lengthMm(PathType.SOLID) * SPACING;
        assertThat(open).as("about 15 × 10 mm less the walls").isBetween(100.0, 135.0);
    }

    @Test
    void a_tube_has_an_outer_wall_on_either_side() {
        Toolpath path = Toolpath.of(Shapes.revolution(new double[] {10, 0, 20, 0, 20, 4, 10, 4}, 180),
                recipe(1, 0, 0, 0.1), Progress.IGNORED);
        assertThat(path.lengthMm(PathType.OUTER_WALL))
                .isCloseTo(20 * 2 * Math.PI * (20 - 0.2 + 10 + 0.2), within(20 * 0.4));
    }

    @Test
    void a_skirt_runs_twice_around_four_millimetres_away() {
        Recipe skirt = new Recipe(0.2, 0.2, 0.4, 2, 3, 3, 0.1, InfillPattern.LINES, Adhesion.SKIRT, 60);
        double sides = 2 * 4 * 20;
        assertThat(lay(skirt).lengthMm(PathType.ADHESION)).isBetween(sides + 4 * 8.4 + 20, sides + 8 * 9 + 8);
        assertThat(lay(skirt).layers().get(1).lengthMm(PathType.ADHESION)).isZero();
    }

    @Test
    void a_brim_fills_five_millimetres_around_the_foot() {
        Recipe brim = new Recipe(0.2, 0.2, 0.4, 2, 3, 3, 0.1, InfillPattern.LINES, Adhesion.BRIM, 60);
        double ring = 4 * 20 * 5 + Math.PI * 25;
        assertThat(lay(brim).lengthMm(PathType.ADHESION) * SPACING).isCloseTo(ring, within(ring * 0.06));
    }

    @Test
    void a_raft_lifts_the_part_by_its_three_layers() {
        Recipe raft = new Recipe(0.2, 0.2, 0.4, 2, 3, 3, 0.1, InfillPattern.LINES, Adhesion.RAFT, 60);
        Toolpath path = lay(raft);
        assertThat(path.layers()).hasSize(103);
        assertThat(path.layers().getLast().topMm()).isCloseTo(20.8, within(1e-9));
        assertThat(path.layers().get(1).lengthMm(PathType.ADHESION) * raft.lineSpacingMm(0.25))
                .isCloseTo(26 * 26, within(26 * 26 * 0.03));
    }

    @Test
    void wherever_the_part_stands_its_toolpath_is_the_same_length() {
        Mesh cone = Shapes.cone(12, 5, 9, 60);
        double here = lay(cone).lengthMm(PathType.OUTER_WALL);
        assertThat(lay(cone.moved(-300, 40, -17)).lengthMm(PathType.OUTER_WALL)).isCloseTo(here, within(0.5));
        assertThat(lay(cone.turned(31)).lengthMm(PathType.OUTER_WALL)).isCloseTo(here, within(0.5));
    }

    @Test
    void nobody_waiting_stops_the_work() {
        Progress gone = new Progress() {
            @Override
            public void reached(double fraction) {
            }

            @Override
            public boolean cancelled() {
                return true;
            }
        };
        assertThatThrownBy(() -> Toolpath.of(BOX, recipe(3, 4, 4, 0.15), gone))
                .isInstanceOf(CancellationException.class);
    }

    private static Toolpath lay(Recipe recipe) {
        return Toolpath.of(BOX, recipe, Progress.IGNORED);
    }

    private static Toolpath lay(Mesh mesh) {
        return Toolpath.of(mesh, recipe(2, 3, 3, 0.15), Progress.IGNORED);
    }

    private static Recipe recipe(int walls, int top, int bottom, double infill) {
        return new Recipe(0.2, 0.2, 0.4, walls, top, bottom, infill, InfillPattern.LINES, Adhesion.NONE, 60);
    }
}
