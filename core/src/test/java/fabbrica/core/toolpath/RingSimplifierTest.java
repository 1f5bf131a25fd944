package fabbrica.core.toolpath;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import java.util.Random;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;
import org.locationtech.jts.geom.Coordinate;
import org.locationtech.jts.geom.GeometryFactory;
import org.locationtech.jts.geom.LineString;
import org.locationtech.jts.simplify.DouglasPeuckerSimplifier;

/** Against the same published method in JTS, a general geometry library, and against what it promises. */
class RingSimplifierTest {

    private static final GeometryFactory PLANE = new GeometryFactory();

    @ParameterizedTest
    @ValueSource(doubles = {0.005, 0.02, 0.1, 0.5})
    void every_point_that_is_dropped_lies_within_the_tolerance(double tolerance) {
        Random chance = new Random(17);
        for (int turn = 0; turn < 60; turn++) {
            double[] ring = rough(chance, 30 + chance.nextInt(400));
            double[] simple = RingSimplifier.simplify(ring, tolerance);
            LineString line = Rings.toJts(simple);
            for (int i = 0; i < ring.length; i += 2) {
                assertThat(line.distance(PLANE.createPoint(new Coordinate(ring[i], ring[i + 1]))))
                        .isLessThanOrEqualTo(tolerance * (1 + 1e-9));
            }
        }
    }

    @Test
    void about_as_many_points_are_left_as_the_reference_leaves() {
        Random chance = new Random(23);
        for (int turn = 0; turn < 30; turn++) {
            double[] ring = rough(chance, 200);
            int left = RingSimplifier.simplify(ring, 0.05).length / 2;
            int reference = DouglasPeuckerSimplifier.simplify(Rings.toJts(ring), 0.05).getNumPoints() - 1;
            assertThat((double) left).isCloseTo(reference, within(0.06 * reference + 3));
        }
    }

    @Test
    void a_circle_keeps_as_many_points_as_its_sagitta_needs() {
        // A chord of a circle strays from it by r (1 − cos(π / n)): for r = 20 mm and 0.02 mm at least 71 chords.
        double[] circle = new double[2 * 4096];
        for (int i = 0; i < circle.length; i += 2) {
            circle[i] = 20 * Math.cos(Math.PI * i / 4096);
            circle[i + 1] = 20 * Math.sin(Math.PI * i / 4096);
        }
        assertThat(RingSimplifier.simplify(circle, 0.02).length / 2).isBetween(71, 142);
    }

    @Test
    void what_is_no_wider_than_the_tolerance_is_gone() {
        assertThat(RingSimplifier.simplify(new double[] {0, 0, 0.01, 0, 0.01, 0.01, 0, 0.01}, 0.02)).isEmpty();
        assertThat(RingSimplifier.simplify(new double[] {0, 0, 1, 1}, 0.02)).isEmpty();
        assertThat(RingSimplifier.simplify(new double[] {3, 3, 3, 3, 3, 3, 3, 3}, 0.02)).isEmpty();
    }

    private static double[] rough(Random chance, int points) {
        double[] ring = new double[2 * points];
        for (int i = 0; i < ring.length; i += 2) {
            double angle = 2 * Math.PI * i / ring.length, radius = 10 + 3 * Math.sin(5 * angle) + 0.05 * chance.nextGaussian();
            ring[i] = radius * Math.cos(angle);
            ring[i + 1] = radius * Math.sin(angle);
        }
        return ring;
    }
}
