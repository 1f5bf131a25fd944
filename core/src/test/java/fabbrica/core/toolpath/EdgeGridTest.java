package fabbrica.core.toolpath;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import java.util.ArrayList;
import java.util.HashSet;
import java.util.List;
import java.util.Random;
import java.util.Set;
import org.junit.jupiter.api.Test;
import org.locationtech.jts.geom.Coordinate;
import org.locationtech.jts.geom.LineSegment;

/** Against trying every edge with every other, decided by the segments of JTS, a general geometry library. */
class EdgeGridTest {

    private final Random chance = new Random(3);

    @Test
    void edges_that_meet_are_found_and_no_others() {
        for (int turn = 0; turn < 200; turn++) {
            List<double[]> rings = List.of(ring(12, 0, 0, 10), ring(9, 6, 3, 7), ring(40, -3, 5, 2));
            EdgeGrid grid = new EdgeGrid(rings);
            Set<Long> found = new HashSet<>();
            grid.meetings((edge, other) -> found.add(pair(edge, other)) || true);
            assertThat(found).as("turn %d", turn).isEqualTo(everyMeeting(grid, rings));
            assertThat(grid.anyMeet()).isEqualTo(!found.isEmpty());
        }
    }

    @Test
    void where_two_edges_cross_is_said_in_parts_of_both() {
        EdgeGrid grid = new EdgeGrid(List.of(new double[] {0, 0, 10, 0, 5, 9}, new double[] {2, -1, 4, 3, 9, -6}));
        List<double[]> parts = new ArrayList<>();
        grid.meetings((edge, other) -> {
            grid.crossing(edge, other).ifPresent(part -> {
                assertThat(grid.x(edge, part[0])).isCloseTo(grid.x(other, part[1]), within(1e-9));
                assertThat(grid.y(edge, part[0])).isCloseTo(grid.y(other, part[1]), within(1e-9));
                parts.add(part);
            });
            return true;
        });
        assertThat(parts).hasSizeGreaterThanOrEqualTo(2).anySatisfy(part -> assertThat(part[0]).isCloseTo(0.25, within(1e-9)));
    }

    @Test
    void edges_that_touch_at_a_corner_cannot_be_told_to_cross() {
        EdgeGrid grid = new EdgeGrid(List.of(new double[] {0, 0, 10, 0, 10, 10, 0, 10}, new double[] {5, 0, 7, -4, 3, -4}));
        assertThat(grid.anyMeet()).isTrue();
        grid.meetings((edge, other) -> {
            assertThat(grid.crossing(edge, other)).isEmpty();
            return true;
        });
    }

    @Test
    void a_line_finds_every_edge_it_crosses_wherever_it_comes_from() {
        for (int turn = 0; turn < 300; turn++) {
            List<double[]> rings = List.of(ring(15, 0, 0, 10), ring(25, 12, 4, 8));
            EdgeGrid grid = new EdgeGrid(rings);
            double x0 = around(20), y0 = around(20), x1 = turn % 3 == 0 ? x0 : around(20), y1 = turn % 5 == 0 ? y0 : around(20);
            LineSegment line = new LineSegment(x0, y0, x1, y1);
            Set<Integer> found = new HashSet<>(), expected = new HashSet<>();
            grid.crossings(x0, y0, x1, y1, (edge, part) -> {
                found.add(edge);
                assertThat(part).isBetween(-1e-9, 1 + 1e-9);
            });
            for (int edge = 0; edge < grid.edgeCount(); edge++) {
                if (line.intersection(segment(grid, edge)) != null) {
                    expected.add(edge);
                }
            }
            assertThat(found).as("turn %d", turn).isEqualTo(expected);
        }
    }

    @Test
    void edges_know_their_ring_and_what_follows_on_it() {
        EdgeGrid grid = new EdgeGrid(List.of(ring(4, 0, 0, 5), ring(3, 20, 0, 5)));
        assertThat(grid.edgeCount()).isEqualTo(7);
        assertThat(grid.ringOf(3)).isZero();
        assertThat(grid.ringOf(4)).isEqualTo(1);
        assertThat(grid.placeOnRing(5)).isEqualTo(1);
        assertThat(grid.next(3)).isZero();
        assertThat(grid.next(6)).isEqualTo(4);
        assertThat(new EdgeGrid(List.of()).anyMeet()).isFalse();
    }

    @Test
    void a_long_flat_ring_and_one_that_is_a_point_wide_are_sorted_too() {
        double[] flat = {0, 0, 1000, 1e-12, 1000, 0.2, 0, 0.2};
        EdgeGrid grid = new EdgeGrid(List.of(flat));
        assertThat(grid.anyMeet()).isFalse();
        List<Integer> crossed = new ArrayList<>();
        grid.crossings(700, -5, 700, 5, (edge, part) -> crossed.add(edge));
        assertThat(crossed).contains(0, 2);
    }

    private Set<Long> everyMeeting(EdgeGrid grid, List<double[]> rings) {
        Set<Long> all = new HashSet<>();
        for (int a = 0; a < grid.edgeCount(); a++) {
            for (int b = a + 1; b < grid.edgeCount(); b++) {
                boolean neighbours = grid.next(a) == b || grid.next(b) == a;
                if (!neighbours && segment(grid, a).intersection(segment(grid, b)) != null) {
                    all.add(pair(a, b));
                }
            }
        }
        return all;
    }

    private static LineSegment segment(EdgeGrid grid, int edge) {
        return new LineSegment(new Coordinate(grid.x(edge, 0), grid.y(edge, 0)), new Coordinate(grid.x(edge, 1), grid.y(edge, 1)));
    }

    private static long pair(int a, int b) {
        return (long) Math.min(a, b) << 32 | Math.max(a, b);
    }

    private double around(double reach) {
        return (chance.nextDouble() - 0.5) * 2 * reach;
    }

    /** Points left to chance in a circle, so that edges cross. */
    private double[] ring(int points, double x, double y, double radius) {
        double[] ring = new double[2 * points];
        for (int i = 0; i < ring.length; i += 2) {
            ring[i] = x + around(radius);
            ring[i + 1] = y + around(radius);
        }
        return ring;
    }
}
