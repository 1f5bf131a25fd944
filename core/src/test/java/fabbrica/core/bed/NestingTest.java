package fabbrica.core.bed;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import fabbrica.core.bed.Nesting.Item;
import fabbrica.core.bed.Nesting.Placement;
import fabbrica.core.bed.Nesting.Sheet;
import fabbrica.core.mesh.model.Bounds;
import fabbrica.core.mesh.model.Mesh;
import fabbrica.core.mesh.model.Shapes;
import java.util.List;
import org.junit.jupiter.api.Test;
import org.locationtech.jts.geom.Coordinate;
import org.locationtech.jts.geom.Geometry;
import org.locationtech.jts.geom.GeometryFactory;
import org.locationtech.jts.operation.union.UnaryUnionOp;

/** Counts follow from arithmetic on rectangles; distances are checked with JTS on the true outlines. */
class NestingTest {

    private static final Bed BED = Bed.of(120, 120, 120);

    @Test
    void squares_fill_the_bed_as_arithmetic_says() {
        // Ten squares of 10 mm and nine gaps of 2 mm take 118 of 120 mm.
        assertThat(Nesting.copiesThatFit(Shapes.box(10, 10, 5), Allowance.NONE, BED, 2)).isEqualTo(100);
        assertThat(Nesting.copiesThatFit(Shapes.box(50, 30, 5), Allowance.NONE, BED, 5)).isEqualTo(6);
        assertThat(Nesting.copiesThatFit(Shapes.box(140, 10, 5), Allowance.NONE, Bed.of(120, 60, 50), 2)).isZero();
        assertThat(Nesting.copiesThatFit(Shapes.box(10, 10, 121), Allowance.NONE, BED, 2)).isZero();
    }

    @Test
    void a_long_part_lies_on_the_diagonal() {
        assertThat(Nesting.copiesThatFit(Shapes.box(150, 8, 5), Allowance.NONE, BED, 2)).isPositive();
        // Only a turn near 26.57°, no step of 15°, lays this one between two corners.
        assertThat(Nesting.copiesThatFit(Shapes.box(130, 4, 5), Allowance.NONE, Bed.of(120, 60, 60), 2)).isEqualTo(1);
    }

    @Test
    void angles_nest_in_one_another_where_their_boxes_would_not() {
        Mesh angle = Shapes.extrusion(Shapes.polygon(0, 0, 60, 0, 60, 10, 10, 10, 10, 60, 0, 60), 5);
        assertThat(Nesting.copiesThatFit(angle, Allowance.NONE, BED, 2)).as("four boxes at most").isGreaterThan(4);
    }

    @Test
    void a_small_part_lies_in_the_opening_of_a_large_one() {
        Mesh frame = Shapes.extrusion((org.locationtech.jts.geom.Polygon) Shapes.rectangle(0, 0, 110, 110)
                .difference(Shapes.rectangle(10, 10, 100, 100)), 5);
        Nesting nesting = Nesting.of(List.of(new Item(frame, Allowance.NONE, 1),
                new Item(Shapes.cylinder(20, 5, 40), Allowance.NONE, 3)), BED, 3);
        assertThat(nesting.sheets()).hasSize(1);
        assertThat(nesting.sheets().getFirst().placements()).hasSize(4);
    }

    @Test
    void what_does_not_fit_any_more_goes_to_the_next_plate() {
        Nesting nesting = Nesting.of(List.of(new Item(Shapes.box(70, 70, 5), Allowance.NONE, 3)), BED, 2);
        assertThat(nesting.sheets()).hasSize(3).allMatch(plate -> plate.placements().size() == 1);
        Nesting huge = Nesting.of(List.of(new Item(Shapes.box(300, 70, 5), Allowance.NONE, 2)), BED, 2);
        assertThat(huge.sheets()).isEmpty();
        assertThat(huge.tooMany()).containsExactly(2);
    }

    @Test
    void parts_keep_their_distance_from_each_other_from_zones_and_from_the_border() {
        Bed bed = new Bed(150, 120, 100, List.of(new Bed.Zone(0, 0, 30, 25)));
        Mesh star = Shapes.extrusion(Shapes.polygon(0, 12, 4, 4, 12, 0, 4, -4, 0, -12, -4, -4, -12, 0, -4, 4), 5);
        List<Item> items = List.of(new Item(star, new Allowance(1.5, 0, false), 9),
                new Item(Shapes.cone(14, 6, 30, 33), Allowance.NONE, 5));
        Nesting nesting = Nesting.of(items, bed, 2);
        assertThat(nesting.tooMany()).containsExactly(0, 0);
        for (Sheet plate : nesting.sheets()) {
            List<Geometry> outlines = plate.placements().stream().map(p -> outline(items, p)).toList();
            for (int i = 0; i < outlines.size(); i++) {
                Bounds b = placed(items, plate.placements().get(i)).bounds();
                double margin = items.get(plate.placements().get(i).item()).allowance().marginMm();
                assertThat(Math.min(b.minX(), b.minY()) - margin).isGreaterThanOrEqualTo(-1e-9);
                assertThat(b.maxX() + margin).isLessThanOrEqualTo(150);
                assertThat(b.maxY() + margin).isLessThanOrEqualTo(120);
                assertThat(outlines.get(i).distance(Shapes.rectangle(0, 0, 30, 25))).isGreaterThanOrEqualTo(margin);
                for (int j = i + 1; j < outlines.size(); j++) {
                    double apart = 2 + margin + items.get(plate.placements().get(j).item()).allowance().marginMm();
                    assertThat(outlines.get(i).distance(outlines.get(j))).isGreaterThanOrEqualTo(apart);
                }
            }
        }
    }

    @Test
    void a_grown_bitmap_covers_a_disc() {
        Bitmap dot = new Bitmap(1, 1);
        dot.set(0, 0);
        Bitmap disc = dot.grown(40);
        int count = 0;
        for (int y = 0; y < disc.height(); y++) {
            for (int x = 0; x < disc.width(); x++) {
                count += disc.get(x, y) ? 1 : 0;
            }
        }
        assertThat((double) count).isCloseTo(Math.PI * 1600, within(160.0));
    }

    private static Mesh placed(List<Item> items, Placement p) {
        return items.get(p.item()).mesh().turned(p.rotationDeg()).moved(p.dx(), p.dy(), 0);
    }

    private static Geometry outline(List<Item> items, Placement p) {
        Mesh mesh = placed(items, p);
        GeometryFactory plane = new GeometryFactory();
        List<Geometry> triangles = java.util.stream.IntStream.range(0, mesh.triangleCount()).mapToObj(t -> {
            Coordinate[] ring = new Coordinate[4];
            for (int i = 0; i < 4; i++) {
                ring[i] = new Coordinate(mesh.x(mesh.corner(t, i % 3)), mesh.y(mesh.corner(t, i % 3)));
            }
            return (Geometry) plane.createPolygon(ring);
        }).filter(triangle -> triangle.getArea() > 1e-9).toList();
        return UnaryUnionOp.union(triangles);
    }
}
