package fabbrica.core.inspect;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import fabbrica.core.inspect.Bodies.Body;
import fabbrica.core.inspect.Bodies.Kind;
import fabbrica.core.mesh.model.Mesh;
import fabbrica.core.mesh.model.MeshBuilder;
import fabbrica.core.mesh.model.Rotation;
import fabbrica.core.mesh.model.Shapes;
import fabbrica.core.mesh.repair.Split;
import java.util.List;
import org.junit.jupiter.api.Test;

/** Counts follow from Euler's polyhedron formula and from how each mesh was broken on purpose. */
class SoundnessTest {

    @Test
    void a_closed_body_is_sound_in_every_respect() {
        Soundness sphere = Soundness.of(Shapes.sphere(5, 20, 10));
        assertThat(sphere.watertight()).isTrue();
        assertThat(sphere.bodies()).hasSize(1).allMatch(body -> body.kind() == Kind.SOLID && !body.floating());
        assertThat(sphere.degenerateTriangles() + sphere.duplicateTriangles() + sphere.inconsistentEdges()
                + sphere.intersectingPairs()).isZero();
        assertThat(sphere.holes()).isEmpty();
    }

    @Test
    void each_missing_triangle_opens_three_edges_and_one_loop() {
        Soundness one = Soundness.of(Shapes.without(Shapes.box(3, 4, 5), 2));
        assertThat(one.openEdges()).isEqualTo(3);
        assertThat(one.holes()).hasSize(1);
        Soundness two = Soundness.of(Shapes.without(Shapes.sphere(5, 20, 10), 40, 171));
        assertThat(two.openEdges()).isEqualTo(6);
        assertThat(two.holes()).hasSize(2);
        assertThat(two.watertight()).isFalse();
        assertThat(two.bodies()).extracting(Body::kind).containsExactly(Kind.OPEN);
    }

    @Test
    void a_hole_is_measured_around() {
        Soundness lidless = Soundness.of(Shapes.without(Shapes.box(3, 4, 5), 0, 2));
        assertThat(lidless.holes()).hasSize(1);
        assertThat(lidless.holes().getFirst().lengthMm()).isCloseTo(2 * (3 + 4), within(1e-9));
        assertThat(lidless.holes().getFirst().edges()).isEqualTo(4);
    }

    @Test
    void bodies_are_counted_apart_even_when_they_touch_in_a_corner() {
        Mesh apart = Shapes.together(Shapes.box(1, 1, 1), Shapes.box(1, 1, 1).moved(3, 0, 0));
        Mesh touching = Shapes.together(Shapes.box(1, 1, 1), Shapes.box(1, 1, 1).moved(1, 1, 1));
        assertThat(Soundness.of(apart).bodies()).hasSize(2);
        assertThat(Soundness.of(touching).bodies()).hasSize(2);
        assertThat(Soundness.of(touching).watertight()).isTrue();
    }

    @Test
    void two_boxes_that_share_an_edge_meet_four_triangles_there() {
        Soundness shared = Soundness.of(Shapes.together(Shapes.box(1, 1, 1), Shapes.box(1, 1, 1).moved(1, 1, 0)));
        assertThat(shared.nonManifoldEdges()).isEqualTo(1);
        assertThat(shared.openEdges()).isZero();
        assertThat(shared.places().nonManifold()).hasSize(1).allMatch(place -> place.x() == 1 && place.y() == 1);
    }

    @Test
    void a_triangle_that_is_there_twice_is_a_duplicate_whichever_way_it_is_wound() {
        for (boolean reversed : new boolean[] {false, true}) {
            MeshBuilder builder = new MeshBuilder(4);
            int a = builder.vertex(0, 0, 0), b = builder.vertex(1, 0, 0), c = builder.vertex(0, 1, 0);
            builder.triangle(a, b, c);
            builder.triangle(reversed ? c : b, reversed ? b : c, a);
            builder.triangle(c, a, b);
            assertThat(Soundness.of(builder.build()).duplicateTriangles()).isEqualTo(2);
        }
    }

    @Test
    void triangles_without_area_are_degenerate() {
        MeshBuilder builder = new MeshBuilder(4);
        int a = builder.vertex(0, 0, 0), b = builder.vertex(1, 0, 0), c = builder.vertex(2, 0, 0);
        builder.triangle(a, b, c);
        builder.triangle(a, a, b);
        builder.triangle(a, b, builder.vertex(0, 1, 0));
        assertThat(Soundness.of(builder.build()).degenerateTriangles()).isEqualTo(2);
    }

    @Test
    void one_triangle_turned_over_disagrees_along_its_three_edges() {
        Soundness turned = Soundness.of(flipped(Shapes.sphere(5, 20, 10), 37));
        assertThat(turned.inconsistentEdges()).isEqualTo(3);
        assertThat(turned.watertight()).isTrue();
    }

    @Test
    void a_body_wound_the_other_way_is_inside_out_where_nothing_surrounds_it() {
        Soundness out = Soundness.of(reversed(Shapes.box(2, 3, 4)));
        assertThat(out.bodies().getFirst().kind()).isEqualTo(Kind.INSIDE_OUT);
        assertThat(out.bodies().getFirst().signedVolumeMm3()).isCloseTo(-24, within(1e-9));
        assertThat(out.inconsistentEdges()).isZero();
    }

    @Test
    void a_hollow_is_a_void_and_a_body_in_it_floats() {
        Mesh hollow = Split.joined(List.of(Shapes.box(30, 30, 30), reversed(Shapes.box(20, 20, 20)).moved(5, 5, 5),
                Shapes.box(4, 4, 4).moved(12, 12, 12)));
        Soundness soundness = Soundness.of(hollow);
        assertThat(soundness.bodies()).extracting(Body::kind).containsExactly(Kind.SOLID, Kind.VOID, Kind.SOLID);
        assertThat(soundness.floating()).hasSize(1);
        assertThat(soundness.floating().getFirst().bounds().minZ()).isEqualTo(12);
    }

    @Test
    void a_body_wholly_inside_another_is_swallowed() {
        Soundness soundness = Soundness.of(Split.joined(List.of(Shapes.box(30, 30, 30),
                Shapes.box(4, 4, 4).moved(12, 12, 12))));
        assertThat(soundness.bodies()).extracting(Body::kind).containsExactly(Kind.SOLID, Kind.SWALLOWED);
    }

    @Test
    void a_plate_on_a_pillar_is_carried_and_one_above_it_is_not() {
        Mesh pillar = Shapes.box(4, 4, 10).moved(8, 8, 0);
        Mesh plate = Shapes.box(20, 20, 2);
        assertThat(Soundness.of(Split.joined(List.of(pillar, plate.moved(0, 0, 10)))).floating()).isEmpty();
        assertThat(Soundness.of(Split.joined(List.of(pillar, plate.moved(0, 0, 11)))).floating()).hasSize(1);
    }

    @Test
    void surfaces_that_cross_are_found_and_surfaces_that_touch_are_not() {
        Mesh box = Shapes.box(10, 10, 10);
        assertThat(crossings(Split.joined(List.of(box, box.moved(5, 5, 5))))).isPositive();
        assertThat(crossings(Split.joined(List.of(box, box.moved(0, 0, 10))))).isZero();
        assertThat(crossings(Split.joined(List.of(box, box.moved(10, 10, 10))))).isZero();
        assertThat(crossings(Split.joined(List.of(box, box.moved(11, 0, 0))))).isZero();
        assertThat(crossings(Shapes.sphere(20, 60, 31))).isZero();
    }

    @Test
    void a_spike_through_one_face_crosses_exactly_that_triangle() {
        Mesh plate = triangle(0, 0, 0, 10, 0, 0, 0, 10, 0);
        Mesh spike = triangle(2, 2, -1, 2, 2, 1, 40, 40, 1);
        Soundness soundness = Soundness.of(Split.joined(List.of(plate, spike)));
        assertThat(soundness.intersectingPairs()).isEqualTo(1);
        assertThat(soundness.betweenBodies()).isEqualTo(1);
    }

    @Test
    void the_union_of_two_overlapping_boxes_counts_their_common_part_once() {
        Mesh box = Shapes.box(20, 20, 20);
        Inspection both = Inspection.of(Split.joined(List.of(box, box.moved(10, 10, 10))));
        assertThat(both.measures().volumeMm3()).isEqualTo(both.columns().solidMm3());
        assertThat(both.columns().solidMm3()).isCloseTo(15_000, within(75.0));
    }

    @Test
    void counts_do_not_change_when_the_part_is_turned_and_moved() {
        Mesh broken = Shapes.without(flipped(Shapes.sphere(12, 40, 21), 300), 5, 700);
        Soundness before = Soundness.of(broken);
        Soundness after = Soundness.of(broken.turned(new Rotation(0.3, -0.5, 0.7, 0.2)).moved(120, -45, 3));
        assertThat(after.openEdges()).isEqualTo(before.openEdges());
        assertThat(after.inconsistentEdges()).isEqualTo(before.inconsistentEdges());
        assertThat(after.intersectingPairs()).isEqualTo(before.intersectingPairs());
    }

    private static int crossings(Mesh mesh) {
        return Soundness.of(mesh).intersectingPairs();
    }

    static Mesh reversed(Mesh mesh) {
        return turnedOver(mesh, t -> true);
    }

    static Mesh flipped(Mesh mesh, int triangle) {
        return turnedOver(mesh, t -> t == triangle);
    }

    private static Mesh turnedOver(Mesh mesh, java.util.function.IntPredicate turned) {
        MeshBuilder builder = new MeshBuilder(mesh.triangleCount());
        for (int t = 0; t < mesh.triangleCount(); t++) {
            int second = turned.test(t) ? 2 : 1;
            int[] corner = new int[3];
            for (int i = 0; i < 3; i++) {
                int v = mesh.corner(t, i == 0 ? 0 : i == 1 ? second : 3 - second);
                corner[i] = builder.vertex(mesh.x(v), mesh.y(v), mesh.z(v));
            }
            builder.triangle(corner[0], corner[1], corner[2]);
        }
        return builder.build();
    }

    private static Mesh triangle(double... xyz) {
        return new Mesh(xyz, new int[] {0, 1, 2});
    }
}
