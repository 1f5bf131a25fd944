package fabbrica.core.mesh.model;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import java.util.ArrayList;
import java.util.Arrays;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Random;
import org.junit.jupiter.api.Test;

/** Against a plain map from edges to the triangles at them, and Euler's formula. */
class HalfEdgesTest {

    @Test
    void every_half_edge_of_a_closed_body_has_a_twin_that_runs_the_other_way() {
        Mesh ball = Shapes.sphere(5, 24, 13);
        HalfEdges edges = new HalfEdges(ball);
        for (int h = 0; h < 3 * ball.triangleCount(); h++) {
            assertThat(edges.twin(edges.twin(h))).isEqualTo(h);
            assertThat(edges.from(h)).isEqualTo(edges.to(edges.twin(h)));
            assertThat(edges.agrees(h)).isTrue();
        }
        assertThat(ball.vertexCount() - 3 * ball.triangleCount() / 2 + ball.triangleCount()).as("Euler").isEqualTo(2);
    }

    @Test
    void random_triangles_are_counted_as_a_plain_map_counts_them() {
        Random chance = new Random(2);
        for (int round = 0; round < 50; round++) {
            int[] corners = chance.ints(3 * (5 + round), 0, 8).toArray();
            Mesh mesh = new Mesh(chance.doubles(24).toArray(), corners);
            Map<List<Integer>, List<Integer>> at = new HashMap<>();
            for (int t = 0; t < mesh.triangleCount(); t++) {
                for (int c = 0; c < 3 && !HalfEdges.isCollapsed(mesh, t); c++) {
                    int a = mesh.corner(t, c), b = mesh.corner(t, (c + 1) % 3);
                    at.computeIfAbsent(List.of(Math.min(a, b), Math.max(a, b)), key -> new ArrayList<>()).add(t);
                }
            }
            HalfEdges edges = new HalfEdges(mesh);
            assertThat(edges.openEdges()).isEqualTo((int) at.values().stream().filter(t -> t.size() == 1).count());
            assertThat(edges.crowdedEdges()).isEqualTo((int) at.values().stream().filter(t -> t.size() > 2).count());
            for (List<Integer> together : at.values()) {
                assertThat(together.stream().map(edges::body).distinct()).as("one body").hasSize(1);
            }
            assertThat(Arrays.stream(edges(edges, mesh)).filter(twin -> twin == HalfEdges.COLLAPSED).count() % 3).isZero();
        }
    }

    @Test
    void bodies_are_numbered_in_the_order_of_their_first_triangles() {
        Mesh three = Shapes.together(Shapes.box(1, 1, 1), Shapes.box(1, 1, 1).moved(3, 0, 0),
                Shapes.box(1, 1, 1).moved(6, 0, 0));
        HalfEdges edges = new HalfEdges(three);
        assertThat(edges.bodies()).isEqualTo(3);
        for (int t = 0; t < three.triangleCount(); t++) {
            assertThat(edges.body(t)).isEqualTo(t / 12);
        }
    }

    @Test
    void holes_run_so_that_a_patch_continues_the_surface() {
        Mesh lidless = Shapes.without(Shapes.box(4, 5, 6), 0, 2);
        List<Holes.Hole> holes = Holes.of(lidless, new HalfEdges(lidless));
        assertThat(holes).hasSize(1);
        Holes.Hole hole = holes.getFirst();
        assertThat(hole.closed()).isTrue();
        assertThat(hole.lengthMm()).isCloseTo(18, within(1e-12));
        int[] v = hole.vertices();
        double turn = 0;
        for (int i = 0; i < v.length; i++) {
            int a = v[i], b = v[(i + 1) % v.length];
            turn += lidless.x(a) * lidless.y(b) - lidless.x(b) * lidless.y(a);
        }
        assertThat(turn / 2).as("counter-clockwise from above").isCloseTo(20, within(1e-12));
    }

    private static int[] edges(HalfEdges edges, Mesh mesh) {
        int[] twins = new int[3 * mesh.triangleCount()];
        Arrays.setAll(twins, edges::twin);
        return twins;
    }
}
