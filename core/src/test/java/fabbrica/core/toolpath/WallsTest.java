package fabbrica.core.toolpath;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import fabbrica.core.mesh.model.LevelSet;
import fabbrica.core.mesh.model.Shapes;
import fabbrica.core.recipe.Adhesion;
import fabbrica.core.recipe.InfillPattern;
import fabbrica.core.recipe.LineWork;
import fabbrica.core.recipe.Recipe;
import fabbrica.core.units.Progress;
import java.util.ArrayList;
import java.util.List;
import java.util.Random;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.EnumSource;
import org.junit.jupiter.params.provider.ValueSource;
import org.locationtech.jts.geom.Coordinate;
import org.locationtech.jts.geom.Geometry;
import org.locationtech.jts.geom.GeometryFactory;
import org.locationtech.jts.operation.buffer.BufferOp;
import org.locationtech.jts.operation.buffer.BufferParameters;
import org.locationtech.jts.operation.overlayng.OverlayNG;
import org.locationtech.jts.operation.overlayng.OverlayNGRobust;

/**
 * What walls promise whatever the shape, measured with JTS, a general geometry library: lines hold the area's plastic, keep
 * within the part, neither overlap one another nor leave gaps, and their number depends on the shape alone.
 */
class WallsTest {

    private static final double WIDTH = 0.42;
    private static final double LAYER = 0.2;
    private static final GeometryFactory PLANE = new GeometryFactory();

    private static Recipe recipe(int walls) {
        return recipe(walls, 0.2);
    }

    private static Recipe recipe(int walls, double infill) {
        return new Recipe(LAYER, LAYER, WIDTH, walls, 3, 3, infill, InfillPattern.LINES, Adhesion.NONE, 50);
    }

    /** Of a layer with {@code walls}: the area that lines and the inside fill, and how many lines there are. */
    private record Filled(double mm2, int lines) {

        static Filled of(Walls walls, double share) {
            return new Filled(walls.lines().stream().mapToDouble(line -> line.areaMm2(share)).sum()
                    + Island.areaMm2(walls.inside()), walls.lines().size());
        }
    }

    @ParameterizedTest
    @EnumSource
    void walls_of_any_thickness_hold_their_plastic_in_lines_that_the_shape_counts(WallShapes shape) {
        Recipe recipe = recipe(8);
        double share = recipe.lineSpacingMm(LAYER), before = 1;
        int linesBefore = 0, most = shape.name().startsWith("STAR") ? 200 : 25;
        for (int step = 40; step <= 800; step++) {
            double wall = step * 0.005;
            Geometry outline = shape.of(wall);
            Walls laid = Walls.of(WallShapes.islands(outline), recipe, LAYER);
            Filled filled = Filled.of(laid, share);
            double part = filled.mm2() / (outline.getArea() - laid.leftOutMm2());
            assertThat(part).as("plastic of %s at %.3f", shape, wall).isBetween(0.975, 1.02);
            assertThat(filled.lines()).as("lines of %s at %.3f", shape, wall).isBetween(1, most);
            if (step > 40 && filled.lines() == linesBefore) {
                assertThat(part / before).as("step of %s to %.3f", shape, wall).isBetween(0.97, 1.03);
            }
            before = part;
            linesBefore = filled.lines();
        }
    }

    @ParameterizedTest
    @EnumSource
    void lines_neither_overlap_nor_leave_gaps(WallShapes shape) {
        Recipe recipe = recipe(8);
        double share = recipe.lineSpacingMm(LAYER);
        for (double wall = 0.23; wall < 4; wall += shape.name().startsWith("STAR") ? 0.809 : 0.209) {
            Geometry outline = shape.of(wall);
            Walls laid = Walls.of(WallShapes.islands(outline), recipe, LAYER);
            List<Geometry> lines = new ArrayList<>();
            laid.lines().forEach(line -> lines.add(drawn(line, share)));
            if (!laid.inside().isEmpty()) {
                lines.add(Island.toJts(laid.inside()));
            }
            Geometry union = OverlayNGRobust.union(lines);
            double twice = lines.stream().mapToDouble(Geometry::getArea).sum() - union.getArea();
            assertThat(twice).as("overlap of %s at %.3f", shape, wall).isLessThan(0.02 * outline.getArea());
            // Away from corners and ends, where round lines do not reach: a quarter line, less the tolerance of the outline.
            Geometry gaps = OverlayNGRobust.overlay(outline.buffer(-0.4 * WIDTH), union, OverlayNG.DIFFERENCE);
            // In the hub of a star, which no two sides face, a hole of up to two lines can stay.
            double widest = shape.name().startsWith("STAR") ? 2 * WIDTH : WIDTH / 4 + Slices.TOLERANCE_MM;
            assertThat(gaps.buffer(-widest / 2).isEmpty()).as("gaps of %s at %.3f", shape, wall).isTrue();
        }
    }

    @Test
    void a_narrow_wall_of_solid_plastic_is_filled_by_lines_alone() {
        Recipe recipe = recipe(2, 1);
        double share = recipe.lineSpacingMm(LAYER);
        for (WallShapes shape : List.of(WallShapes.TUBE_OF_256, WallShapes.SLANT, WallShapes.BAR)) {
            for (double wall = 1.5; wall < 4; wall += 0.037) {
                Geometry outline = shape.of(wall);
                Walls laid = Walls.of(WallShapes.islands(outline), recipe, LAYER);
                assertThat(laid.inside()).as("%s at %.3f", shape, wall).isEmpty();
                assertThat(Filled.of(laid, share).mm2() / outline.getArea()).isBetween(0.98, 1.02);
            }
        }
    }

    @Test
    void what_is_thinner_than_half_a_bore_is_left_out_and_said() {
        Recipe recipe = recipe(2);
        // 0.42 mm lines belong to a nozzle of 0.4 mm, whose thinnest line is 0.2 mm wide and fills 0.157 mm.
        Walls fin = Walls.of(WallShapes.islands(Shapes.rectangle(0, 0, 30, 0.15)), recipe, LAYER);
        assertThat(fin.lines()).isEmpty();
        assertThat(fin.leftOutMm2()).isCloseTo(4.5, within(0.2));
        Walls wedge = Walls.of(WallShapes.islands(Shapes.polygon(0, 0, 40, -1, 40, 1)), recipe, LAYER);
        // A wedge of 1 : 20 is that thin on its first 3.14 mm.
        assertThat(wedge.leftOutMm2()).isCloseTo(3.14 * 0.157 / 2, within(0.06));
    }

    @Test
    void outer_walls_lie_half_a_share_inside_the_outline() {
        double half = recipe(2).lineSpacingMm(LAYER) / 2;
        for (Island island : shapes()) {
            Geometry area = island.toJts();
            for (WallLine line : Walls.of(List.of(island), recipe(2), LAYER).lines()) {
                if (line.wall() == 0) {
                    Geometry way = PLANE.createLineString(coordinates(line));
                    assertThat(area.buffer(1e-6).contains(way)).isTrue();
                    // Up to a quarter nearer where two lines share a thin place, or a corner is sharp.
                    assertThat(area.getBoundary().distance(way)).isBetween(0.7 * half, 1.4 * half);
                }
            }
        }
    }

    @ParameterizedTest
    @ValueSource(ints = {1, 2, 3, 5})
    void walls_thin_lines_and_what_is_inside_make_up_the_area(int walls) {
        for (Island island : shapes()) {
            Recipe recipe = recipe(walls);
            Walls laid = Walls.of(List.of(island), recipe, LAYER);
            assertThat(Filled.of(laid, recipe.lineSpacingMm(LAYER)).mm2() + laid.leftOutMm2())
                    .isCloseTo(island.areaMm2(), within(0.02 * island.areaMm2()));
        }
    }

    @Test
    void what_is_inside_three_walls_is_the_part_without_their_width() {
        for (Island island : shapes()) {
            Recipe recipe = recipe(3);
            double inset = 3 * recipe.lineSpacingMm(LAYER);
            double inside = Island.areaMm2(Walls.of(List.of(island), recipe, LAYER).inside());
            double expected = BufferOp.bufferOp(island.toJts(), -inset,
                    new BufferParameters(2, BufferParameters.CAP_ROUND, BufferParameters.JOIN_MITRE, 2)).getArea();
            assertThat(inside).isCloseTo(expected, within(0.02 * island.areaMm2() + 0.05));
        }
    }

    @Test
    void without_walls_everything_is_inside() {
        Island box = Island.of(Shapes.rectangle(0, 0, 10, 6)).getFirst();
        Walls none = Walls.of(List.of(box), recipe(0), LAYER);
        assertThat(none.lines()).isEmpty();
        assertThat(Island.areaMm2(none.inside())).isEqualTo(60);
    }

    @Test
    void the_overlap_reaches_from_the_inside_into_the_wall() {
        Island box = Island.of(Shapes.rectangle(0, 0, 10, 6)).getFirst();
        Recipe recipe = recipe(2);
        LineWork usual = recipe.lines();
        Walls laid = Walls.of(List.of(box), recipe.with(new LineWork(usual.seam(), false, false, true, 0, 1, 1, 0.25, false,
                List.of(), 0, List.of())), LAYER);
        double inset = 2 * recipe.lineSpacingMm(LAYER) - 0.25 * WIDTH;
        assertThat(Rings.signedArea(laid.filled().getFirst()))
                .isCloseTo((10 - 2 * inset) * (6 - 2 * inset), within(1e-9));
    }

    /** Stars left to chance, a frame, and the layers of a gyroid with its necks. */
    private static List<Island> shapes() {
        Random chance = new Random(7);
        List<Island> shapes = new ArrayList<>();
        for (int turn = 0; turn < 25; turn++) {
            double[] star = new double[2 * (8 + chance.nextInt(30))];
            for (int i = 0; i < star.length; i += 2) {
                double angle = Math.PI * 2 * i / star.length, radius = 9 + 6 * chance.nextDouble();
                star[i] = radius * Math.cos(angle);
                star[i + 1] = radius * Math.sin(angle);
            }
            shapes.add(new Island(star, List.of()));
        }
        shapes.addAll(Island.of(Shapes.rectangle(0, 0, 30, 20).difference(Shapes.rectangle(3, 3, 27, 17))));
        Slices gyroid = Slices.of(LevelSet.gyroid(30, 40), recipe(1), Progress.IGNORED);
        for (int layer : new int[] {20, 45, 70}) {
            shapes.addAll(gyroid.areas(layer).stream().filter(island -> island.areaMm2() > 20).toList());
        }
        return shapes;
    }

    /** What a line covers: a strip as wide as its share along each step, round where it bends. */
    private static Geometry drawn(WallLine line, double usual) {
        List<Geometry> strips = new ArrayList<>();
        Coordinate[] way = coordinates(line);
        for (int i = 1; i < way.length; i++) {
            Coordinate a = way[i - 1], b = way[i];
            double half = line.shareMm(i - 1, usual) / 2, next = line.shareMm(i % line.size(), usual) / 2;
            double length = a.distance(b), x = (a.y - b.y) / length, y = (b.x - a.x) / length;
            strips.add(Shapes.polygon(a.x + half * x, a.y + half * y, a.x - half * x, a.y - half * y, b.x - next * x,
                    b.y - next * y, b.x + next * x, b.y + next * y));
            if (line.closed() || i + 1 < way.length) {
                strips.add(PLANE.createPoint(b).buffer(next, 8));
            }
        }
        return OverlayNGRobust.union(strips);
    }

    private static Coordinate[] coordinates(WallLine line) {
        Coordinate[] way = new Coordinate[line.size() + (line.closed() ? 1 : 0)];
        for (int i = 0; i < way.length; i++) {
            way[i] = new Coordinate(line.points()[2 * i % line.points().length], line.points()[(2 * i + 1) % line.points().length]);
        }
        return way;
    }
}
