package fabbrica.core.toolpath;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import fabbrica.core.mesh.model.LevelSet;
import fabbrica.core.mesh.model.Shapes;
import fabbrica.core.recipe.Adhesion;
import fabbrica.core.recipe.InfillPattern;
import fabbrica.core.recipe.LineWork;
import fabbrica.core.recipe.Recipe;
import java.util.ArrayList;
import java.util.List;
import java.util.Random;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;
import org.locationtech.jts.geom.Coordinate;
import org.locationtech.jts.geom.Geometry;
import org.locationtech.jts.geom.GeometryFactory;
import org.locationtech.jts.geom.LineString;
import org.locationtech.jts.operation.buffer.BufferOp;
import org.locationtech.jts.operation.buffer.BufferParameters;

/**
 * What walls promise whatever the shape, measured with JTS, a general geometry library: lines keep within the part, lie
 * half a line from its edge, and neither overlap what is inside them nor leave it out.
 */
class WallsTest {

    private static final double WIDTH = 0.4;
    private static final double LAYER = 0.2;
    private static final GeometryFactory PLANE = new GeometryFactory();

    private static Recipe recipe(int walls) {
        return new Recipe(LAYER, LAYER, WIDTH, walls, 3, 3, 0.2, InfillPattern.LINES, Adhesion.NONE, 50);
    }

    @Test
    void outer_walls_lie_half_a_line_inside_the_outline() {
        // Where a short edge at a tip is lost on the way in, the corner grown back reaches up to a quarter nearer to it.
        for (Island island : shapes()) {
            Geometry area = island.toJts();
            for (double[] loop : Walls.of(List.of(island), recipe(2), LAYER).loops().getFirst()) {
                assertThat(area.contains(PLANE.createPolygon(closed(loop)))
                        || area.contains(PLANE.createLineString(closed(loop)))).isTrue();
                assertThat(area.getBoundary().distance(PLANE.createLineString(closed(loop))))
                        .isBetween(0.7 * WIDTH / 2, WIDTH / 2 + 0.002);
            }
        }
    }

    @ParameterizedTest
    @ValueSource(ints = {1, 2, 3, 5})
    void walls_thin_lines_and_what_is_inside_make_up_the_area(int walls) {
        for (Island island : shapes()) {
            Recipe recipe = recipe(walls);
            double spacing = recipe.lineSpacingMm(LAYER), area = island.areaMm2();
            Walls laid = Walls.of(List.of(island), recipe, LAYER);
            double loops = laid.loops().stream().flatMap(List::stream).mapToDouble(Rings::lengthMm).sum();
            double thin = laid.thin().stream().mapToDouble(line -> line.lengthMm() * line.widthMm()).sum();
            // A wall's half line outside its first spacing is the roundness of its ends; corners lose up to a square each.
            double filled = loops * spacing + thin + Island.areaMm2(laid.inside());
            assertThat(filled).isCloseTo(area, within(0.09 * area + 1));
        }
    }

    @ParameterizedTest
    @ValueSource(ints = {2, 3, 4})
    void each_wall_keeps_its_distance_from_the_one_outside_it(int walls) {
        for (Island island : shapes()) {
            List<List<double[]>> loops = Walls.of(List.of(island), recipe(walls), LAYER).loops();
            for (int wall = 1; wall < loops.size(); wall++) {
                Geometry outer = lines(loops.get(wall - 1)), inner = lines(loops.get(wall));
                assertThat(outer.distance(inner)).isGreaterThan(0.8 * recipe(walls).lineSpacingMm(LAYER));
            }
        }
    }

    @Test
    void what_is_inside_three_walls_is_the_part_without_their_width() {
        for (Island island : shapes()) {
            Recipe recipe = recipe(3);
            double inset = WIDTH / 2 + 2.5 * recipe.lineSpacingMm(LAYER);
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
        assertThat(none.loops()).isEmpty();
        assertThat(none.thin()).isEmpty();
        assertThat(Island.areaMm2(none.inside())).isEqualTo(60);
    }

    @Test
    void the_overlap_reaches_from_the_inside_into_the_wall() {
        Island box = Island.of(Shapes.rectangle(0, 0, 10, 6)).getFirst();
        Recipe recipe = recipe(2);
        LineWork usual = recipe.lines();
        Walls laid = Walls.of(List.of(box), recipe.with(new LineWork(usual.seam(), false, false, true, 0, 1, 1, 0.25, false,
                List.of(), 0, List.of())), LAYER);
        double inset = WIDTH / 2 + 1.5 * recipe.lineSpacingMm(LAYER);
        assertThat(Rings.signedArea(laid.filled().getFirst()))
                .isCloseTo((10 - 2 * inset + 0.2) * (6 - 2 * inset + 0.2), within(1e-9));
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

    private static Geometry lines(List<double[]> loops) {
        return PLANE.createMultiLineString(loops.stream().map(loop -> PLANE.createLineString(closed(loop)))
                .toArray(LineString[]::new));
    }

    private static Coordinate[] closed(double[] loop) {
        return Rings.toJts(loop).getCoordinates();
    }
}
