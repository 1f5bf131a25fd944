package fabbrica.core.toolpath;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import fabbrica.core.mesh.model.LevelSet;
import fabbrica.core.mesh.model.Mesh;
import fabbrica.core.mesh.model.Shapes;
import fabbrica.core.recipe.Adhesion;
import fabbrica.core.recipe.InfillPattern;
import fabbrica.core.recipe.Recipe;
import fabbrica.core.units.Progress;
import java.util.List;
import java.util.Random;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;
import org.locationtech.jts.geom.Geometry;
import org.locationtech.jts.operation.buffer.BufferOp;
import org.locationtech.jts.operation.buffer.BufferParameters;

/** Against areas worked by hand, and against the buffer of JTS, a general geometry library, on shapes left to chance. */
class OffsetTest {

    private static final BufferParameters SHARP =
            new BufferParameters(2, BufferParameters.CAP_ROUND, BufferParameters.JOIN_MITRE, 2);

    @Test
    void a_rectangle_shrinks_by_the_distance_on_every_side_until_nothing_is_left() {
        Island box = island(0, 0, 20, 0, 20, 10, 0, 10);
        assertThat(areaWithin(box, 2)).isCloseTo(16 * 6, within(1e-9));
        assertThat(areaWithin(box, 4.999)).isCloseTo(10.002 * 0.002, within(1e-6));
        assertThat(areaWithin(box, 5)).isCloseTo(0, within(1e-3));
        assertThat(areaWithin(box, 7)).isZero();
        assertThat(areaWithin(box, 30)).isZero();
    }

    @Test
    void a_dumbbell_falls_apart_where_its_bar_is_thinner_than_twice_the_distance() {
        Island dumbbell = island(0, 0, 10, 0, 10, 4, 20, 4, 20, 0, 30, 0, 30, 10, 20, 10, 20, 6, 10, 6, 10, 10, 0, 10);
        List<Island> moved = Offset.inwards(dumbbell, 1.5);
        assertThat(moved).hasSize(2);
        assertThat(Island.areaMm2(moved)).isCloseTo(2 * 49, within(1e-3));
        assertThat(Offset.isPlain(dumbbell, 1.5)).isFalse();
        assertThat(Offset.isPlain(dumbbell, 0.5)).isTrue();
    }

    @Test
    void a_ring_shrinks_from_both_sides_and_a_thin_one_vanishes() {
        Island ring = Island.of(Shapes.disc(0, 0, 10, 90).difference(Shapes.disc(0, 0, 8, 90))).getFirst();
        double polygon = 45 * Math.sin(Math.PI / 45);
        double half = 0.5 / Math.cos(Math.PI / 90);
        assertThat(areaWithin(ring, 0.5)).isCloseTo(polygon * (Math.pow(10 - half, 2) - Math.pow(8 + half, 2)),
                within(1e-6));
        assertThat(areaWithin(ring, 1.2)).isZero();
    }

    @Test
    void areas_that_grow_into_one_another_become_one() {
        List<Island> boxes = List.of(island(0, 0, 10, 0, 10, 10, 0, 10), island(13, 0, 23, 0, 23, 10, 13, 10));
        assertThat(Offset.outwards(boxes, 1)).hasSize(2);
        List<Island> one = Offset.outwards(boxes, 2);
        assertThat(one).hasSize(1);
        assertThat(Island.areaMm2(one)).isCloseTo(27 * 14, within(1e-3));
    }

    @ParameterizedTest
    @ValueSource(doubles = {0.2, 0.7, 1.5, 3, 6, -0.5, -2})
    void shapes_left_to_chance_shrink_and_grow_as_the_reference_says(double distance) {
        Random chance = new Random(11);
        for (int turn = 0; turn < 150; turn++) {
            double[] star = new double[2 * (5 + chance.nextInt(40))];
            for (int i = 0; i < star.length; i += 2) {
                double angle = Math.PI * 2 * i / star.length, radius = 4 + 12 * chance.nextDouble();
                star[i] = radius * Math.cos(angle);
                star[i + 1] = radius * Math.sin(angle);
            }
            Island island = new Island(star, List.of());
            double sharp = BufferOp.bufferOp(island.toJts(), -distance, SHARP).getArea();
            double round = BufferOp.bufferOp(island.toJts(), -distance, 32).getArea();
            double actual = distance > 0 ? areaWithin(island, distance)
                    : Island.areaMm2(Offset.outwards(List.of(island), -distance));
            // Corners that reach far are cut square nearer to the shape than the reference's, farther out than an arc.
            double rounding = 0.02 + 0.005 * Math.max(sharp, round);
            assertThat(actual).as("round %d", turn)
                    .isBetween(Math.min(sharp, round) - rounding, Math.max(sharp, round) + rounding);
        }
    }

    @Test
    void the_layers_of_a_gyroid_shrink_as_the_reference_says() {
        Mesh gyroid = LevelSet.gyroid(30, 44);
        Recipe recipe = new Recipe(1, 1, 1.2, 1, 0, 0, 0.1, InfillPattern.LINES, Adhesion.NONE, 60);
        Slices slices = Slices.of(gyroid, recipe, Progress.IGNORED);
        for (int layer = 0; layer < slices.count(); layer++) {
            for (double distance : new double[] {0.2, 0.6, 1, 1.3}) {
                Geometry area = Island.toJts(slices.areas(layer));
                double expected = BufferOp.bufferOp(area, -distance, SHARP).getArea();
                assertThat(Island.areaMm2(Offset.inwards(slices.areas(layer), distance)))
                        .isCloseTo(expected, within(0.05 + 0.01 * expected));
            }
        }
    }

    @Test
    void what_lies_in_one_area_and_not_in_others_is_left_by_subtraction() {
        List<Island> left = SolidArea.minus(List.of(island(0, 0, 20, 0, 20, 10, 0, 10)),
                Island.rings(List.of(island(5, -3, 8, -3, 8, 13, 5, 13), island(12, 2, 15, 2, 15, 5, 12, 5))));
        assertThat(left).hasSize(2);
        assertThat(Island.areaMm2(left)).isCloseTo(200 - 30 - 9, within(1e-6));
    }

    @Test
    void a_ring_that_crosses_itself_counts_wherever_it_runs_around() {
        // A bow tie: non-zero keeps both wings, the positive rule the one that runs counter-clockwise.
        double[] bow = {0, 0, 10, 10, 10, 0, 0, 10};
        assertThat(Island.areaMm2(SolidArea.of(List.of(bow)).islands())).isCloseTo(50, within(1e-9));
        assertThat(Island.areaMm2(SolidArea.positive(List.of(bow)).islands())).isCloseTo(25, within(1e-9));
    }

    private static double areaWithin(Island island, double distance) {
        return Island.areaMm2(Offset.inwards(island, distance));
    }

    private static Island island(double... points) {
        return new Island(points, List.of());
    }
}
