package fabbrica.core.mesh.repair;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import fabbrica.core.inspect.Bodies.Kind;
import fabbrica.core.inspect.Measures;
import fabbrica.core.inspect.Soundness;
import fabbrica.core.mesh.model.Mesh;
import fabbrica.core.mesh.model.Shapes;
import fabbrica.core.mesh.model.Triangles;
import java.util.Arrays;
import java.util.List;
import java.util.Random;
import java.util.stream.IntStream;
import org.junit.jupiter.api.Test;

/** Each solid is broken on purpose; mended, it has to measure what its closed form says. */
class RepairTest {

    @Test
    void a_sound_part_is_left_alone() {
        Repair repair = Repair.of(Shapes.sphere(10, 30, 16));
        assertThat(repair.changes()).isEmpty();
        assertThat(repair.left()).isEmpty();
        assertThat(repair.mesh().triangleCount()).isEqualTo(Shapes.sphere(10, 30, 16).triangleCount());
    }

    @Test
    void a_box_without_its_lid_gets_it_back() {
        Repair repair = Repair.of(Shapes.without(Shapes.box(10, 20, 30), 0, 2));
        assertSolid(repair, 6000, 1e-9);
        assertThat(repair.changes()).containsExactly("1 hole filled with 2 triangles, 200 mm².");
        assertThat(repair.movedMm()).isZero();
    }

    @Test
    void the_ring_missing_from_a_tube_is_filled_without_closing_its_bore() {
        Mesh tube = Shapes.revolution(new double[] {8, 0, 10, 0, 10, 20, 8, 20}, 24);
        int[] top = IntStream.range(0, tube.triangleCount()).filter(t -> IntStream.range(0, 3)
                .allMatch(corner -> tube.z(tube.corner(t, corner)) == 20)).toArray();
        assertThat(top).hasSize(48);
        assertSolid(Repair.of(Shapes.without(tube, top)), Measures.of(tube, tube.bounds()).volumeMm3(), 1e-6);
    }

    @Test
    void a_hole_in_a_round_surface_is_closed_by_the_smallest_skin() {
        Mesh sphere = Shapes.sphere(20, 40, 21);
        Repair repair = Repair.of(Shapes.without(sphere, 400, 401, 402, 403, 480, 481, 482, 483));
        double volume = Measures.of(sphere, sphere.bounds()).volumeMm3();
        assertSolid(repair, volume, volume * 0.005);
    }

    @Test
    void triangles_turned_over_are_turned_back_and_bodies_inside_out_too() {
        Random chance = new Random(5);
        Mesh sphere = Shapes.sphere(10, 30, 16);
        Triangles some = Triangles.of(sphere).flipped(t -> chance.nextInt(3) == 0);
        assertSolid(Repair.of(some.mesh()), Measures.of(sphere, sphere.bounds()).volumeMm3(), 1e-9);
        Repair inside = Repair.of(Triangles.of(sphere).flipped(t -> true).mesh());
        assertThat(Soundness.of(inside.mesh()).bodies().getFirst().kind()).isEqualTo(Kind.SOLID);
    }

    @Test
    void a_hollow_stays_a_hollow_even_when_its_winding_had_to_be_mended() {
        Mesh cavity = Triangles.of(Shapes.box(10, 10, 10).moved(5, 5, 5)).flipped(t -> t != 3).mesh();
        Repair repair = Repair.of(Split.joined(List.of(Shapes.box(20, 20, 20), cavity)));
        assertThat(Soundness.of(repair.mesh()).bodies()).extracting(body -> body.kind())
                .containsExactly(Kind.SOLID, Kind.VOID);
        assertThat(Measures.of(repair.mesh(), repair.mesh().bounds()).volumeMm3()).isCloseTo(7000, within(1e-9));
    }

    @Test
    void cracks_left_by_rounding_are_joined_and_the_movement_is_told() {
        Mesh box = Shapes.box(10, 10, 10);
        double[] xyz = new double[9 * box.triangleCount()];
        Random chance = new Random(9);
        for (int i = 0; i < 3 * box.triangleCount(); i++) {
            int v = box.corner(i / 3, i % 3);
            xyz[3 * i] = box.x(v) + chance.nextDouble() * 0.003;
            xyz[3 * i + 1] = box.y(v) + chance.nextDouble() * 0.003;
            xyz[3 * i + 2] = box.z(v) + chance.nextDouble() * 0.003;
        }
        Repair repair = Repair.of(new Mesh(xyz, IntStream.range(0, 3 * box.triangleCount()).toArray()));
        assertSolid(repair, 1000, 1);
        assertThat(repair.movedMm()).isBetween(0.0001, 0.0053);
    }

    @Test
    void doubled_triangles_go_and_one_of_each_stays() {
        Mesh box = Shapes.box(4, 5, 6);
        Triangles doubled = Triangles.of(box).with(Arrays.copyOf(Triangles.of(box).corners(), 9));
        Repair repair = Repair.of(doubled.mesh());
        assertSolid(repair, 120, 1e-9);
        assertThat(repair.changes()).containsExactly("3 triangles dropped that were there twice.");
    }

    @Test
    void a_solid_wholly_inside_another_is_dropped_and_one_that_sticks_out_stays() {
        Mesh outer = Shapes.box(20, 20, 20), inner = Shapes.box(4, 4, 4);
        assertSolid(Repair.of(Split.joined(List.of(outer, inner.moved(8, 8, 8)))), 8000, 1e-9);
        assertThat(Split.of(Repair.of(Split.joined(List.of(outer, inner.moved(18, 8, 8)))).mesh())).hasSize(2);
    }

    @Test
    void a_sheet_without_thickness_is_not_closed_with_itself() {
        Mesh sheet = new Mesh(new double[] {0, 0, 0, 9, 0, 0, 9, 9, 0, 0, 9, 0}, new int[] {0, 1, 2, 0, 2, 3});
        Repair repair = Repair.of(sheet);
        assertThat(repair.changes()).isEmpty();
        assertThat(repair.left()).containsExactly(
                "A surface of 4 border edges has no thickness; closing it would not make it a solid.");
    }

    @Test
    void what_cannot_be_mended_is_said() {
        Mesh shared = Shapes.together(Shapes.box(1, 1, 1), Shapes.box(1, 1, 1).moved(1, 1, 0));
        assertThat(Repair.of(shared).left()).containsExactly(
                "At 1 edge more than two triangles meet; which belong together cannot be told.");
    }

    @Test
    void bodies_split_and_joined_are_the_same_mesh() {
        Mesh both = Split.joined(List.of(Shapes.box(3, 4, 5), Shapes.sphere(5, 12, 7).moved(20, 0, 0)));
        List<Mesh> parts = Split.of(both);
        assertThat(parts).hasSize(2);
        Mesh again = Split.joined(parts);
        assertThat(again.triangleCount()).isEqualTo(both.triangleCount());
        assertThat(again.vertexCount()).isEqualTo(both.vertexCount());
        assertThat(Measures.of(again, again.bounds()).volumeMm3())
                .isCloseTo(Measures.of(both, both.bounds()).volumeMm3(), within(1e-9));
    }

    private static void assertSolid(Repair repair, double volumeMm3, double tolerance) {
        Soundness soundness = Soundness.of(repair.mesh());
        assertThat(soundness.watertight()).isTrue();
        assertThat(soundness.inconsistentEdges()).isZero();
        assertThat(soundness.intersectingPairs()).isZero();
        assertThat(soundness.bodies()).extracting(body -> body.kind()).containsOnly(Kind.SOLID);
        assertThat(repair.left()).isEmpty();
        assertThat(soundness.bodies().getFirst().signedVolumeMm3()).isCloseTo(volumeMm3, within(tolerance));
    }
}
