package fabbrica.core.bed;

import static org.assertj.core.api.Assertions.assertThat;

import fabbrica.core.mesh.model.Bounds;
import java.util.List;
import org.junit.jupiter.api.Test;

class ClearanceTest {

    private static final Clearance USUAL = Clearance.USUAL;

    @Test
    void low_parts_that_stand_apart_can_be_printed_one_after_another() {
        assertThat(USUAL.against(List.of(box(0, 20), box(60, 20)))).isEmpty();
        assertThat(USUAL.against(List.of(box(0, 200)))).isEmpty();
    }

    @Test
    void the_last_part_may_be_high_and_no_other() {
        assertThat(USUAL.against(List.of(box(0, 20), box(60, 120)))).isEmpty();
        assertThat(USUAL.against(List.of(box(60, 120), box(0, 20)))).singleElement().asString().startsWith("Part 1 is 120 mm high");
    }

    @Test
    void parts_nearer_than_the_head_is_wide_are_named_with_their_gap() {
        assertThat(USUAL.against(List.of(box(0, 20), box(40, 20), box(100, 20)))).singleElement().asString()
                .isEqualTo("Parts 1 and 2 are 20 mm apart; the head needs 35 mm.");
    }

    private static Bounds box(double x, double height) {
        return new Bounds(x, 0, 0, x + 20, 20, height);
    }
}
