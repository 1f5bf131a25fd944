package fabbrica.core.inspect;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;
import static org.assertj.core.api.Assertions.withinPercentage;

import fabbrica.core.mesh.model.Mesh;
import fabbrica.core.mesh.model.Shapes;
import java.util.Arrays;
import java.util.List;
import java.util.Random;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

class ViewDrawingTest {

    @Test
    void a_drawing_of_a_box_shows_four_lines_from_each_side() {
        for (ViewDrawing.View view : ViewDrawing.View.values()) {
            ViewDrawing drawing = ViewDrawing.of(Shapes.box(30, 20, 10), view);
            double drawn = drawing.strokes().stream()
                    .mapToDouble(s -> Math.hypot(s[2] - s[0], s[3] - s[1])).sum();
            // Front and back edges coincide, so each side may be drawn twice.
            assertThat(drawn).isBetween(2 * (drawing.widthMm() + drawing.heightMm()),
                    4 * (drawing.widthMm() + drawing.heightMm()));
        }
        assertThat(ViewDrawing.of(Shapes.box(30, 20, 10), ViewDrawing.View.SIDE).widthMm()).isEqualTo(20);
    }

    @Test
    void a_round_part_is_outlined_on_its_left_as_on_its_right() {
        ViewDrawing front = ViewDrawing.of(Shapes.cylinder(20, 30, 72), ViewDrawing.View.FRONT);
        assertThat(front.strokes()).anyMatch(s -> s[0] < 1e-6 && s[2] < 1e-6 && Math.abs(s[3] - s[1]) > 29);
        assertThat(front.strokes()).anyMatch(s -> s[0] > 39.999 && s[2] > 39.999 && Math.abs(s[3] - s[1]) > 29);
    }

    /** A circle of radius r within t of its chords takes no more than π / acos(1 − t / r) of them; Douglas and Peucker find at most twice as many. */
    @Test
    void a_finely_faceted_circle_is_drawn_whole_as_few_strokes() {
        double radius = 20, tolerance = 2 * radius / ViewDrawing.GRID / 2;
        for (int facets : new int[] {720, 30_000}) {
            List<double[]> strokes = ViewDrawing.of(Shapes.cylinder(radius, 5, facets), ViewDrawing.View.ABOVE).strokes();
            double drawn = strokes.stream().mapToDouble(s -> Math.hypot(s[2] - s[0], s[3] - s[1])).sum();
            // The rim, and the edge on the bed that lies exactly under it.
            assertThat(drawn).isCloseTo(2 * 2 * Math.PI * radius, withinPercentage(0.3));
            assertThat(strokes).hasSizeLessThan((int) (2 * 2 * Math.PI / Math.acos(1 - tolerance / radius)));
            assertThat(strokes).allSatisfy(s -> assertThat(Math.hypot(s[0] - radius, s[1] - radius)).isCloseTo(radius, within(1e-6)));
        }
    }

    @Test
    void what_lies_behind_is_not_drawn() {
        Mesh hidden = Shapes.together(Shapes.box(30, 4, 30), Shapes.box(6, 4, 6).moved(10, 20, 10));
        ViewDrawing front = ViewDrawing.of(hidden, ViewDrawing.View.FRONT);
        assertThat(front.strokes()).noneMatch(s -> s[0] > 5 && s[0] < 25 && s[1] > 5 && s[1] < 25);
    }

    /** None of twelve sectors of a part that is rough all around is left nearly bare, however many lines there would be. */
    @ParameterizedTest
    @CsvSource({"60, 30", "200, 100", "700, 350"})
    void a_part_full_of_creases_is_drawn_all_around_with_no_more_strokes_than_can_be_told_apart(int sides, int stacks) {
        for (ViewDrawing drawing : ViewDrawing.of(rough(sides, stacks), List.of(ViewDrawing.View.values()))) {
            double[] drawn = new double[12];
            for (double[] s : drawing.strokes()) {
                double right = (s[0] + s[2] - drawing.widthMm()) / 2, up = (s[1] + s[3] - drawing.heightMm()) / 2;
                drawn[(int) ((Math.atan2(up, right) / 2 / Math.PI + 1) * 12) % 12] += Math.hypot(s[2] - s[0], s[3] - s[1]);
            }
            assertThat(drawing.strokes()).hasSizeBetween(ViewDrawing.MOST_STROKES / 2, ViewDrawing.MOST_STROKES);
            assertThat(Arrays.stream(drawn).min().orElseThrow()).isGreaterThan(Arrays.stream(drawn).max().orElseThrow() / 4);
        }
    }

    /** A ball whose corners were shaken in and out, so that hardly two faces lie in one plane. */
    private static Mesh rough(int sides, int stacks) {
        Random chance = new Random(5);
        Mesh ball = Shapes.sphere(20, sides, stacks);
        double[] xyz = new double[3 * ball.vertexCount()];
        for (int v = 0; v < ball.vertexCount(); v++) {
            double by = 1 + 1.5 / sides * chance.nextGaussian();
            for (int i = 0; i < 3; i++) {
                xyz[3 * v + i] = by * ball.coordinate(v, i);
            }
        }
        int[] corners = new int[3 * ball.triangleCount()];
        Arrays.setAll(corners, i -> ball.corner(i / 3, i % 3));
        return new Mesh(xyz, corners);
    }
}
