package fabbrica.core.inspect;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.List;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;

class PiecesTest {

    @Test
    void pieces_that_go_on_in_one_another_are_one_line_and_end_where_three_meet() {
        Pieces pieces = new Pieces(5, 100);
        for (int corner = 0; corner < 4; corner++) {
            pieces.add(corner, corner, 0, corner + 1, corner + 1, 0);
        }
        pieces.add(2, 2, 0, Pieces.CUT, 2, 3);

        assertThat(pieces.strokes(0.01, 100, 10)).containsExactly(new double[] {2, 0, 2, 3}, new double[] {0, 0, 2, 0}, new double[] {2, 0, 4, 0});
    }

    @ParameterizedTest
    @ValueSource(ints = {99, 100, 101, 399, 1000, 10_001})
    void of_more_than_are_held_some_are_left_all_along(int howMany) {
        Pieces pieces = new Pieces(0, 100);
        for (int i = 0; i < howMany; i++) {
            pieces.add(Pieces.CUT, i, 0, Pieces.CUT, i + 0.5, 0);
        }
        List<Double> left = pieces.strokes(0.01, 1000, 1e9).stream().map(stroke -> stroke[0]).sorted().toList();

        assertThat(left).hasSizeBetween(Math.min(howMany, 50), 100).first().isEqualTo(0.0);
        double most = 0;
        for (int i = 1; i < left.size(); i++) {
            most = Math.max(most, left.get(i) - left.get(i - 1));
        }
        assertThat(Math.max(most, howMany - left.getLast())).isLessThanOrEqualTo(Math.max(1, 2.1 * howMany / 50));
    }
}
