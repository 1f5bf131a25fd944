package fabbrica.core.gcode;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import fabbrica.core.gcode.Arc.Plane;
import java.util.List;
import java.util.Random;
import org.junit.jupiter.api.Test;

/** Against the closed forms of a circle: every corner on it, chords no farther from it than 0.01 mm, length radius times angle. */
class ArcTest {

    private static double length(Arc arc) {
        double length = 0;
        double[] last = arc.from();
        for (double[] at : arc.places(10_000)) {
            length += Math.sqrt(Math.pow(at[0] - last[0], 2) + Math.pow(at[1] - last[1], 2) + Math.pow(at[2] - last[2], 2));
            last = at;
        }
        return length;
    }

    @Test
    void a_quarter_is_a_quarter_of_the_way_around_and_three_quarters_the_other_way() {
        double[] from = {30, 0, 1}, to = {0, 30, 1};
        assertThat(length(new Arc(Plane.XY, from, to, 0, 0, false))).isCloseTo(Math.PI / 2 * 30, within(0.03));
        assertThat(length(new Arc(Plane.XY, from, to, 0, 0, true))).isCloseTo(3 * Math.PI / 2 * 30, within(0.09));
        assertThat(length(new Arc(Plane.XY, from, from, 0, 0, true))).as("all the way around").isCloseTo(60 * Math.PI, within(0.12));
    }

    @Test
    void corners_lie_on_the_circle_and_chords_nowhere_far_from_it() {
        Random chance = new Random(4);
        for (Plane plane : Plane.values()) {
            for (int i = 0; i < 50; i++) {
                double radius = 0.2 + 80 * chance.nextDouble(), a = 7 * chance.nextDouble(), b = 7 * chance.nextDouble();
                double[] from = new double[3], to = new double[3];
                from[plane.first] = radius * Math.cos(a);
                from[plane.second] = radius * Math.sin(a);
                to[plane.first] = radius * Math.cos(b);
                to[plane.second] = radius * Math.sin(b);
                double[] last = from;
                for (double[] at : new Arc(plane, from, to, 0, 0, chance.nextBoolean()).places(10_000)) {
                    assertThat(Math.hypot(at[plane.first], at[plane.second])).isCloseTo(radius, within(1e-9));
                    double middle = Math.hypot(at[plane.first] + last[plane.first], at[plane.second] + last[plane.second]) / 2;
                    assertThat(radius - middle).isLessThan(0.0101);
                    last = at;
                }
                assertThat(last).isEqualTo(to);
            }
        }
    }

    @Test
    void a_helix_climbs_evenly() {
        List<double[]> places = new Arc(Plane.XY, new double[] {10, 0, 0}, new double[] {-10, 0, 5}, 0, 0, false).places(10_000);
        for (int i = 0; i < places.size(); i++) {
            assertThat(places.get(i)[2]).isCloseTo(5.0 * (i + 1) / places.size(), within(1e-9));
        }
    }

    @Test
    void a_radius_takes_the_shorter_way_unless_it_is_negative_and_must_reach() {
        double[] from = {0, 0, 0}, to = {10, 10, 0};
        // A chord of √200 on a radius of 10 is a quarter of the circle.
        assertThat(Arc.ofRadius(Plane.XY, from, to, 10, true).map(ArcTest::length).orElseThrow()).isCloseTo(5 * Math.PI, within(0.02));
        assertThat(Arc.ofRadius(Plane.XY, from, to, -10, true).map(ArcTest::length).orElseThrow()).isCloseTo(15 * Math.PI, within(0.06));
        assertThat(Arc.ofRadius(Plane.XY, from, to, 7, true)).as("half the chord is 7.07").isEmpty();
        assertThat(Arc.ofRadius(Plane.XY, from, from, 7, true)).isEmpty();
    }
}
