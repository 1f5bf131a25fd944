package fabbrica.core.learn;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import fabbrica.core.learn.ControlChart.Move;
import java.util.ArrayList;
import java.util.List;
import java.util.Random;
import org.junit.jupiter.api.Test;

class ControlChartTest {

    private final Random random = new Random(11);
    private final List<Boolean> runs = new ArrayList<>();

    private ControlChartTest runs(int count, double rate) {
        for (int i = 0; i < count; i++) {
            runs.add(random.nextDouble() < rate);
        }
        return this;
    }

    private ControlChart chart() {
        return ControlChart.of(runs, 0.08);
    }

    @Test
    void a_machine_that_begins_to_fail_is_told_and_since_when() {
        ControlChart chart = runs(100, 0.06).runs(40, 0.4).chart();
        assertThat(chart.moves()).hasSize(1);
        Move move = chart.moves().getFirst();
        assertThat(move.worse()).isTrue();
        assertThat(move.since()).isBetween(90, 112);
        assertThat(move.told()).isBetween(101, 118);
        assertThat(move.before()).isLessThan(0.12);
        assertThat(move.after().share()).isGreaterThan(0.25);
        assertThat(chart.points().get(move.told()).worse()).isGreaterThanOrEqualTo(1);
    }

    @Test
    void so_is_one_that_was_mended() {
        List<Move> moves = runs(60, 0.35).runs(80, 0.03).chart().moves();
        assertThat(moves).extracting(Move::worse).containsExactly(false);
        assertThat(moves.getFirst().since()).isBetween(50, 70);
    }

    @Test
    void after_it_has_moved_the_new_rate_is_the_usual_one() {
        ControlChart chart = runs(80, 0.05).runs(300, 0.3).chart();
        assertThat(chart.moves().getFirst().worse()).isTrue();
        assertThat(chart.usual()).isCloseTo(0.3, within(0.12));
    }

    @Test
    void few_runs_move_nothing() {
        assertThat(ControlChart.of(List.of(), 0.1).moves()).isEmpty();
        assertThat(ControlChart.of(List.of(true, false), 0.1).moves()).isEmpty();
    }

    /** Both sums together, each of which is wrong once in {@link Limit#FALSE_ALARM} runs on average. */
    @Test
    void a_rate_that_stands_still_is_seldom_taken_to_have_moved() {
        int moves = 0, all = 0;
        for (int lab = 0; lab < 200; lab++) {
            runs.clear();
            moves += runs(150, 0.1).chart().moves().size();
            all += 150;
        }
        assertThat(moves / (double) all).isLessThan(2.5 / Limit.FALSE_ALARM);
    }
}
