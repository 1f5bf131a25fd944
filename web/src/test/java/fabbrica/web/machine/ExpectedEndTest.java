package fabbrica.web.machine;

import static org.assertj.core.api.Assertions.assertThat;

import fabbrica.web.machine.ExpectedEnd.Move;
import java.time.Instant;
import org.junit.jupiter.api.Test;

class ExpectedEndTest {

    private static final Instant SIX = Instant.parse("2026-03-02T18:00:00Z");
    private final ExpectedEnd end = new ExpectedEnd();

    private static Instant later(int minutes) {
        return SIX.plusSeconds(60L * minutes);
    }

    @Test
    void only_a_move_of_more_than_a_minute_is_told_and_each_by_itself() {
        assertThat(end.move(SIX)).contains(new Move(SIX, false));
        assertThat(end.move(later(1))).isEmpty();
        assertThat(end.at()).isEqualTo(SIX);
        assertThat(end.move(later(2))).contains(new Move(later(2), false));
        assertThat(end.move(later(-2))).contains(new Move(later(-2), false));
    }

    @Test
    void it_is_late_once_when_it_has_crept_a_quarter_of_an_hour_past_what_was_first_said() {
        end.move(SIX);
        assertThat(end.move(later(15))).contains(new Move(later(15), false));
        assertThat(end.move(later(16))).contains(new Move(later(16), true));
        assertThat(end.move(later(40))).contains(new Move(later(40), false));
    }
}
