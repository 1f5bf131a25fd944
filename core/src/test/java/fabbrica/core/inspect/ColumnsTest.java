package fabbrica.core.inspect;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;
import static org.assertj.core.api.Assertions.withinPercentage;

import fabbrica.core.mesh.model.Mesh;
import fabbrica.core.mesh.model.Rotation;
import fabbrica.core.mesh.model.Shapes;
import fabbrica.core.mesh.repair.Split;
import java.util.List;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;

/** Volumes against closed forms; the grid's midpoint rule is allowed half a per cent and a little. */
class ColumnsTest {

    @Test
    void a_solid_is_as_large_as_its_closed_form_whichever_way_it_lies() {
        Mesh cone = Shapes.cone(20, 0, 30, 180);
        double volume = 180 / 2.0 * Math.sin(2 * Math.PI / 180) * 400 * 10;
        for (Rotation rotation : List.of(Rotation.NONE, new Rotation(1, 0.4, -0.2, 0.1), Rotation.bringingDown(1, 0, 0))) {
            assertThat(Columns.of(cone.turned(rotation), 45, 256).solidMm3()).isCloseTo(volume, withinPercentage(0.7));
        }
    }

    @Test
    void a_void_is_taken_off_and_a_body_inside_another_counts_once() {
        Mesh box = Shapes.box(30, 30, 30), inner = Shapes.box(10, 10, 10).moved(10, 10, 10);
        assertThat(Columns.of(Split.joined(List.of(box, SoundnessTest.reversed(inner))), 45, 256).solidMm3())
                .isCloseTo(26_000, withinPercentage(0.7));
        assertThat(Columns.of(Split.joined(List.of(box, inner)), 45, 256).solidMm3())
                .isCloseTo(27_000, withinPercentage(0.7));
    }

    @ParameterizedTest
    @ValueSource(doubles = {5, 12, 30})
    void support_fills_the_room_under_a_table_top(double height) {
        Mesh table = Split.joined(List.of(Shapes.box(60, 40, 4).moved(0, 0, height),
                Shapes.box(10, 10, height).moved(25, 15, 0)));
        Columns columns = Columns.of(table, 45, 256);
        assertThat(columns.supportMm3()).isCloseTo((60 * 40 - 100) * height, withinPercentage(1));
        assertThat(columns.overhangMm2()).isCloseTo(60 * 40 - 100, withinPercentage(1));
    }

    @Test
    void support_stands_on_the_part_where_something_lies_below() {
        Mesh shelves = Shapes.extrusion(Shapes.polygon(0, 0, 30, 0, 30, 5, 5, 5, 5, 25, 30, 25, 30, 30, 0, 30), 10)
                .turned(Rotation.bringingDown(0, -1, 0));
        assertThat(Columns.of(shelves, 45, 256).supportMm3()).isCloseTo(25 * 10 * 20, withinPercentage(1));
    }

    @Test
    void slopes_that_hold_themselves_want_no_support() {
        assertThat(Columns.of(Shapes.cone(10, 15, 10, 60), 45, 256).supportMm3()).isZero();
        assertThat(Columns.of(Shapes.cone(10, 15, 10, 60), 20, 256).supportMm3()).isPositive();
    }

    @Test
    void a_steeper_threshold_takes_less() {
        Mesh ball = Shapes.sphere(20, 90, 46);
        double last = Double.POSITIVE_INFINITY;
        for (double degrees : new double[] {30, 45, 60, 75}) {
            double support = Columns.of(ball, degrees, 200).supportMm3();
            assertThat(support).isLessThan(last);
            last = support;
        }
        assertThat(last).isCloseTo(0, within(2000.0));
    }
}
