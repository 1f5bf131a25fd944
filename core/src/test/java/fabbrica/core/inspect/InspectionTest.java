package fabbrica.core.inspect;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import fabbrica.core.inspect.Finding.Code;
import fabbrica.core.mesh.model.Mesh;
import fabbrica.core.mesh.model.MeshBuilder;
import fabbrica.core.mesh.model.Shapes;
import fabbrica.core.units.LengthUnit;
import java.util.List;
import org.junit.jupiter.api.Test;

/** Counts follow from Euler's polyhedron formula and from how each mesh was broken on purpose. */
class InspectionTest {

    @Test
    void a_closed_body_is_watertight() {
        Soundness sphere = Soundness.of(Shapes.sphere(5, 20, 10));
        assertThat(sphere).isEqualTo(new Soundness(1, 0, 0, 0, 0));
        assertThat(sphere.watertight()).isTrue();
    }

    @Test
    void each_missing_triangle_opens_three_edges() {
        assertThat(Soundness.of(Shapes.without(Shapes.box(5, 5, 5), 0)).openEdges()).isEqualTo(3);
        Soundness two = Soundness.of(Shapes.without(Shapes.sphere(5, 20, 10), 40, 171));
        assertThat(two.openEdges()).isEqualTo(6);
        assertThat(two.watertight()).isFalse();
    }

    @Test
    void bodies_are_counted_apart_even_when_they_touch_in_a_corner() {
        Mesh apart = Shapes.together(Shapes.box(1, 1, 1), Shapes.box(1, 1, 1).moved(3, 0, 0));
        Mesh touching = Shapes.together(Shapes.box(1, 1, 1), Shapes.box(1, 1, 1).moved(1, 1, 1));
        assertThat(Soundness.of(apart).bodies()).isEqualTo(2);
        assertThat(Soundness.of(touching).bodies()).isEqualTo(2);
        assertThat(Soundness.of(touching).watertight()).isTrue();
    }

    @Test
    void two_boxes_that_share_an_edge_meet_four_triangles_there() {
        Soundness shared = Soundness.of(Shapes.together(Shapes.box(1, 1, 1), Shapes.box(1, 1, 1).moved(1, 1, 0)));
        assertThat(shared.nonManifoldEdges()).isEqualTo(1);
        assertThat(shared.openEdges()).isZero();
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
    void the_underside_of_a_cap_is_an_overhang_and_the_foot_is_not() {
        Mesh tee = Shapes.revolution(new double[] {0, 0, 5, 0, 5, 20, 15, 20, 15, 25, 0, 25}, 90);
        Measures measures = Inspection.of(tee).measures();
        double polygon = 90 / 2.0 * Math.sin(2 * Math.PI / 90);
        assertThat(measures.overhangAreaMm2()).isCloseTo(polygon * (225 - 25), within(1e-6));
        assertThat(measures.bedContactAreaMm2()).isCloseTo(polygon * 25, within(1e-6));
    }

    @Test
    void a_slope_of_just_under_45_degrees_needs_no_support_and_just_over_does() {
        assertThat(overhangOfFlare(9.9)).isZero();
        assertThat(overhangOfFlare(10.2)).isPositive();
    }

    @Test
    void sizes_of_a_few_units_look_drawn_in_inches_and_of_fractions_in_metres() {
        assertThat(Inspection.of(Shapes.box(3, 2, 1)).suspectedUnit()).contains(LengthUnit.INCH);
        assertThat(Inspection.of(Shapes.box(0.12, 0.08, 0.05)).suspectedUnit()).contains(LengthUnit.METRE);
        assertThat(Inspection.of(Shapes.box(40, 30, 20)).suspectedUnit()).isEmpty();
    }

    @Test
    void findings_come_worst_first_each_with_a_reason_and_advice() {
        Mesh bad = Shapes.together(Shapes.without(Shapes.box(4, 4, 4), 3), Shapes.box(4, 4, 4).moved(9, 0, 2));
        List<Finding> findings = Findings.of(Inspection.of(bad));
        assertThat(findings).extracting(Finding::code).containsExactly(Code.OPEN_EDGES, Code.OVERHANG,
                Code.MULTIPLE_BODIES);
        assertThat(findings).extracting(Finding::severity).isSorted();
        assertThat(findings).allSatisfy(finding -> {
            assertThat(finding.why()).isNotBlank();
            assertThat(finding.advice()).isNotBlank();
        });
    }

    @Test
    void a_part_thinner_than_any_layer_is_stopped() {
        assertThat(Findings.of(Inspection.of(Shapes.box(40, 40, 0.1)))).extracting(Finding::code)
                .contains(Code.TOO_SMALL);
    }

    @Test
    void a_sound_part_of_a_sensible_size_has_no_findings() {
        assertThat(Findings.of(Inspection.of(Shapes.box(40, 30, 20)))).isEmpty();
    }

    @Test
    void a_drawing_of_a_box_shows_four_lines_from_each_side() {
        for (ViewDrawing.View view : ViewDrawing.View.values()) {
            ViewDrawing drawing = ViewDrawing.of(Shapes.box(30, 20, 10), view);
            double drawn = drawing.strokes().stream()
                    .mapToDouble(s -> Math.hypot(s[2] - s[0], s[3] - s[1])).sum();
            // Front and back edges coincide, so each side may be drawn twice.
            assertThat(drawn).isBetween(2 * (drawing.widthMm() + drawing.heightMm()),
                    4 * (drawing.widthMm() + drawing.heightMm()));
        }
        assertThat(ViewDrawing.of(Shapes.box(30, 20, 10), ViewDrawing.View.SIDE).widthMm()).isEqualTo(20);
    }

    @Test
    void a_round_part_is_outlined_on_its_left_as_on_its_right() {
        ViewDrawing front = ViewDrawing.of(Shapes.cylinder(20, 30, 72), ViewDrawing.View.FRONT);
        assertThat(front.strokes()).anyMatch(s -> s[0] < 1e-6 && s[2] < 1e-6 && Math.abs(s[3] - s[1]) > 29);
        assertThat(front.strokes()).anyMatch(s -> s[0] > 39.999 && s[2] > 39.999 && Math.abs(s[3] - s[1]) > 29);
    }

    @Test
    void what_lies_behind_is_not_drawn() {
        Mesh hidden = Shapes.together(Shapes.box(30, 4, 30), Shapes.box(6, 4, 6).moved(10, 20, 10));
        ViewDrawing front = ViewDrawing.of(hidden, ViewDrawing.View.FRONT);
        assertThat(front.strokes()).noneMatch(s -> s[0] > 5 && s[0] < 25 && s[1] > 5 && s[1] < 25);
    }

    /** A cone standing on its narrow end, widening by {@code reach} over a height of 10. */
    private static double overhangOfFlare(double reach) {
        return Inspection.of(Shapes.cone(5, 5 + reach, 10, 180)).measures().overhangAreaMm2();
    }
}
