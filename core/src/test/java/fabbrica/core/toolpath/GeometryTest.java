package fabbrica.core.toolpath;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import fabbrica.core.mesh.model.Shapes;
import fabbrica.core.toolpath.HatchLines.Ruling;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import java.util.Random;
import org.junit.jupiter.api.Test;
import org.locationtech.jts.geom.Geometry;
import org.locationtech.jts.geom.Polygon;

/** The small tools under the toolpath, each against areas and lengths worked by hand or by JTS. */
class GeometryTest {

    private static final Ruling FINE = Ruling.of(30, 0.05);

    @Test
    void hatches_joined_cover_what_either_covers() {
        HatchLines left = hatch(0, 0, 10, 10), right = hatch(6, 4, 16, 14), apart = hatch(30, 30, 34, 34);
        assertThat(left.or(right).lengthMm() * 0.05).isCloseTo(200 - 24, within(0.5));
        assertThat(left.or(apart).lengthMm() * 0.05).isCloseTo(116, within(0.5));
        assertThat(left.or(HatchLines.none(FINE)).lengthMm()).isEqualTo(left.lengthMm());
        assertThat(HatchLines.none(FINE).or(left).lengthMm()).isEqualTo(left.lengthMm());
    }

    @Test
    void stretches_that_touch_when_joined_become_one() {
        Ruling level = Ruling.of(0, 1);
        HatchLines joined = HatchLines.of(List.of(new double[] {0, 0, 5, 0, 5, 1, 0, 1}), level)
                .or(HatchLines.of(List.of(new double[] {5, 0, 9, 0, 9, 1, 5, 1}), level));
        assertThat(joined.stretchCount(0)).isEqualTo(1);
        assertThat(joined.atLeast(9).lengthMm()).isEqualTo(9);
        assertThat(joined.atLeast(9.1).isEmpty()).isTrue();
    }

    @Test
    void whole_stretches_are_kept_where_they_share_length_with_others() {
        Ruling level = Ruling.of(0, 1);
        HatchLines long1 = HatchLines.of(List.of(new double[] {0, 0, 5, 0, 5, 3, 0, 3}, new double[] {7, 0, 9, 0, 9, 3, 7, 3}), level);
        HatchLines spot = HatchLines.of(List.of(new double[] {4, 1, 6, 1, 6, 2, 4, 2}), level);
        assertThat(long1.touching(spot).lengthMm()).isCloseTo(5, within(1e-9));
    }

    @Test
    void coarser_lines_stand_for_all_they_were_joined_from() {
        HatchLines fine = HatchLines.of(List.of(new double[] {0, 0, 10, 0, 10, 0.7, 0, 0.7}), Ruling.of(0, 0.5));
        HatchLines coarse = fine.coarser(4);
        assertThat(coarse.lengthMm()).as("one of four lines would have missed it").isCloseTo(10, within(1e-9));
        assertThat(hatch(0, 0, 20, 20).coarser(4).lengthMm() * 0.2).isCloseTo(400, within(6.0));
    }

    @Test
    void a_point_lies_in_a_hatch_where_it_lies_in_the_area() {
        Polygon ring = (Polygon) Shapes.disc(0, 0, 10, 40).difference(Shapes.disc(2, 1, 4, 40));
        HatchLines hatch = HatchLines.of(Island.of(ring).getFirst().rings(), FINE);
        Random chance = new Random(4);
        for (int i = 0; i < 500; i++) {
            double x = chance.nextDouble() * 24 - 12, y = chance.nextDouble() * 24 - 12;
            Geometry point = Rings.PLANE.createPoint(new org.locationtech.jts.geom.Coordinate(x, y));
            if (ring.getBoundary().distance(point) > 0.1) {
                assertThat(hatch.contains(x, y)).isEqualTo(ring.contains(point));
            }
        }
    }

    @Test
    void rings_left_to_chance_come_apart_into_rings_that_run_around_every_point_as_often() {
        Random chance = new Random(9);
        for (int round = 0; round < 60; round++) {
            List<double[]> rings = new ArrayList<>();
            for (int r = 0; r < 3; r++) {
                double[] ring = new double[2 * (4 + chance.nextInt(12))];
                for (int i = 0; i < ring.length; i++) {
                    ring[i] = chance.nextDouble() * 20;
                }
                rings.add(ring);
            }
            List<double[]> apart = Untangling.of(new EdgeGrid(rings)).orElseThrow();
            for (int i = 0; i < 40; i++) {
                double x = chance.nextDouble() * 20, y = chance.nextDouble() * 20;
                assertThat(winding(apart, x, y)).isEqualTo(winding(rings, x, y));
            }
            assertThat(apart.stream().mapToDouble(Rings::signedArea).sum())
                    .isCloseTo(rings.stream().mapToDouble(Rings::signedArea).sum(), within(1e-6));
        }
    }

    @Test
    void edges_that_a_line_crosses_are_found_with_where() {
        EdgeGrid grid = new EdgeGrid(List.of(new double[] {0, 0, 10, 0, 10, 10, 0, 10}, new double[] {4, 4, 4, 6, 6, 6, 6, 4}));
        List<Double> parts = new ArrayList<>();
        grid.crossings(-5, 5, 15, 5, (edge, part) -> {
            if (!parts.contains(part)) {
                parts.add(part);
            }
        });
        assertThat(parts.stream().sorted().toList()).containsExactly(0.25, 0.45, 0.55, 0.75);
        assertThat(grid.anyMeet()).isFalse();
    }

    @Test
    void the_middle_of_a_strip_runs_along_it_and_holds_its_area() {
        List<WallLine> strip = middles(Shapes.rectangle(0, 0, 30, 0.5));
        assertThat(strip).hasSize(1);
        assertThat(lengthMm(strip)).isCloseTo(30, within(0.01));
        assertThat(strip.getFirst().areaMm2(0)).isCloseTo(15, within(0.01));
        assertThat(strip.getFirst().points()[1]).isCloseTo(0.25, within(1e-6));
    }

    @Test
    void the_middle_of_a_cross_branches_and_that_of_a_thin_ring_closes() {
        Geometry cross = Shapes.rectangle(-10, -0.3, 10, 0.3).union(Shapes.rectangle(-0.3, -10, 0.3, 10));
        assertThat(lengthMm(middles(cross))).isCloseTo(40, within(1.5));
        List<WallLine> ring = middles(Shapes.disc(0, 0, 10, 60).difference(Shapes.disc(0, 0, 9.5, 60)));
        assertThat(ring).hasSize(1);
        assertThat(ring.getFirst().closed()).isTrue();
        assertThat(lengthMm(ring)).isCloseTo(2 * Math.PI * 9.75, within(0.1));
    }

    @Test
    void the_thickness_of_a_wedge_grows_with_the_distance_from_its_tip() {
        // A disc that touches both sides of a wedge of half angle a has its centre r / sin a from the tip.
        Geometry wedge = Shapes.polygon(0, 0, 40, -4, 40, 4);
        LocalThickness thickness = new LocalThickness(Island.of(wedge).getFirst().rings(), 2, 0.2);
        double sine = 4 / Math.hypot(40, 4);
        int seen = 0;
        for (int i = 0; i < thickness.count(); i++) {
            if (thickness.facing(i)) {
                double r = thickness.radiusMm(i), x = thickness.x(i) + r * thickness.normalX(i);
                assertThat(r).isCloseTo(x * sine, within(1e-9));
                assertThat(thickness.y(i) + r * thickness.normalY(i)).isCloseTo(0, within(1e-9));
                seen++;
            }
        }
        assertThat(seen).isGreaterThan(100);
    }

    private static List<WallLine> middles(Geometry area) {
        LocalThickness thickness = new LocalThickness(Island.of(area).getFirst().rings(), 1, 0.2);
        boolean[] all = new boolean[thickness.count()];
        Arrays.fill(all, true);
        return MiddleLines.of(thickness, all, new boolean[all.length], 0.2);
    }

    private static double lengthMm(List<WallLine> lines) {
        return lines.stream().mapToDouble(line -> new WallLine(line.points(), null, line.closed(), 0).areaMm2(1)).sum();
    }

    @Test
    void the_waves_of_a_gyroid_lie_on_it_whatever_the_height() {
        // sin x cos y + sin y cos z + sin z cos x = 0, the level surface of the literature.
        for (double height = 0.1; height < 12; height += 0.37) {
            Gyroid gyroid = new Gyroid(0.4, height);
            double period = gyroid.stepMm() * 24, k = 2 * Math.PI / period, z = k * height;
            for (double[] wave : gyroid.waves(0, 0, 30, 30)) {
                for (int i = 0; i < wave.length; i += 2) {
                    double x = k * wave[i], y = k * wave[i + 1];
                    assertThat(Math.sin(x) * Math.cos(y) + Math.sin(y) * Math.cos(z) + Math.sin(z) * Math.cos(x))
                            .isCloseTo(0, within(1e-9));
                }
            }
        }
    }

    @Test
    void a_bridge_runs_the_short_way_between_its_holds() {
        List<Island> below = Island.of(Shapes.rectangle(0, 0, 5, 30).union(Shapes.rectangle(17, 0, 22, 30)));
        List<Bridge> bridges = Bridge.of(Island.of(Shapes.rectangle(0.5, 0.5, 21.5, 29.5)), below, 0.4);
        assertThat(bridges).singleElement().satisfies(bridge -> {
            assertThat(bridge.directionDeg()).isZero();
            assertThat(bridge.spanMm()).isCloseTo(12, within(0.1));
            assertThat(bridge.held()).isGreaterThan(0.95);
        });
        assertThat(Bridge.of(Island.of(Shapes.rectangle(0.5, 0.5, 40, 29.5)), List.of(below.getFirst()), 0.4))
                .as("held on one side only").isEmpty();
    }

    private static int winding(List<double[]> rings, double x, double y) {
        return rings.stream().mapToInt(ring -> Rings.winding(ring, x, y)).sum();
    }

    private static HatchLines hatch(double x0, double y0, double x1, double y1) {
        return HatchLines.of(List.of(new double[] {x0, y0, x1, y0, x1, y1, x0, y1}), FINE);
    }
}
