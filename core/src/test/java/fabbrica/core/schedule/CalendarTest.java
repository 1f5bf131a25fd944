package fabbrica.core.schedule;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import fabbrica.core.schedule.Calendar.Hours;
import fabbrica.core.units.OutOfRange;
import java.time.DayOfWeek;
import java.time.Duration;
import java.time.Instant;
import java.time.LocalDate;
import java.time.LocalDateTime;
import java.time.ZoneId;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import org.junit.jupiter.api.Test;

/** Worked by hand on a wall calendar of 2026; the clocks of Vienna go forward on 29 March and back on 25 October. */
class CalendarTest {

    private static final ZoneId ZONE = ZoneId.of("Europe/Vienna");
    private static final Calendar CALENDAR = new Calendar(ZONE, Map.of(
            DayOfWeek.MONDAY, List.of(Hours.of(10, 13), Hours.of(14, 20)), DayOfWeek.TUESDAY, List.of(Hours.of(10, 20)),
            DayOfWeek.FRIDAY, List.of(Hours.of(18, 24)), DayOfWeek.SATURDAY, List.of(Hours.of(0, 2)),
            DayOfWeek.SUNDAY, List.of(Hours.of(1, 5))),
            Map.of(LocalDate.of(2026, 4, 6), List.of(), LocalDate.of(2026, 4, 8), List.of(Hours.of(9, 12))));

    @Test
    void nobody_is_there_in_a_break_at_night_or_on_a_closed_day() {
        assertThat(CALENDAR.at(at("2026-03-02T12:59"))).isPresent();
        assertThat(CALENDAR.at(at("2026-03-02T13:30"))).isEmpty();
        assertThat(CALENDAR.at(at("2026-03-02T22:00"))).isEmpty();
        assertThat(CALENDAR.at(at("2026-03-04T12:00"))).isEmpty();
    }

    @Test
    void the_next_time_somebody_is_there_is_after_the_break_the_night_or_the_holiday() {
        assertThat(next("2026-03-02T11:15")).contains(at("2026-03-02T11:15"));
        assertThat(next("2026-03-02T13:30")).contains(at("2026-03-02T14:00"));
        assertThat(next("2026-03-02T20:01")).contains(at("2026-03-03T10:00"));
        assertThat(next("2026-04-05T06:00")).as("Easter Monday is closed").contains(at("2026-04-07T10:00"));
        assertThat(next("2026-04-07T20:30")).as("a Wednesday that is open").contains(at("2026-04-08T09:00"));
    }

    @Test
    void work_is_put_where_there_is_room_for_all_of_it() {
        assertThat(CALENDAR.roomFor(Duration.ofMinutes(30), at("2026-03-02T12:40")).orElseThrow().from()).isEqualTo(at("2026-03-02T14:00"));
        assertThat(CALENDAR.roomFor(Duration.ofMinutes(20), at("2026-03-02T12:40")).orElseThrow().from()).isEqualTo(at("2026-03-02T12:40"));
        assertThat(CALENDAR.roomFor(Duration.ofHours(11), at("2026-03-02T12:40"))).isEmpty();
    }

    @Test
    void hours_that_go_on_over_midnight_are_one() {
        Span night = CALENDAR.at(at("2026-03-06T23:00")).orElseThrow();
        assertThat(night.to()).isEqualTo(at("2026-03-07T02:00"));
        assertThat(CALENDAR.roomFor(Duration.ofHours(7), at("2026-03-05T12:00")).orElseThrow().from()).isEqualTo(at("2026-03-06T18:00"));
    }

    @Test
    void on_days_when_the_clock_is_changed_the_clock_on_the_wall_counts() {
        assertThat(CALENDAR.at(at("2026-03-29T04:00")).orElseThrow().length()).isEqualTo(Duration.ofHours(3));
        assertThat(CALENDAR.at(at("2026-10-25T04:00")).orElseThrow().length()).isEqualTo(Duration.ofHours(5));
        assertThat(CALENDAR.at(at("2026-03-22T04:00")).orElseThrow().length()).isEqualTo(Duration.ofHours(4));
    }

    @Test
    void a_lab_where_nobody_ever_is_never_opens() {
        assertThat(new Calendar(ZONE, Map.of(), Map.of()).nextStaffed(at("2026-03-02T12:00"))).isEmpty();
    }

    @Test
    void hours_run_forward_and_do_not_overlap() {
        assertThatThrownBy(() -> Hours.of(20, 10)).isInstanceOf(OutOfRange.class);
        assertThatThrownBy(() -> new Calendar(ZONE, Map.of(DayOfWeek.MONDAY, List.of(Hours.of(9, 14), Hours.of(13, 20))), Map.of()))
                .isInstanceOf(OutOfRange.class);
    }

    private static Optional<Instant> next(String local) {
        return CALENDAR.nextStaffed(at(local));
    }

    private static Instant at(String local) {
        return LocalDateTime.parse(local).atZone(ZONE).toInstant();
    }
}
