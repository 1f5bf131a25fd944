package fabbrica.core.toolpath;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import fabbrica.core.mesh.model.Mesh;
import fabbrica.core.mesh.model.Shapes;
import fabbrica.core.motion.LayerMoves;
import fabbrica.core.motion.Machine;
import fabbrica.core.recipe.Adhesion;
import fabbrica.core.recipe.InfillPattern;
import fabbrica.core.recipe.Kinematics;
import fabbrica.core.recipe.LineWork.Seam;
import fabbrica.core.recipe.Recipe;
import fabbrica.core.units.Progress;
import java.util.ArrayList;
import java.util.List;
import org.junit.jupiter.api.Test;

/** Lines whose width changes along the way, from the wall to the machine; worked by hand. */
class WallLineTest {

    private static final Recipe RECIPE =
            new Recipe(0.2, 0.2, 0.42, 2, 0, 0, 0.1, InfillPattern.LINES, Adhesion.NONE, 60);

    @Test
    void points_on_a_straight_line_that_widens_evenly_are_left_out() {
        double[] points = new double[22], shares = new double[11];
        for (int i = 0; i < 11; i++) {
            points[2 * i] = i;
            shares[i] = 0.2 + 0.02 * i;
        }
        WallLine line = WallLine.simplified(points, shares, false, 0);
        assertThat(line.points()).containsExactly(0, 0, 10, 0);
        assertThat(line.sharesMm()).containsExactly(new double[] {0.2, 0.4}, within(1e-12));
        // 10 mm, 0.3 mm wide on average.
        assertThat(line.areaMm2(0)).isCloseTo(3, within(1e-9));
        shares[5] = 0.5;
        assertThat(WallLine.simplified(points, shares, false, 0).size()).isEqualTo(5);
    }

    @Test
    void corners_of_a_closed_line_stay() {
        double[] square = {0, 0, 5, 0, 10, 0, 10, 10, 0, 10, 0, 5};
        WallLine line = WallLine.simplified(square, new double[] {0.4, 0.4, 0.4, 0.4, 0.4, 0.4}, true, 1);
        assertThat(line.points()).containsExactly(0, 0, 10, 0, 10, 10, 0, 10);
        assertThat(line.areaMm2(9)).isCloseTo(16, within(1e-9));
        assertThat(WallLine.plain(square, 1).areaMm2(0.5)).isCloseTo(20, within(1e-9));
    }

    @Test
    void an_open_line_is_laid_from_the_end_that_is_nearer() {
        Layer.Builder builder = new Layer.Builder();
        builder.path(PathType.INFILL, 0.4, 0.08);
        builder.point(9, 5);
        builder.point(9, 1);
        WallLine line = new WallLine(new double[] {0, 0, 10, 0}, new double[] {0.2, 0.4}, false, WallLine.MIDDLE);
        LoopOrder.lay(List.of(new LoopOrder.Loop(line, PathType.THIN_LINE)), 0.42, 0.075, 0.2, Seam.NEAREST, 0,
                new Router(List.of(), builder), builder);
        Layer layer = builder.build(0.2, 0.2, false);
        int path = layer.pathCount() - 1;
        assertThat(layer.x(layer.start(path))).isEqualTo(10);
        // Cross-sections are shares times height: from 0.08 down to 0.04 mm², 0.06 on average.
        assertThat(layer.lineAreaMm2(path)).isCloseTo(0.08, within(1e-12));
        assertThat(layer.lineAreaMm2(path, layer.end(path) - 1)).isCloseTo(0.06, within(1e-12));
        assertThat(layer.mm3(path)).isCloseTo(0.6, within(1e-12));
    }

    @Test
    void a_wedge_is_laid_with_as_much_plastic_to_each_millimetre_as_it_is_wide_there() {
        // From 0.3 to 0.5 mm over 40 mm: one line, whose plastic to a millimetre is the width there times 0.2 mm.
        Mesh wedge = Shapes.extrusion(Shapes.polygon(0, -0.15, 40, -0.25, 40, 0.25, 0, 0.15), 1);
        List<Layer> layers = Toolpath.of(wedge, RECIPE, Progress.IGNORED).layers();
        List<double[]> steps = new ArrayList<>();
        new LayerMoves(layers.get(2), layers.get(1), RECIPE, new Kinematics(150, 500, 8, 10, 2, 1, 40), 1).drive(new Machine() {
            private double x;

            @Override
            public void lineTo(double toX, double toY, double toZ, double mm3, double speedMmS, double mmS2, PathType type) {
                if (mm3 > 0 && Math.abs(toX - x) > 0.5) {
                    steps.add(new double[] {(x + toX) / 2, mm3 / Math.abs(toX - x), speedMmS});
                }
                x = toX;
            }

            @Override
            public void retract() {
            }

            @Override
            public void advance() {
            }
        });
        assertThat(steps).hasSizeGreaterThan(0).allSatisfy(step -> {
            assertThat(step[1]).isCloseTo(0.2 * (0.3 + 0.2 * step[0] / 40), within(0.002));
            // The hot end melts 2 mm³/s: where it is wider it is laid more slowly.
            assertThat(step[2]).isCloseTo(Math.min(60, 2 / step[1]), within(0.2));
        });
    }

    @Test
    void a_thickness_that_flickers_about_the_threshold_is_decided_once() {
        // 1.0 mm thick, give or take 0.05 mm every 2 mm; and a bulge of 1.4 mm that is there to stay.
        double[] ring = new double[80];
        for (int i = 0; i < 20; i++) {
            double half = i >= 12 && i <= 15 ? 0.7 : i % 2 == 0 ? 0.475 : 0.525;
            ring[2 * i] = 2 * i;
            ring[2 * i + 1] = -half;
            ring[78 - 2 * i] = 2 * i;
            ring[79 - 2 * i] = half;
        }
        LocalThickness thickness = new LocalThickness(List.of(ring), 1.2, 0.2);
        assertThat(changes(thickness, thickness.atLeast(1, 0, 0, 0))).isGreaterThan(20);
        assertThat(changes(thickness, thickness.atLeast(1, 0.1, 0, 0))).isLessThanOrEqualTo(4);
        boolean[] thicker = thickness.atLeast(1.2, 0.1, 0, 0);
        assertThat(changes(thickness, thicker)).isEqualTo(4);
        // The bulge has some 2 · 8 mm of outline: too short to count, unless it is thicker than may be passed over.
        assertThat(changes(thickness, thickness.atLeast(1.2, 0.1, 30, 2))).isZero();
        assertThat(changes(thickness, thickness.atLeast(1.2, 0.1, 30, 1.3))).isEqualTo(4);
    }

    private static int changes(LocalThickness thickness, boolean[] thick) {
        int changes = 0;
        for (int i = 0, last = thickness.count() - 1; i < thickness.count(); last = i++) {
            changes += thick[i] == thick[last] ? 0 : 1;
        }
        return changes;
    }
}
