package fabbrica.core.inspect;

import static org.assertj.core.api.Assertions.assertThat;

import fabbrica.core.inspect.Finding.Code;
import fabbrica.core.mesh.model.Mesh;
import fabbrica.core.mesh.model.Shapes;
import fabbrica.core.mesh.repair.Split;
import java.util.Arrays;
import java.util.List;
import java.util.stream.Stream;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.Arguments;
import org.junit.jupiter.params.provider.MethodSource;

/** Which shapes raise which findings; the limits are common practice, no source. */
class FindingsTest {

    static Stream<Arguments> shapes() {
        Mesh box = Shapes.box(20, 20, 20);
        return Stream.of(
                Arguments.of(Code.OPEN_EDGES, Shapes.without(box, 3)),
                Arguments.of(Code.NON_MANIFOLD, Shapes.together(box, box.moved(20, 20, 0))),
                Arguments.of(Code.FLIPPED, SoundnessTest.flipped(box, 2)),
                Arguments.of(Code.FLIPPED, SoundnessTest.reversed(box)),
                Arguments.of(Code.DUPLICATE, Split.joined(List.of(Shapes.together(box, tile(), tile())))),
                Arguments.of(Code.INTERSECTING, Split.joined(List.of(box, box.moved(7, 8, 9)))),
                Arguments.of(Code.MULTIPLE_BODIES, Split.joined(List.of(box, box.moved(40, 0, 0)))),
                Arguments.of(Code.TRAPPED_VOID, Split.joined(List.of(box,
                        SoundnessTest.reversed(Shapes.box(9, 9, 9)).moved(5, 5, 5)))),
                Arguments.of(Code.FLOATING_BODY, Split.joined(List.of(box, box.moved(40, 0, 3)))),
                Arguments.of(Code.UNIT_SUSPECT, Shapes.box(3, 2, 2)),
                Arguments.of(Code.TOO_SMALL, Shapes.box(30, 20, 0.1)),
                Arguments.of(Code.THIN_WALL, Shapes.box(30, 20, 0.3)),
                Arguments.of(Code.NARROW_GAP, Split.joined(List.of(box, box.moved(20.2, 0, 0)))),
                Arguments.of(Code.OVERHANG, Shapes.cone(10, 25, 10, 60)),
                Arguments.of(Code.ISLAND, Split.joined(List.of(box, box.moved(40, 0, 3)))),
                Arguments.of(Code.SMALL_CONTACT, Shapes.cone(2, 20, 60, 60)),
                Arguments.of(Code.TIPS_OVER, Shapes.box(3, 20, 100)));
    }

    @ParameterizedTest
    @MethodSource("shapes")
    void each_trouble_is_named(Code code, Mesh mesh) {
        assertThat(codes(mesh)).contains(code);
    }

    @Test
    void every_code_but_that_of_the_beds_is_raised_here() {
        List<Code> raised = shapes().map(arguments -> (Code) arguments.get()[0]).toList();
        // Codes after the last of them are about files sliced elsewhere.
        assertThat(Arrays.stream(Code.values()).filter(code -> code.compareTo(Code.TIPS_OVER) <= 0 && !raised.contains(code)))
                .containsExactlyInAnyOrder(Code.DEGENERATE, Code.TOO_BIG);
    }

    @Test
    void findings_come_worst_first_each_with_a_reason_and_advice() {
        Mesh bad = Shapes.together(Shapes.without(Shapes.box(4, 4, 4), 3), Shapes.box(4, 4, 4).moved(9, 0, 2));
        List<Finding> findings = findings(bad);
        assertThat(findings.getFirst().code()).isEqualTo(Code.OPEN_EDGES);
        assertThat(findings).extracting(Finding::severity).isSorted();
        assertThat(findings).allSatisfy(finding -> {
            assertThat(finding.why()).isNotBlank();
            assertThat(finding.advice()).isNotBlank();
        });
    }

    @Test
    void a_sound_part_of_a_sensible_size_has_no_findings() {
        assertThat(findings(Shapes.box(40, 30, 20))).isEmpty();
    }

    @Test
    void a_wider_nozzle_loses_what_a_finer_one_keeps() {
        Inspection thin = Inspection.of(Shapes.box(60, 40, 0.9));
        assertThat(Findings.of(thin, PrintLimits.of(0.4))).isEmpty();
        assertThat(Findings.of(thin, PrintLimits.of(0.6))).extracting(Finding::severity).containsExactly(Severity.NOTE);
        assertThat(Findings.of(thin, PrintLimits.of(1.0))).extracting(Finding::severity).containsExactly(Severity.CARE);
    }

    @Test
    void places_are_where_the_trouble_is() {
        Finding hole = findings(Shapes.without(Shapes.box(20, 20, 20), 0, 2)).getFirst();
        assertThat(hole.places()).hasSize(1);
        assertThat(hole.places().getFirst().label()).isEqualTo("hole, 80.0 mm around");
    }

    private static Mesh tile() {
        return new Mesh(new double[] {0, 0, 20, 20, 0, 20, 20, 20, 20}, new int[] {0, 1, 2});
    }

    private static List<Code> codes(Mesh mesh) {
        return findings(mesh).stream().map(Finding::code).toList();
    }

    private static List<Finding> findings(Mesh mesh) {
        return Findings.of(Inspection.of(mesh), PrintLimits.USUAL);
    }
}
