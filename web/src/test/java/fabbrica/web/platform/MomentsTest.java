package fabbrica.web.platform;

import static org.assertj.core.api.Assertions.assertThat;

import java.time.Clock;
import java.time.Instant;
import java.time.LocalDate;
import java.time.LocalDateTime;
import java.time.ZoneId;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

class MomentsTest {

    /** A Wednesday. */
    private static final ZoneId ZONE = ZoneId.of("Europe/Vienna");
    private final Moments moments = new Moments(Clock.fixed(Instant.parse("2026-03-04T11:30:00Z"), ZoneId.of("Asia/Tokyo")), () -> ZONE);

    @ParameterizedTest
    @CsvSource({"2026-03-04T17:05, today 17:05", "2026-03-05T00:00, tomorrow 00:00", "2026-03-03T23:59, yesterday 23:59",
        "2026-03-06T09:30, Fri 09:30", "2026-03-12T09:30, 12 Mar 09:30", "2026-02-27T08:00, 27 Feb 08:00"})
    void moments_are_said_as_people_say_them(LocalDateTime local, String said) {
        assertThat(moments.say(moments.at(local))).isEqualTo(said);
    }

    @Test
    void a_day_is_said_with_its_month_by_name() {
        assertThat(moments.day(LocalDate.of(2026, 11, 9))).isEqualTo("9 Nov 2026");
    }

    @Test
    void an_input_gets_local_time_to_the_minute() {
        assertThat(moments.forInput(Instant.parse("2026-03-04T11:30:42Z"))).isEqualTo("2026-03-04T12:30");
    }
}
