package fabbrica.core.ledger;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.time.Duration;
import java.time.Instant;
import java.time.YearMonth;
import java.time.ZoneId;
import java.util.List;
import org.junit.jupiter.api.Test;

class PeriodTest {

    private static final YearMonth MARCH = YearMonth.of(2026, 3);

    @Test
    void it_is_as_long_as_its_months_by_the_clock_on_the_wall() {
        Period march = new Period(MARCH, MARCH);
        ZoneId zone = ZoneId.of("Europe/Berlin");
        assertThat(march.start(zone)).isEqualTo(Instant.parse("2026-02-28T23:00:00Z"));
        assertThat(Duration.between(march.start(zone), march.end(zone))).isEqualTo(Duration.ofHours(31 * 24 - 1));
    }

    @Test
    void before_it_are_as_many_months() {
        Period quarter = Period.upTo(MARCH, 3);
        assertThat(quarter).isEqualTo(new Period(YearMonth.of(2026, 1), MARCH));
        assertThat(quarter.before()).isEqualTo(new Period(YearMonth.of(2025, 10), YearMonth.of(2025, 12)));
        assertThat(quarter.each()).containsExactly(YearMonth.of(2026, 1), YearMonth.of(2026, 2), MARCH);
        assertThat(quarter.contains(MARCH)).isTrue();
        assertThat(quarter.contains(MARCH.plusMonths(1))).isFalse();
        assertThat(Period.around(List.of(quarter, quarter.before()))).isEqualTo(Period.upTo(MARCH, 6));
    }

    @Test
    void it_is_said_as_people_say_it() {
        assertThat(new Period(MARCH, MARCH).spoken()).isEqualTo("March 2026");
        assertThat(Period.upTo(MARCH, 3).spoken()).isEqualTo("January to March 2026");
        assertThat(Period.upTo(MARCH, 4).spoken()).isEqualTo("December 2025 to March 2026");
    }

    @Test
    void what_ends_before_it_begins_is_refused_as_are_centuries() {
        assertThatThrownBy(() -> new Period(MARCH, MARCH.minusMonths(1))).hasMessage("The last month comes before the first.");
        assertThatThrownBy(() -> Period.upTo(MARCH, 1201)).hasMessageContaining("too many");
    }
}
