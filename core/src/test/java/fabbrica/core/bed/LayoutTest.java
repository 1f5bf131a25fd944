package fabbrica.core.bed;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.tuple;
import static org.assertj.core.api.Assertions.within;

import fabbrica.core.mesh.model.Shapes;
import java.util.List;
import java.util.stream.IntStream;
import org.junit.jupiter.api.Test;

/** Against the general distance of the JTS geometry library, which tries every pair of edges. */
class LayoutTest {

    private static final Bed BED = Bed.of(300, 300, 200);
    private static final Layout.Room BARE = new Layout.Room(Allowance.NONE, 0);
    private static final Outline HOOK = Outline.of(Shapes.extrusion(Shapes.polygon(0, 0, 40, 0, 40, 30, 30, 30, 30, 10, 0, 10), 8));

    @Test
    void the_least_distance_of_many_is_that_of_the_nearest_two() {
        List<Outline> all = IntStream.range(0, 9).mapToObj(i -> HOOK.placed(50 + 80 * (i % 3) + 2.7 * i, 50 + 70 * (i / 3), 37 * i)).toList();
        double least = IntStream.range(0, 9).boxed().flatMap(i -> IntStream.range(0, i).mapToObj(j -> all.get(i).shape().distance(all.get(j).shape())))
                .mapToDouble(Double::doubleValue).min().orElseThrow();
        assertThat(Layout.of(all, BED, BARE, null).nearestMm()).isCloseTo(least, within(1e-9)).isPositive();
        assertThat(Layout.of(all, BED, BARE, null).troubles()).isEmpty();
    }

    @Test
    void one_in_the_bay_of_another_is_apart_from_it_though_their_boxes_overlap() {
        Outline small = Outline.of(Shapes.box(8, 8, 8));
        Layout layout = Layout.of(List.of(HOOK.placed(100, 100, 0), small.placed(90, 107, 0)), BED, BARE, null);
        assertThat(layout.troubles()).isEmpty();
        assertThat(layout.nearestMm()).isCloseTo(8, within(0.3));
        assertThat(Layout.of(List.of(HOOK.placed(100, 100, 0), small.placed(90, 97, 0)), BED, BARE, null).troubles()).singleElement()
                .satisfies(trouble -> assertThat(trouble.reason()).contains("Copies 1 and 2 are too close"));
    }

    @Test
    void one_after_another_the_head_needs_room_also_where_others_are_nearer() {
        Outline box = Outline.of(Shapes.box(10, 10, 5));
        List<Outline> row = List.of(box.placed(20, 20, 0), box.placed(32, 20, 0), box.placed(62, 20, 0));
        assertThat(Layout.of(row, BED, BARE, new Clearance(25, 40)).troubles()).extracting(Layout.Trouble::first, Layout.Trouble::second)
                .containsExactly(tuple(0, 1), tuple(1, 2));
    }
}
