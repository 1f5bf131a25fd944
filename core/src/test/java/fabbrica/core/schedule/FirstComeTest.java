package fabbrica.core.schedule;

import static org.assertj.core.api.Assertions.assertThat;

import fabbrica.core.schedule.Calendar.Hours;
import fabbrica.core.schedule.FloorView.Machine;
import fabbrica.core.schedule.FloorView.Waiting;
import fabbrica.core.schedule.Schedule.Slot;
import java.time.DayOfWeek;
import java.time.Duration;
import java.time.Instant;
import java.time.ZoneOffset;
import java.util.Arrays;
import java.util.List;
import java.util.Map;
import java.util.stream.Collectors;
import org.junit.jupiter.api.Test;
import org.jspecify.annotations.Nullable;

/** Worked by hand: a lab that is open from 10 to 13 and from 14 to 20 on every day. */
class FirstComeTest {

    private static final Calendar CALENDAR = new Calendar(ZoneOffset.UTC, Arrays.stream(DayOfWeek.values()).collect(Collectors.toMap(day -> day,
            day -> List.of(Hours.of(10, 13), Hours.of(14, 20)))), Map.of());
    private static final Instant TEN = Instant.parse("2026-03-02T10:00:00Z");

    @Test
    void plates_follow_one_another_with_the_bed_cleared_between() {
        List<Slot> slots = plan(machine(null, true), waiting(1, 30, ""), waiting(2, 60, ""));
        assertThat(slots.getFirst().start()).isEqualTo(TEN);
        assertThat(slots.get(1).work()).isEqualTo(at("10:30"));
        assertThat(slots.get(1).start()).isEqualTo(at("10:40"));
        assertThat(slots.get(1).end()).isEqualTo(at("11:40"));
    }

    @Test
    void what_a_machine_prints_comes_first_and_what_should_have_ended_ends_now() {
        assertThat(plan(machine(at("11:00"), true), waiting(1, 30, "")).getFirst().start()).isEqualTo(at("11:10"));
        assertThat(plan(machine(at("09:00"), true), waiting(1, 30, "")).getFirst().start()).isEqualTo(at("10:10"));
    }

    @Test
    void nothing_starts_while_nobody_is_there() {
        List<Slot> slots = plan(machine(at("12:55"), true), waiting(1, 30, ""), waiting(2, 7 * 60, ""), waiting(3, 10, ""));
        assertThat(slots.getFirst().start()).as("clearing takes ten minutes, closing comes first").isEqualTo(at("14:10"));
        assertThat(slots.get(1).start()).isEqualTo(at("14:50"));
        assertThat(slots.get(1).handOut()).as("it ends at night").isEqualTo(at("10:00").plus(Duration.ofDays(1)));
        assertThat(slots.get(2).start()).isEqualTo(at("10:10").plus(Duration.ofDays(1)));
    }

    @Test
    void a_machine_that_may_not_run_unattended_ends_while_somebody_is_there() {
        assertThat(plan(machine(null, false), waiting(1, 240, "")).getFirst().start()).isEqualTo(at("14:00"));
        assertThat(plan(machine(null, false), waiting(1, 7 * 60, ""), waiting(2, 5, ""))).as("too long for any day").isEmpty();
    }

    @Test
    void a_change_of_spool_takes_its_time() {
        assertThat(plan(machine(null, true), waiting(1, 30, "red"), waiting(2, 30, "red")).stream().map(Slot::start))
                .containsExactly(at("10:06"), at("10:46"));
    }

    @Test
    void a_machine_that_is_down_takes_up_work_when_it_is_expected_back_if_it_is() {
        FloorView.Machine back = new Machine("a", null, true, at("11:30"), true, "", Duration.ofMinutes(6));
        assertThat(plan(back, waiting(1, 30, "")).getFirst().start()).isEqualTo(at("11:30"));
        assertThat(plan(new Machine("a", null, true, null, true, "", Duration.ofMinutes(6)), waiting(1, 30, ""))).isEmpty();
    }

    private static List<Slot> plan(Machine machine, Waiting... waiting) {
        return new FirstCome().plan(new FloorView(TEN, CALENDAR, List.of(machine), List.of(waiting)), Duration.ZERO).slots();
    }

    private static Machine machine(@Nullable Instant until, boolean unattended) {
        return new Machine("a", until, false, null, unattended, "", Duration.ofMinutes(6));
    }

    private static Waiting waiting(long plate, int minutes, String spool) {
        return new Waiting(plate, "a", Duration.ofMinutes(minutes), spool);
    }

    private static Instant at(String time) {
        return Instant.parse("2026-03-02T" + time + ":00Z");
    }
}
