package fabbrica.web.machine;

import static org.assertj.core.api.Assertions.assertThat;

import fabbrica.web.machine.ExpectedEnd.Move;
import java.time.Duration;
import java.time.Instant;
import java.util.Optional;
import org.junit.jupiter.api.Test;

class ExpectedEndTest {

    private static final Instant SIX = Instant.parse("2026-03-02T18:00:00Z");
    private final ExpectedEnd end = new ExpectedEnd();

    private static Instant later(int minutes) {
        return SIX.plusSeconds(60L * minutes);
    }

    private Optional<Move> move(Instant to) {
        return move(to, Duration.ZERO);
    }

    private Optional<Move> move(Instant to, Duration jumped) {
        Optional<Move> move = end.move(to, jumped);
        move.ifPresent(end::moved);
        return move;
    }

    @Test
    void only_a_move_of_more_than_a_minute_is_told_and_each_by_itself() {
        assertThat(move(SIX)).contains(new Move(SIX, false));
        assertThat(move(later(1))).isEmpty();
        assertThat(end.at()).isEqualTo(SIX);
        assertThat(move(later(2))).contains(new Move(later(2), false));
        assertThat(move(later(-2))).contains(new Move(later(-2), false));
    }

    @Test
    void it_is_late_once_when_it_has_crept_a_quarter_of_an_hour_past_what_was_first_said() {
        move(SIX);
        assertThat(move(later(15))).contains(new Move(later(15), false));
        assertThat(move(later(16))).contains(new Move(later(16), true));
        assertThat(move(later(40))).contains(new Move(later(40), false));
    }

    @Test
    void a_clock_that_was_put_on_moves_it_and_makes_nothing_late() {
        move(SIX);
        assertThat(move(later(60), Duration.ofHours(1))).contains(new Move(later(60), false));
        assertThat(move(later(76), Duration.ofHours(1))).contains(new Move(later(76), true));
    }

    @Test
    void what_could_not_be_written_down_is_told_again() {
        assertThat(end.move(SIX, Duration.ZERO)).contains(new Move(SIX, false));
        assertThat(end.at()).isNull();
        assertThat(end.move(SIX, Duration.ZERO)).contains(new Move(SIX, false));
    }
}
