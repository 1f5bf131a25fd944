package fabbrica.core.inspect;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;
import static org.assertj.core.api.Assertions.within;
import static org.assertj.core.api.Assertions.withinPercentage;

import fabbrica.core.mesh.model.Mesh;
import fabbrica.core.mesh.model.Rotation;
import fabbrica.core.mesh.model.Shapes;
import fabbrica.core.mesh.model.Triangles;
import fabbrica.core.mesh.repair.Split;
import fabbrica.core.units.LengthUnit;
import fabbrica.core.units.Progress;
import java.util.List;
import java.util.Random;
import java.util.concurrent.CancellationException;
import java.util.concurrent.atomic.AtomicInteger;
import java.util.stream.IntStream;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;

/** What an inspection guesses and draws; its measures have tests of their own. */
class InspectionTest {

    @Test
    void sizes_of_a_few_units_look_drawn_in_inches_and_of_fractions_in_metres() {
        assertThat(Inspection.of(Shapes.box(3, 2, 1)).suspectedUnit()).contains(LengthUnit.INCH);
        assertThat(Inspection.of(Shapes.box(0.12, 0.08, 0.05)).suspectedUnit()).contains(LengthUnit.METRE);
        assertThat(Inspection.of(Shapes.box(40, 30, 20)).suspectedUnit()).isEmpty();
    }

    @Test
    void each_unit_that_would_make_a_usual_part_is_offered() {
        assertThat(Inspection.of(Shapes.box(3, 2, 1)).unitCandidates()).containsExactly(LengthUnit.INCH,
                LengthUnit.CENTIMETRE);
        assertThat(Inspection.of(Shapes.box(0.12, 0.08, 0.05)).unitCandidates()).containsExactly(LengthUnit.METRE);
    }

    @ParameterizedTest
    @ValueSource(ints = {0, 1, 2, 5, 20, 100})
    void measuring_is_given_up_wherever_it_is_when_nobody_waits_any_more(int patience) {
        Mesh heap = Split.joined(IntStream.range(0, 2000).mapToObj(i -> Shapes.box(10, 10, 10).moved(0.1 * i, 0, 0)).toList());
        AtomicInteger asked = new AtomicInteger();
        Progress impatient = new Progress() {
            @Override
            public void reached(double fraction) {
            }

            @Override
            public boolean cancelled() {
                return asked.incrementAndGet() > patience;
            }
        };
        assertThatThrownBy(() -> Inspection.of(heap, impatient)).isInstanceOf(CancellationException.class);
    }

    @ParameterizedTest
    @ValueSource(ints = {1, 2, 3, 4, 5, 6})
    void no_measure_but_the_pose_changes_when_the_part_is_turned_and_moved_and_all_scale(int seed) {
        Random chance = new Random(seed);
        Mesh part = Split.joined(List.of(Shapes.revolution(new double[] {4, 0, 7, 0, 9 + chance.nextDouble(), 14, 5, 14}, 40),
                Shapes.box(3, 4, 5 + chance.nextDouble()).moved(20, 0, 0)));
        Rotation turn = new Rotation(chance.nextGaussian(), chance.nextGaussian(), chance.nextGaussian(), chance.nextGaussian());
        double factor = 0.5 + 3 * chance.nextDouble();
        Inspection before = Inspection.of(part);
        Inspection after = Inspection.of(part.turned(turn).moved(9, -40, 7).scaled(factor));
        double cube = factor * factor * factor;
        assertThat(after.measures().volumeMm3()).isCloseTo(before.measures().volumeMm3() * cube, withinPercentage(1e-6));
        assertThat(after.measures().areaMm2()).isCloseTo(before.measures().areaMm2() * factor * factor, withinPercentage(1e-6));
        assertThat(after.thickness().thinnestWallMm())
                .isCloseTo(before.thickness().thinnestWallMm() * factor, withinPercentage(0.5));
        assertThat(after.soundness().bodies()).hasSameSizeAs(before.soundness().bodies());
        assertThat(after.soundness().watertight()).isTrue();
        Inspection reversed = Inspection.of(SoundnessTest.reversed(part));
        assertThat(reversed.soundness().bodies().getFirst().signedVolumeMm3())
                .isCloseTo(-before.soundness().bodies().getFirst().signedVolumeMm3(), withinPercentage(1e-9));
    }

    @Test
    void the_volume_is_that_of_the_solid_that_would_be_printed() {
        Mesh box = Shapes.box(10, 10, 10);
        Mesh away = box.moved(20, 0, 0);
        assertThat(volume(Shapes.together(box, box))).as("twice the same").isCloseTo(1000, within(1e-6));
        assertThat(volume(Shapes.together(box, turnedInsideOut(away)))).as("one inside out").isCloseTo(2000, within(1e-6));
        assertThat(volume(Shapes.together(box, Shapes.box(2, 2, 2).moved(4, 4, 4)))).as("one within").isCloseTo(1000, within(1e-6));
        assertThat(volume(Shapes.together(box, turnedInsideOut(Shapes.box(2, 2, 2).moved(4, 4, 4))))).as("a void")
                .isCloseTo(992, within(1e-6));
        // Half of each in the other: 1000 + 1000 − 500, by lines through the part.
        assertThat(volume(Shapes.together(box, box.moved(5, 0.003, 0.002)))).as("overlapping").isCloseTo(1500, within(8.0));
        assertThat(Inspection.of(Shapes.together(box, box)).measures().areaMm2()).isCloseTo(600, within(1e-6));
    }

    private static double volume(Mesh mesh) {
        return Inspection.of(mesh).measures().volumeMm3();
    }

    private static Mesh turnedInsideOut(Mesh mesh) {
        return Triangles.of(mesh).flipped(t -> true).mesh();
    }
}
