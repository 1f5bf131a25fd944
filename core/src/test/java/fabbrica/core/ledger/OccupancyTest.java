package fabbrica.core.ledger;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import java.time.DayOfWeek;
import java.time.Instant;
import java.time.ZoneId;
import org.junit.jupiter.api.Test;

class OccupancyTest {

    private static final ZoneId ZONE = ZoneId.of("Europe/Berlin");

    @Test
    void a_run_fills_the_hours_through_which_it_went() {
        Occupancy weeks = new Occupancy(Instant.parse("2026-11-01T23:00:00Z"), Instant.parse("2026-11-15T23:00:00Z"), ZONE);
        weeks.add(Instant.parse("2026-11-02T08:30:00Z"), 1.75 * 3600);
        weeks.add(Instant.parse("2026-11-09T08:00:00Z"), 3600);
        assertThat(weeks.hours()).isEqualTo(14 * 24);
        assertThat(weeks.machines(DayOfWeek.MONDAY, 9)).isEqualTo(0.75);
        assertThat(weeks.machines(DayOfWeek.MONDAY, 10)).isEqualTo(0.5);
        assertThat(weeks.machines(DayOfWeek.MONDAY, 11)).isEqualTo(0.125);
        assertThat(weeks.machines(DayOfWeek.MONDAY, 12)).isZero();
        assertThat(weeks.machines(DayOfWeek.MONDAY)).isCloseTo(2.75 / 48, within(1e-12));
    }

    @Test
    void what_goes_on_beyond_is_left_out() {
        Occupancy day = new Occupancy(Instant.parse("2026-11-01T23:00:00Z"), Instant.parse("2026-11-02T23:00:00Z"), ZONE);
        day.add(Instant.parse("2026-11-01T20:00:00Z"), 4 * 3600);
        day.add(Instant.parse("2026-11-02T22:30:00Z"), 4 * 3600);
        assertThat(day.machines(DayOfWeek.MONDAY, 0)).isEqualTo(1);
        assertThat(day.machines(DayOfWeek.MONDAY, 23)).isEqualTo(0.5);
        assertThat(day.machines(DayOfWeek.TUESDAY, 0)).isZero();
        assertThat(day.machines(DayOfWeek.SUNDAY, 23)).isZero();
    }

    @Test
    void the_hour_that_comes_twice_counts_twice_and_the_one_that_is_skipped_does_not_count() {
        Occupancy autumn = new Occupancy(Instant.parse("2026-10-24T22:00:00Z"), Instant.parse("2026-10-25T23:00:00Z"), ZONE);
        autumn.add(Instant.parse("2026-10-25T00:00:00Z"), 3600);
        assertThat(autumn.hours()).isEqualTo(25);
        assertThat(autumn.machines(DayOfWeek.SUNDAY, 2)).isEqualTo(0.5);
        Occupancy spring = new Occupancy(Instant.parse("2026-03-28T23:00:00Z"), Instant.parse("2026-03-29T22:00:00Z"), ZONE);
        spring.add(Instant.parse("2026-03-28T23:00:00Z"), 23 * 3600);
        assertThat(spring.machines(DayOfWeek.SUNDAY, 2)).isZero();
        assertThat(spring.machines(DayOfWeek.SUNDAY)).isEqualTo(1);
    }
}
