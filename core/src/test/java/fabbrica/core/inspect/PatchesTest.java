package fabbrica.core.inspect;

import static org.junit.jupiter.api.Assertions.assertEquals;
import static org.junit.jupiter.api.Assertions.assertNotEquals;
import static org.junit.jupiter.api.Assertions.assertTrue;

import fabbrica.core.mesh.model.HalfEdges;
import fabbrica.core.mesh.model.HilbertOrder;
import fabbrica.core.mesh.model.LevelSet;
import fabbrica.core.mesh.model.Mesh;
import fabbrica.core.mesh.model.MeshBuilder;
import fabbrica.core.mesh.model.Rotation;
import fabbrica.core.mesh.model.Shapes;
import fabbrica.core.mesh.model.TriangleTree;
import java.util.Arrays;
import java.util.HashSet;
import java.util.List;
import java.util.Random;
import java.util.Set;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;

class PatchesTest {

    @Test
    void a_ball_comes_apart_into_a_few_patches_poles_and_all() {
        Mesh ball = HilbertOrder.sorted(Shapes.sphere(40, 200, 100));
        int[] patches = Patches.of(ball, new HalfEdges(ball));
        assertTrue(Arrays.stream(patches).max().orElse(0) <= 12);
        assertTrue(Arrays.stream(patches).filter(patch -> patch == 0).count() < 0.01 * patches.length);
    }

    @Test
    void a_ramp_that_winds_over_itself_is_no_single_patch() {
        Mesh ramp = HilbertOrder.sorted(ramp(2, turn -> 3 * turn));
        int[] patches = Patches.of(ramp, new HalfEdges(ramp));
        assertNotEquals(1, Arrays.stream(patches).distinct().count());
        assertEquals(List.of(), Intersections.of(ramp, TriangleTree.ofSorted(ramp), patches));
    }

    /** Every face looks up, and still the second turn goes through the first. */
    @Test
    void a_ramp_that_winds_through_itself_is_found_to_cross() {
        assertTrue(crossings(ramp(2, turn -> 2 * Math.sin(Math.PI * turn))) > 10);
    }

    @ParameterizedTest
    @ValueSource(ints = {1, 2, 3, 4, 5, 6, 7, 8})
    void waves_that_run_into_one_another_cross_as_often_as_without_patches(int seed) {
        Random chance = new Random(seed);
        double high = 2 + 8 * chance.nextDouble(), along = 3 + 9 * chance.nextDouble(), phase = chance.nextDouble();
        int n = 60;
        MeshBuilder sheet = new MeshBuilder(2 * n * n);
        for (int i = 0; i < n; i++) {
            for (int j = 0; j < n; j++) {
                int[] corners = new int[4];
                for (int corner = 0; corner < 4; corner++) {
                    double x = i + corner % 2, y = j + corner / 2;
                    // Crests that lean over (as of steep water) until they meet the next one.
                    corners[corner] = sheet.vertex(x + high * Math.sin(x / along * 2 * Math.PI + y / 9 + phase), y,
                            high * Math.cos(x / along * 2 * Math.PI + y / 9 + phase));
                }
                sheet.triangle(corners[0], corners[1], corners[3]);
                sheet.triangle(corners[0], corners[3], corners[2]);
            }
        }
        assertTrue(crossings(sheet.build()) > 0);
    }

    @Test
    void solids_that_reach_into_one_another_and_narrow_walls_cross_as_often_as_without_patches() {
        Mesh ball = Shapes.sphere(10, 48, 24);
        assertTrue(crossings(Shapes.together(ball, ball.moved(9, 1, 2).turned(Rotation.bringingDown(1, 2, 3)))) > 0);
        assertTrue(crossings(Shapes.together(Shapes.box(20, 20, 20), Shapes.cylinder(3, 40, 90).moved(10, 10, -10))) > 0);
        assertEquals(0, crossings(LevelSet.gyroid(20, 24)));
    }

    @ParameterizedTest
    @ValueSource(ints = {1, 2, 3, 4, 5, 6})
    void a_ball_whose_corners_were_shaken_crosses_as_often_as_without_patches(int seed) {
        Random chance = new Random(seed);
        Mesh ball = Shapes.sphere(20, 80, 40);
        double[] xyz = new double[3 * ball.vertexCount()];
        int[] corners = new int[3 * ball.triangleCount()];
        Arrays.setAll(xyz, i -> (float) (ball.coordinate(i / 3, i % 3) + 0.3 * seed * chance.nextGaussian()));
        Arrays.setAll(corners, i -> ball.corner(i / 3, i % 3));
        assertTrue(crossings(new Mesh(xyz, corners)) > 0);
    }

    /** How many pairs cross, the same with patches as when every pair is looked at. */
    private static int crossings(Mesh drawn) {
        Mesh mesh = HilbertOrder.sorted(drawn);
        TriangleTree tree = TriangleTree.ofSorted(mesh);
        Set<Intersections.Pair> all = new HashSet<>(Intersections.of(mesh, tree, new int[mesh.triangleCount()]));
        List<Intersections.Pair> found = Intersections.of(mesh, tree, Patches.of(mesh, new HalfEdges(mesh)));
        assertEquals(all.size(), found.size());
        assertTrue(all.containsAll(found));
        return all.size();
    }

    private interface Height {
        double at(double turn);
    }

    /** A strip that winds around an upright axis, 5 to 15 mm from it. */
    private static Mesh ramp(int turns, Height height) {
        int steps = 90 * turns, across = 12;
        MeshBuilder ramp = new MeshBuilder(2 * steps * across);
        for (int step = 0; step < steps; step++) {
            for (int i = 0; i < across; i++) {
                int[] corners = new int[4];
                for (int corner = 0; corner < 4; corner++) {
                    double turn = (step + corner / 2) / 90.0, radius = 5 + 10.0 * (i + corner % 2) / across;
                    corners[corner] = ramp.vertex(radius * Math.cos(2 * Math.PI * turn), radius * Math.sin(2 * Math.PI * turn),
                            height.at(turn) + 1e-3 * radius * turn);
                }
                ramp.triangle(corners[0], corners[1], corners[3]);
                ramp.triangle(corners[0], corners[3], corners[2]);
            }
        }
        return ramp.build();
    }
}
