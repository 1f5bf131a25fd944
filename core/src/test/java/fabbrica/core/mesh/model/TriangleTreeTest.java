package fabbrica.core.mesh.model;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import fabbrica.core.inspect.Soundness;
import java.math.BigDecimal;
import java.util.Arrays;
import java.util.HashSet;
import java.util.List;
import java.util.Random;
import java.util.Set;
import org.junit.jupiter.api.Test;

/** Rays, pairs and predicates against closed forms, and against looking at every triangle. */
class TriangleTreeTest {

    private static final Mesh BALL = Shapes.sphere(10, 90, 46);

    @Test
    void rays_meet_a_ball_where_they_should() {
        TriangleTree.Ray ray = new TriangleTree(BALL).ray();
        Random chance = new Random(1);
        for (int i = 0; i < 500; i++) {
            double[] d = {chance.nextGaussian(), chance.nextGaussian(), chance.nextGaussian()};
            double length = Math.sqrt(d[0] * d[0] + d[1] * d[1] + d[2] * d[2]);
            assertThat(ray.cast(new double[3], d, 0, Double.POSITIVE_INFINITY)).isTrue();
            assertThat(ray.distance() * length).isCloseTo(10, within(0.03));
            double[] outside = {d[0] / length * 30, d[1] / length * 30, d[2] / length * 30};
            assertThat(ray.cast(outside, d, 0, Double.POSITIVE_INFINITY)).isFalse();
            assertThat(ray.distance()).isInfinite();
        }
    }

    @Test
    void a_ray_along_an_axis_through_flat_boxes_is_not_lost() {
        TriangleTree.Ray ray = new TriangleTree(Shapes.box(10, 10, 10)).ray();
        assertThat(ray.cast(new double[] {3, 4, -5}, new double[] {0, 0, 1}, 0, 100)).isTrue();
        assertThat(ray.distance()).isEqualTo(5);
        assertThat(ray.cast(new double[] {3, 4, 5}, new double[] {0, 0, 1}, 0, 4)).isFalse();
    }

    @Test
    void the_surface_winds_once_around_what_is_inside() {
        Mesh two = Shapes.together(BALL, Shapes.box(4, 4, 4).moved(0.3, 0.2, 0.1));
        TriangleTree.Ray ray = new TriangleTree(two).ray();
        assertThat(ray.windingAt(5, 5, 0.1, t -> true)).isEqualTo(1);
        assertThat(ray.windingAt(1, 1, 1, t -> true)).isEqualTo(2);
        assertThat(ray.windingAt(20, 0, 0, t -> true)).isZero();
        assertThat(ray.windingAt(1, 1, 1, t -> t < BALL.triangleCount())).isEqualTo(1);
    }

    @Test
    void every_pair_whose_boxes_touch_comes_up_once() {
        Mesh mesh = Shapes.sphere(5, 12, 7);
        Set<List<Integer>> expected = new HashSet<>();
        for (int t = 0; t < mesh.triangleCount(); t++) {
            for (int u = t + 1; u < mesh.triangleCount(); u++) {
                if (boxesTouch(mesh, t, u)) {
                    expected.add(List.of(t, u));
                }
            }
        }
        List<List<Integer>> found = new TriangleTree(mesh).pairs(new int[mesh.triangleCount()], (t, u, into) ->
                into.add(List.of(Math.min(t, u), Math.max(t, u))));
        assertThat(found).doesNotHaveDuplicates().containsAll(expected);
        assertThat(found.size()).isLessThan(expected.size() + expected.size() / 20 + 5);
    }

    @Test
    void sorting_along_the_curve_changes_no_shape() {
        Mesh sorted = HilbertOrder.sorted(BALL);
        assertThat(sorted.triangleCount()).isEqualTo(BALL.triangleCount());
        assertThat(sorted.vertexCount()).isEqualTo(BALL.vertexCount());
        assertThat(Soundness.of(sorted).watertight()).isTrue();
        assertThat(Soundness.of(sorted).bodies().getFirst().signedVolumeMm3())
                .isCloseTo(Soundness.of(BALL).bodies().getFirst().signedVolumeMm3(), within(1e-6));
    }

    @Test
    void the_side_of_a_plane_is_told_exactly_where_rounding_would_lie() {
        Random chance = new Random(4);
        int zeros = 0;
        for (int i = 0; i < 2000; i++) {
            double[] xyz = new double[12];
            for (int k = 0; k < 12; k++) {
                xyz[k] = i % 2 == 0 ? chance.nextInt(3) * 0.1 : 0.5 + chance.nextInt(4) * Math.ulp(0.5);
            }
            Mesh mesh = new Mesh(xyz, new int[] {0, 1, 2});
            int side = Side.of(mesh, 0, 1, 2, 3);
            assertThat(side).isEqualTo(-determinant(xyz).signum());
            zeros += side == 0 ? 1 : 0;
        }
        assertThat(zeros).isPositive();
        assertThat(Side.of(new Mesh(new double[] {0, 0, 0, 1, 0, 0, 0, 1, 0, 0, 0, 1}, new int[3]), 0, 1, 2, 3))
                .as("above, where it is seen counter-clockwise from").isEqualTo(1);
    }

    @Test
    void the_least_skin_over_a_flat_polygon_has_its_area_and_over_a_saddle_the_smaller_fold() {
        double[] angle = {0, 0, 0, 2, 0, 0, 2, 1, 0, 1, 1, 0, 1, 2, 0, 0, 2, 0};
        assertThat(area(angle, LeastAreaTriangulation.of(angle))).isCloseTo(3, within(1e-12));
        double[] kite = {0, 0, 0, 4, 0, 1, 0, 1, 0, -4, 0, 1};
        assertThat(LeastAreaTriangulation.of(kite)).hasSize(6);
        assertThat(area(kite, LeastAreaTriangulation.of(kite))).isLessThan(area(kite, new int[] {0, 1, 3, 1, 2, 3}) + 1e-9)
                .isLessThan(area(kite, new int[] {0, 1, 2, 0, 2, 3}) + 1e-9);
    }

    @Test
    void a_level_set_closes_around_what_is_below_zero() {
        Mesh ball = LevelSet.of((x, y, z) -> Math.sqrt(x * x + y * y + z * z) - 5, -6, 6, 40);
        Soundness soundness = Soundness.of(ball);
        assertThat(soundness.watertight()).isTrue();
        assertThat(soundness.inconsistentEdges()).isZero();
        assertThat(soundness.bodies().getFirst().signedVolumeMm3()).isCloseTo(4 / 3.0 * Math.PI * 125, within(5.0));
        assertThat(Soundness.of(LevelSet.gyroid(30, 40)).watertight()).isTrue();
    }

    private static boolean boxesTouch(Mesh mesh, int t, int u) {
        for (int axis = 0; axis < 3; axis++) {
            double[] a = along(mesh, t, axis), b = along(mesh, u, axis);
            if (a[2] < b[0] || b[2] < a[0]) {
                return false;
            }
        }
        return true;
    }

    private static double[] along(Mesh mesh, int t, int axis) {
        double[] values = new double[3];
        for (int corner = 0; corner < 3; corner++) {
            int v = mesh.corner(t, corner);
            values[corner] = axis == 0 ? mesh.x(v) : axis == 1 ? mesh.y(v) : mesh.z(v);
        }
        Arrays.sort(values);
        return values;
    }

    /** Of the rows a − d, b − d, c − d. */
    private static BigDecimal determinant(double[] xyz) {
        BigDecimal[][] m = new BigDecimal[3][3];
        for (int row = 0; row < 3; row++) {
            for (int column = 0; column < 3; column++) {
                m[row][column] = new BigDecimal(xyz[3 * row + column]).subtract(new BigDecimal(xyz[9 + column]));
            }
        }
        return m[0][0].multiply(m[1][1].multiply(m[2][2]).subtract(m[1][2].multiply(m[2][1])))
                .subtract(m[0][1].multiply(m[1][0].multiply(m[2][2]).subtract(m[1][2].multiply(m[2][0]))))
                .add(m[0][2].multiply(m[1][0].multiply(m[2][1]).subtract(m[1][1].multiply(m[2][0]))));
    }

    private static double area(double[] xyz, int[] triangles) {
        Mesh mesh = new Mesh(xyz, triangles);
        double area = 0;
        double[] n = new double[3];
        for (int t = 0; t < mesh.triangleCount(); t++) {
            mesh.normal(t, n);
            area += Math.sqrt(n[0] * n[0] + n[1] * n[1] + n[2] * n[2]) / 2;
        }
        return area;
    }
}
