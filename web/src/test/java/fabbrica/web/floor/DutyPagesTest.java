package fabbrica.web.floor;

import static fabbrica.web.Steps.open;
import static fabbrica.web.Steps.send;
import static org.assertj.core.api.Assertions.assertThat;
import static org.hamcrest.Matchers.allOf;
import static org.hamcrest.Matchers.containsString;
import static org.hamcrest.Matchers.not;
import static org.springframework.test.web.servlet.result.MockMvcResultMatchers.content;
import static org.springframework.test.web.servlet.result.MockMvcResultMatchers.redirectedUrl;

import fabbrica.core.mesh.model.Shapes;
import fabbrica.core.schedule.Calendar;
import fabbrica.core.schedule.Calendar.Hours;
import fabbrica.core.schedule.Task;
import fabbrica.web.DemoLabTest;
import fabbrica.web.Steps;
import fabbrica.web.plan.Forecasts;
import fabbrica.web.platform.Seen;
import fabbrica.web.stores.CalendarText;
import fabbrica.web.stores.Inventory;
import fabbrica.web.stores.Keyholder;
import fabbrica.web.stores.Keyholders;
import java.time.Clock;
import java.time.DayOfWeek;
import java.time.Instant;
import java.time.LocalDate;
import java.time.ZoneOffset;
import java.time.ZonedDateTime;
import java.util.Arrays;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.function.Function;
import java.util.stream.Collectors;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.springframework.beans.factory.annotation.Autowired;
import org.springframework.test.web.servlet.MockMvc;

/** At half past twelve, with one who has a key and a lab that is open from ten to eight on every day, whichever day it is. */
@DemoLabTest
class DutyPagesTest {

    @Autowired
    private MockMvc mvc;
    @Autowired
    private Keyholders keyholders;
    @Autowired
    private Inventory inventory;
    @Autowired
    private Forecasts forecasts;
    @Autowired
    private Steps steps;
    @Autowired
    private Clock clock;

    private List<Keyholder> before = List.of();
    private Calendar hours = new Calendar(ZoneOffset.UTC, Map.of(), Map.of());
    private LocalDate today = LocalDate.EPOCH;

    @BeforeEach
    void onlyAda() {
        before = keyholders.all();
        hours = inventory.calendar();
        today = ZonedDateTime.ofInstant(clock.instant(), inventory.zone()).toLocalDate();
        before.forEach(one -> keyholders.remove(one.id(), "mira"));
        Calendar everyDay = new Calendar(inventory.zone(), Arrays.stream(DayOfWeek.values())
                .collect(Collectors.toMap(Function.identity(), day -> List.of(Hours.of(10, 20)))), Map.of());
        inventory.change(hours, everyDay, new CalendarText.Notes(Map.of()), "mira");
        keyholders.add(new Keyholder(0, "Ada", Set.of(Task.values()), everyDay, new CalendarText.Notes(Map.of())), "mira");
        steps.queued(Shapes.box(20, 20, 20), 1, steps.printer(), steps.spool("pla", 900));
    }

    @AfterEach
    void putBack() {
        inventory.change(inventory.calendar(), hours, new CalendarText.Notes(Map.of()), "mira");
        keyholders.all().forEach(one -> keyholders.remove(one.id(), "mira"));
        before.forEach(one -> keyholders.add(new Keyholder(0, one.name(), one.may(), one.hours(), one.notes()), "mira"));
    }

    private Keyholder ada() {
        return keyholders.all().getFirst();
    }

    private Instant lastStart() {
        Forecasts.Floor floor = forecasts.floor();
        return floor.of(floor.waiting().getLast()).orElseThrow().start();
    }

    @Test
    void whoever_leaves_early_moves_what_waits_to_another_day_and_sees_that_first() throws Exception {
        Instant tomorrow = today.plusDays(1).atStartOfDay(inventory.zone()).toInstant();
        assertThat(lastStart()).isBefore(tomorrow);
        mvc.perform(open("/floor")).andExpect(content().string(allOf(containsString("<strong>Ada</strong>"), containsString("leaves now…"))));
        mvc.perform(open("/floor/leaves/" + ada().id())).andExpect(content().string(allOf(containsString("would be printed at another time"),
                containsString("tomorrow 10:"))));
        assertThat(lastStart()).as("only looked at").isBefore(tomorrow);
        Keyholder seen = ada();
        mvc.perform(send("/floor/leaves/" + seen.id()).param("seen", Seen.of(seen))).andExpect(redirectedUrl("/floor"));
        assertThat(ada().hours().on(today)).singleElement().satisfies(hours -> assertThat(hours.toMin()).isGreaterThanOrEqualTo(12 * 60 + 30)
                .isLessThanOrEqualTo(ZonedDateTime.ofInstant(clock.instant(), inventory.zone()).toLocalTime().toSecondOfDay() / 60));
        assertThat(lastStart()).isAfter(tomorrow);
        mvc.perform(send("/floor/leaves/" + seen.id()).param("seen", Seen.of(seen))).andExpect(content().string(containsString("changed")));
    }

    @Test
    void a_day_is_closed_with_what_that_moves_shown_before() throws Exception {
        mvc.perform(open("/floor/closing")).andExpect(content().string(allOf(containsString("Close for today"), containsString("tomorrow 10:"))));
        LocalDate day = today.plusDays(9);
        mvc.perform(open("/floor/closing?day=" + day)).andExpect(content().string(allOf(containsString("Close that day"),
                containsString("Nothing that waits would be printed at another time"))));
        mvc.perform(send("/floor/closing").param("day", day.toString()).param("note", "boiler").param("seen", Seen.of(inventory.calendar())))
                .andExpect(redirectedUrl("/floor"));
        assertThat(inventory.calendar().on(day)).isEmpty();
        mvc.perform(open("/floor/closing?day=" + day)).andExpect(content().string(allOf(containsString("closed then anyway"), not(containsString("Close that day")))));
        mvc.perform(open("/stores/lab/hours")).andExpect(content().string(containsString(day + " closed boiler")));
        mvc.perform(send("/floor/closing").param("day", today.minusDays(1).toString())).andExpect(content().string(containsString("That day is over.")));
        mvc.perform(send("/floor/closing").param("day", "someday")).andExpect(content().string(containsString("Choose a day.")));
    }
}
