package fabbrica.core.schedule;

import static org.assertj.core.api.Assertions.assertThat;

import fabbrica.core.schedule.Calendar.Hours;
import fabbrica.core.schedule.FloorView.Handling;
import fabbrica.core.schedule.FloorView.Machine;
import fabbrica.core.schedule.FloorView.Option;
import fabbrica.core.schedule.FloorView.Person;
import fabbrica.core.schedule.FloorView.Waiting;
import fabbrica.core.schedule.Schedule.Slot;
import java.time.DayOfWeek;
import java.time.Duration;
import java.time.Instant;
import java.time.LocalDate;
import java.time.LocalDateTime;
import java.time.ZoneId;
import java.time.ZoneOffset;
import java.util.Arrays;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.stream.Collectors;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import org.jspecify.annotations.Nullable;

/** Worked by hand: a lab that is open from 10 to 13 and from 14 to 20 on every day. */
class FirstComeTest {

    private static final Calendar CALENDAR = new Calendar(ZoneOffset.UTC, Arrays.stream(DayOfWeek.values()).collect(Collectors.toMap(day -> day,
            day -> List.of(Hours.of(10, 13), Hours.of(14, 20)))), Map.of());
    private static final Instant TEN = Instant.parse("2026-03-02T10:00:00Z");

    @Test
    void plates_follow_one_another_with_the_bed_cleared_between() {
        List<Slot> slots = plan(machine(TEN, false), waiting(1, 30, "", true), waiting(2, 60, "", true));
        assertThat(slots.getFirst().start()).isEqualTo(TEN);
        assertThat(slots.get(1).work()).isEqualTo(at("10:30"));
        assertThat(slots.get(1).start()).isEqualTo(at("10:40"));
        assertThat(slots.get(1).end()).isEqualTo(at("11:40"));
    }

    @Test
    void what_a_machine_prints_comes_first_and_what_should_have_ended_ends_now() {
        assertThat(plan(machine(at("11:00"), true), waiting(1, 30, "", true)).getFirst().start()).isEqualTo(at("11:10"));
        assertThat(plan(machine(at("09:00"), true), waiting(1, 30, "", true)).getFirst().start()).isEqualTo(at("10:10"));
    }

    @Test
    void nothing_starts_while_nobody_is_there() {
        List<Slot> slots = plan(machine(at("12:55"), true), waiting(1, 30, "", true), waiting(2, 7 * 60, "", true), waiting(3, 10, "", true));
        assertThat(slots.getFirst().start()).as("clearing takes ten minutes, closing comes first").isEqualTo(at("14:10"));
        assertThat(slots.get(1).start()).isEqualTo(at("14:50"));
        assertThat(slots.get(1).handOut()).as("it ends at night").isEqualTo(at("10:00").plus(Duration.ofDays(1)));
        assertThat(slots.get(2).start()).isEqualTo(at("10:10").plus(Duration.ofDays(1)));
    }

    @Test
    void a_machine_that_may_not_run_unattended_ends_while_somebody_is_there() {
        assertThat(plan(machine(TEN, false), waiting(1, 240, "", false)).getFirst().start()).isEqualTo(at("14:00"));
        assertThat(plan(machine(TEN, false), waiting(1, 7 * 60, "", false), waiting(2, 5, "", false))).as("too long for any day").isEmpty();
    }

    @Test
    void a_change_of_spool_takes_its_time() {
        assertThat(plan(machine(TEN, false), waiting(1, 30, "red", true), waiting(2, 30, "red", true)).stream().map(Slot::start))
                .containsExactly(at("10:06"), at("10:46"));
    }

    @Test
    void a_machine_that_is_down_takes_up_work_when_it_is_expected_back_if_it_is() {
        assertThat(plan(machine(at("11:30"), false), waiting(1, 30, "", true)).getFirst().start()).isEqualTo(at("11:30"));
        assertThat(plan(machine(null, false), waiting(1, 30, "", true))).isEmpty();
    }

    /** The clocks of Vienna go forward at two on 29 March 2026 and back at three on 25 October. */
    @ParameterizedTest
    @CsvSource({"2026-03-22, 240, 2026-03-22T05:00", "2026-03-29, 180, 2026-03-29T05:00", "2026-03-29, 240, ", "2026-10-25, 240, 2026-10-25T04:00",
            "2026-10-25, 300, 2026-10-25T05:00", "2026-10-25, 301, "})
    void a_print_across_a_change_of_clocks_lasts_what_it_lasts(LocalDate sunday, int minutes, @Nullable LocalDateTime ends) {
        ZoneId vienna = ZoneId.of("Europe/Vienna");
        Calendar nights = new Calendar(vienna, Map.of(DayOfWeek.SUNDAY, List.of(Hours.of(1, 5))), Map.of());
        Instant midnight = sunday.atStartOfDay(vienna).toInstant();
        FloorView night = new FloorView(midnight, nights.between(midnight, midnight.plus(Duration.ofDays(1))), List.of(), List.of(), Map.of(),
                List.of(machine(midnight, false)), List.of(waiting(1, minutes, "", false)), Rules.OF_A_LAB);
        assertThat(new FirstCome().plan(night, Duration.ZERO).of(1).map(slot -> LocalDateTime.ofInstant(slot.end(), vienna))).isEqualTo(Optional.ofNullable(ends));
    }

    @Test
    void what_is_owed_to_a_machine_is_done_before_the_first_start_after_it_is_due_and_again_when_its_time_comes() {
        Chore wash = chore("wash", Duration.ofHours(1), Duration.ofMinutes(40), null);
        List<Slot> slots = plan(kept(wash), waiting(1, 30, "", true), waiting(2, 30, "", true), waiting(3, 30, "", true), waiting(4, 5, "", true));
        assertThat(slots).extracting(Slot::chores).as("40 min since, then 70; washed; then 30, 60").containsExactly(List.of(), List.of("wash"), List.of(), List.of("wash"));
        assertThat(slots.get(1).work()).isEqualTo(at("10:30"));
        assertThat(slots.get(1).start()).as("ten minutes to clear, five to wash").isEqualTo(at("10:45"));
    }

    @Test
    void what_is_done_before_each_print_is_done_before_each_print() {
        assertThat(plan(kept(chore("wipe", Duration.ZERO, Duration.ZERO, null)), waiting(1, 30, "", true), waiting(2, 30, "", true)))
                .extracting(slot -> Duration.between(slot.work(), slot.start()).toMinutes()).containsExactly(5L, 15L);
    }

    @Test
    void what_comes_due_on_a_day_is_owed_to_whatever_starts_from_then_on_also_when_only_its_own_work_makes_it_so_late() {
        Chore calibrate = chore("calibrate", null, Duration.ZERO, Duration.ofMinutes(8 * 60 + 38));
        List<Slot> slots = plan(kept(calibrate), waiting(1, 30, "", true), waiting(2, 30, "", true));
        assertThat(slots.getFirst().chores()).isEmpty();
        assertThat(slots.get(1).chores()).as("due 10:38, cleared by 10:40").containsExactly("calibrate");
        assertThat(slots.get(1).start()).isEqualTo(at("10:45"));
    }

    @Test
    void whoever_starts_may_do_what_is_owed() {
        Span day = new Span(TEN, at("20:00"));
        FloorView floor = new FloorView(TEN, List.of(day), List.of(new Person("Ada", Set.of(Task.START), List.of(day)),
                new Person("Ben", Set.of(Task.START, Task.CLEAR), List.of(new Span(at("15:00"), at("20:00"))))), List.of(), Map.of(),
                List.of(kept(chore("wipe", Duration.ZERO, Duration.ZERO, null))), List.of(waiting(1, 30, "", true)), Rules.OF_A_LAB);
        Slot slot = new FirstCome().plan(floor, Duration.ZERO).slots().getFirst();
        assertThat(slot.person()).isEqualTo("Ben");
        assertThat(slot.start()).isEqualTo(at("15:05"));
    }

    /** Takes five minutes; was done last at two in the morning. */
    private static Chore chore(String what, @Nullable Duration everyPrinting, Duration printed, @Nullable Duration every) {
        return new Chore(what, Duration.ofMinutes(5), Task.CLEAR, everyPrinting, printed, every, TEN.minus(Duration.ofHours(8)));
    }

    private static Machine kept(Chore chore) {
        Machine machine = machine(TEN, false);
        return new Machine(machine.id(), TEN, false, machine.setup(), List.of(), machine.handling(), List.of(chore));
    }

    private static List<Slot> plan(Machine machine, Waiting... waiting) {
        List<Span> staffed = CALENDAR.between(TEN, TEN.plus(Duration.ofDays(30)));
        return new FirstCome().plan(new FloorView(TEN, staffed, List.of(), List.of(), Map.of(), List.of(machine), List.of(waiting), Rules.OF_A_LAB),
                Duration.ZERO).slots();
    }

    private static Machine machine(@Nullable Instant ready, boolean covered) {
        Duration change = Duration.ofMinutes(6);
        return new Machine("a", ready, covered, Setup.EMPTY, List.of(), new Handling(change, change, change, FirstCome.CLEARING));
    }

    private static Waiting waiting(long plate, int minutes, String spool, boolean unattended) {
        return Waiting.on(plate, new Option("a", new Setup("", "", spool, 0), Duration.ofMinutes(minutes), Duration.ZERO, 0, unattended, 0));
    }

    private static Instant at(String time) {
        return Instant.parse("2026-03-02T" + time + ":00Z");
    }
}
