package fabbrica.core.bed;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import java.util.List;
import java.util.Random;
import org.junit.jupiter.api.Test;
import org.locationtech.jts.geom.Coordinate;
import org.locationtech.jts.geom.Envelope;
import org.locationtech.jts.geom.Geometry;
import org.locationtech.jts.geom.GeometryFactory;

/** Ways on the bed, checked with JTS. */
class BedRouteTest {

    private static final GeometryFactory PLANE = new GeometryFactory();

    @Test
    void the_way_is_straight_where_nothing_stands_in_it() {
        List<double[]> way = BedRoute.of(Bed.of(200, 200, 200), 10, 10, 150, 90);
        assertThat(way).hasSize(1);
        assertThat(way.getFirst()).containsExactly(150, 90);
    }

    @Test
    void a_zone_is_gone_around_by_its_nearer_side() {
        Bed bed = new Bed(200, 200, 200, List.of(new Bed.Zone(90, 0, 110, 60)));
        List<double[]> way = BedRoute.of(bed, 50, 40, 150, 40);
        // By the two back corners, a millimetre off: 2 · √(39² + 21²) + 22.
        assertThat(BedRoute.lengthMm(50, 40, way)).isCloseTo(2 * Math.hypot(39, 21) + 22, within(1e-9));
    }

    @Test
    void no_way_passes_a_zone_wherever_it_begins_and_ends() {
        Random chance = new Random(4);
        Bed bed = new Bed(200, 150, 200, List.of(new Bed.Zone(0, 0, 18, 28), new Bed.Zone(60, 40, 110, 70),
                new Bed.Zone(100, 90, 200, 100)));
        for (int round = 0; round < 500; round++) {
            double x = chance.nextDouble() * 200, y = chance.nextDouble() * 150;
            double toX = chance.nextDouble() * 200, toY = chance.nextDouble() * 150;
            if (!bed.keepsFree(x, y) && !bed.keepsFree(toX, toY)) {
                for (double[] place : BedRoute.of(bed, x, y, toX, toY)) {
                    Geometry step = PLANE.createLineString(new Coordinate[] {new Coordinate(x, y), new Coordinate(place[0], place[1])});
                    for (Bed.Zone zone : bed.keepOut()) {
                        Geometry kept = PLANE.toGeometry(new Envelope(zone.minX(), zone.maxX(), zone.minY(), zone.maxY()));
                        assertThat(step.intersection(kept).getLength()).isLessThan(1e-3);
                    }
                    x = place[0];
                    y = place[1];
                }
                assertThat(new double[] {x, y}).containsExactly(toX, toY);
            }
        }
    }

    @Test
    void a_head_that_stands_in_a_zone_leaves_it_by_the_nearest_side() {
        Bed bed = new Bed(250, 250, 250, List.of(new Bed.Zone(0, 0, 18, 28)));
        assertThat(BedRoute.of(bed, 0, 0, 100, 100).getFirst()).containsExactly(19, 0);
    }
}
