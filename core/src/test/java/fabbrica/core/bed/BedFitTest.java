package fabbrica.core.bed;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;
import static org.assertj.core.api.Assertions.within;

import fabbrica.core.mesh.model.Mesh;
import fabbrica.core.mesh.model.Shapes;
import java.util.List;
import java.util.Random;
import org.junit.jupiter.api.Test;
import org.locationtech.jts.algorithm.ConvexHull;
import org.locationtech.jts.geom.Coordinate;
import org.locationtech.jts.geom.GeometryFactory;

class BedFitTest {

    private static final Bed BED = Bed.of(200, 200, 180);

    @Test
    void what_fits_straight_stays_straight() {
        BedFit fit = fit(Shapes.box(150, 100, 50), BED);
        assertThat(fit.fits()).isTrue();
        assertThat(fit.rotationDeg()).isZero();
        assertThat(fit.largestScale()).isCloseTo(200 / 150.0, within(0.0011));
    }

    @Test
    void a_quarter_turn_is_tried_before_any_other() {
        BedFit fit = fit(Shapes.box(50, 150, 20), Bed.of(160, 60, 100));
        assertThat(fit.fits()).isTrue();
        assertThat(fit.rotationDeg()).isEqualTo(90);
    }

    @Test
    void a_long_bar_fits_on_the_diagonal_up_to_the_textbook_length() {
        // A bar of length L and width w at 45° needs (L + w) / √2 each way: L = 200·√2 − w.
        double longest = 200 * Math.sqrt(2) - 10;
        BedFit fits = fit(Shapes.box(longest - 0.01, 10, 5), BED);
        assertThat(fits.fits()).isTrue();
        assertThat(fits.rotationDeg() % 90).isCloseTo(45, within(0.1));
        BedFit tooLong = fit(Shapes.box(longest + 1, 10, 5), BED);
        assertThat(tooLong.fits()).isFalse();
        assertThat(tooLong.largestScale()).isCloseTo(200 * Math.sqrt(2) / (longest + 11), within(0.0011));
    }

    @Test
    void the_best_turn_is_no_worse_than_a_fine_sweep_over_all_angles() {
        Random chance = new Random(5);
        for (int round = 0; round < 60; round++) {
            Coordinate[] points = new Coordinate[12];
            for (int i = 0; i < points.length; i++) {
                points[i] = new Coordinate(chance.nextDouble() * 100, chance.nextDouble() * 30);
            }
            Mesh part = Shapes.extrusion((org.locationtech.jts.geom.Polygon) new ConvexHull(points,
                    new GeometryFactory()).getConvexHull(), 10).turned(chance.nextDouble() * 360);
            TurnedExtents extents = new TurnedExtents(Footprint.of(part));
            double swept = 0;
            for (double degrees = 0; degrees < 180; degrees += 0.05) {
                swept = Math.max(swept, extents.scaleAt(Math.toRadians(degrees), 120, 80));
            }
            double best = extents.scaleAt(extents.bestTurn(120, 80), 120, 80);
            assertThat(best).isGreaterThanOrEqualTo(swept - 1e-9).isLessThan(swept * 1.001);
        }
    }

    @Test
    void the_margin_for_a_brim_counts_on_every_side() {
        assertThat(BedFit.of(Footprint.of(Shapes.box(192, 192, 5)), BED, new Allowance(4, 0, false)).fits()).isTrue();
        assertThat(BedFit.of(Footprint.of(Shapes.box(193, 193, 5)), BED, new Allowance(4, 0, false)).fits()).isFalse();
    }

    @Test
    void height_is_a_limit_of_its_own_and_a_raft_takes_some_of_it() {
        assertThat(fit(Shapes.box(20, 20, 180), BED).fits()).isTrue();
        BedFit tall = fit(Shapes.box(20, 20, 200), BED);
        assertThat(tall.why()).isEqualTo("Too tall by 20 mm.");
        assertThat(tall.largestScale()).isCloseTo(0.9, within(0.0011));
        assertThat(BedFit.of(Footprint.of(Shapes.box(20, 20, 180)), BED, new Allowance(0, 0.8, false)).fits()).isFalse();
    }

    @Test
    void a_part_is_moved_off_a_keep_out_zone() {
        Bed clipped = new Bed(200, 200, 180, List.of(new Bed.Zone(0, 0, 30, 200)));
        BedFit fit = fit(Shapes.box(160, 190, 10), clipped);
        assertThat(fit.fits()).isTrue();
        assertThat(fit.x()).isGreaterThanOrEqualTo(30 + 80 - 0.001);
        assertThat(fit(Shapes.box(175, 175, 10), clipped).fits()).isFalse();
    }

    @Test
    void beside_a_zone_the_largest_scale_is_that_of_the_free_strip() {
        Bed clipped = new Bed(200, 200, 180, List.of(new Bed.Zone(0, 0, 30, 200)));
        assertThat(fit(Shapes.box(200, 200, 10), clipped).largestScale()).isCloseTo(0.85, within(0.002));
    }

    @Test
    void zones_in_all_four_corners_leave_room_for_a_diamond_and_not_for_a_square() {
        Bed cornered = new Bed(200, 200, 180, List.of(new Bed.Zone(0, 0, 60, 60), new Bed.Zone(140, 0, 200, 60),
                new Bed.Zone(0, 140, 60, 200), new Bed.Zone(140, 140, 200, 200)));
        // Corner zones of 60 leave a diamond with |x| + |y| ≤ 80 about the middle: a square of side 80·√2 on its tip.
        BedFit square = fit(Shapes.box(112, 112, 10), cornered);
        assertThat(square.fits()).isTrue();
        assertThat(square.rotationDeg() % 90).isCloseTo(45, within(6.0));
        assertThat(fit(Shapes.box(115, 115, 10), cornered).fits()).isFalse();
    }

    @Test
    void the_hull_of_many_vertices_is_the_hull_a_plain_computation_finds() {
        Mesh sphere = Shapes.together(Shapes.sphere(20, 120, 60), Shapes.box(30, 8, 4).turned(20).moved(8, 9, 0));
        Coordinate[] all = new Coordinate[sphere.vertexCount()];
        for (int v = 0; v < all.length; v++) {
            all[v] = new Coordinate(sphere.x(v), sphere.y(v));
        }
        double expected = new ConvexHull(all, new GeometryFactory()).getConvexHull().getArea();
        double[] hull = Footprint.of(sphere).hull();
        double area = 0;
        for (int i = 0, j = hull.length - 2; i < hull.length; j = i, i += 2) {
            area += (hull[j] * hull[i + 1] - hull[i] * hull[j + 1]) / 2;
        }
        assertThat(area).as("counter-clockwise and complete").isCloseTo(expected, within(1e-9));
    }

    @Test
    void nothing_that_fits_nowhere_goes_unsaid() {
        assertThat(FitFindings.of(List.of(fit(Shapes.box(10, 10, 10), BED), fit(Shapes.box(900, 900, 10), BED))))
                .isEmpty();
        assertThat(FitFindings.of(List.of(fit(Shapes.box(400, 400, 10), BED))).orElseThrow().advice())
                .contains("50 %");
    }

    @Test
    void a_bed_without_width_is_refused() {
        assertThatThrownBy(() -> Bed.of(0, 200, 200)).hasMessageContaining("Bed width must be between");
        assertThatThrownBy(() -> new Bed.Zone(30, 0, 10, 5)).hasMessageContaining("left edge");
    }

    private static BedFit fit(Mesh mesh, Bed bed) {
        return BedFit.of(Footprint.of(mesh), bed, Allowance.NONE);
    }
}
