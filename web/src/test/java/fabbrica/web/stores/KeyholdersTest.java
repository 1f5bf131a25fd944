package fabbrica.web.stores;

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
import fabbrica.core.schedule.Span;
import fabbrica.core.schedule.Task;
import fabbrica.web.DemoLabTest;
import fabbrica.web.Steps;
import fabbrica.web.plan.Forecasts;
import fabbrica.web.platform.Seen;
import java.time.Clock;
import java.time.DayOfWeek;
import java.time.Duration;
import java.time.Instant;
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
import org.springframework.test.web.servlet.request.MockHttpServletRequestBuilder;

@DemoLabTest
class KeyholdersTest {

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

    @BeforeEach
    void remember() {
        before = keyholders.all();
    }

    @AfterEach
    void putBack() {
        keyholders.all().forEach(one -> keyholders.remove(one.id(), "mira"));
        before.forEach(one -> keyholders.add(new Keyholder(0, one.name(), one.may(), one.hours(), one.notes()), "mira"));
    }

    @Test
    void somebody_with_a_key_is_written_down_with_what_she_may_do_and_when_she_is_on_duty() throws Exception {
        mvc.perform(form("/stores/keyholders/new", "Ada", "10:00-13:00, 14:00-16:00", "2027-01-02 closed skiing").param("START", "on").param("CLEAR", "on")
                .param("token", "ada")).andExpect(redirectedUrl("/stores"));
        mvc.perform(open("/stores")).andExpect(content().string(allOf(containsString("Ada"), containsString("Mon 10:00-13:00, 14:00-16:00"),
                containsString("start prints, clear beds"))));
        mvc.perform(open("/stores/keyholders/" + ada().id())).andExpect(content().string(containsString("2027-01-02 closed skiing")));
        mvc.perform(form("/stores/keyholders/" + ada().id(), "Ada", "12:00-13:00", "").param("seen", Seen.of(ada()))).andExpect(redirectedUrl("/stores"));
        assertThat(ada().may()).as("only watches").isEmpty();
        assertThat(ada().hours().weekdays().get(DayOfWeek.MONDAY)).containsExactly(new Hours(720, 780));
        mvc.perform(send("/stores/keyholders/" + ada().id() + "/remove")).andExpect(redirectedUrl("/stores"));
        mvc.perform(open("/stores")).andExpect(content().string(not(containsString("Ada"))));
    }

    @Test
    void hours_that_cannot_be_and_names_that_are_taken_are_answered_with_a_sentence() throws Exception {
        mvc.perform(form("/stores/keyholders/new", "Eve", "16:00-10:00", "")).andExpect(content().string(containsString("Hours begin before they end")));
        mvc.perform(form("/stores/keyholders/new", "Eve", "10:00-14:00, 13:00-16:00", "")).andExpect(content().string(containsString("with a break between")));
        mvc.perform(form("/stores/keyholders/new", "", "10:00-14:00", "")).andExpect(content().string(containsString("Name")));
        mvc.perform(form("/stores/keyholders/new", "MIRA", "10:00-14:00", "").param("token", "eve")).andExpect(content().string(containsString("MIRA is written down already.")));
    }

    @Test
    void a_form_that_shows_what_is_no_longer_is_not_kept() throws Exception {
        Keyholder mira = before.getFirst();
        keyholders.change(mira, new Keyholder(mira.id(), mira.name(), Set.of(), mira.hours(), mira.notes()), "tomas");
        mvc.perform(form("/stores/keyholders/" + mira.id(), "Mira", "10:00-12:00", "").param("seen", Seen.of(mira)))
                .andExpect(content().string(containsString("changed")));
        assertThat(keyholders.one(mira.id()).orElseThrow().hours()).isEqualTo(mira.hours());
    }

    @Test
    void somebody_is_there_while_the_lab_is_open_and_one_of_them_is_on_duty() {
        Instant now = clock.instant(), later = now.plus(Duration.ofDays(14));
        assertThat(keyholders.duty().staffed(now, later)).as("the demo's hours are all covered").isEqualTo(inventory.calendar().between(now, later));
        only(Set.of(Task.values()), 11, 12);
        assertThat(keyholders.duty().staffed(now, later)).isNotEmpty().allMatch(span -> span.length().compareTo(Duration.ofHours(1)) <= 0);
        keyholders.all().forEach(one -> keyholders.remove(one.id(), "mira"));
        assertThat(keyholders.duty().staffed(now, later)).as("nobody written down").isEqualTo(inventory.calendar().between(now, later));
    }

    @Test
    void a_plate_is_expected_when_somebody_who_may_start_it_is_there() {
        steps.queued(Shapes.box(20, 20, 20), 1, steps.printer(), steps.spool("pla", 900));
        only(Set.of(Task.values()), 15, 20);
        assertThat(latestPlate()).isAfterOrEqualTo(today(15));
        only(Set.of(Task.START, Task.CLEAR), 10, 20);
        assertThat(forecasts.floor().waiting()).isNotEmpty();
        assertThat(forecasts.floor().of(forecasts.floor().waiting().getLast())).as("nobody may change the filament").isEmpty();
    }

    @Test
    void what_is_expected_keeps_one_person_at_one_machine_at_a_time() {
        only(Set.of(Task.values()), 10, 20);
        for (int i = 0; i < 3; i++) {
            steps.queued(Shapes.box(20, 20, 20), 1, steps.printer(), steps.spool("pla", 900));
        }
        List<Span> work = forecasts.floor().schedule().slots().stream().map(slot -> new Span(slot.work(), slot.start().plusSeconds(60))).toList();
        assertThat(Span.joined(work).stream().map(Span::length).reduce(Duration.ZERO, Duration::plus))
                .as("nothing overlaps").isEqualTo(work.stream().map(Span::length).reduce(Duration.ZERO, Duration::plus));
    }

    private Instant latestPlate() {
        Forecasts.Floor floor = forecasts.floor();
        return floor.of(floor.waiting().getLast()).orElseThrow().start();
    }

    private Instant today(int hour) {
        return ZonedDateTime.ofInstant(clock.instant(), inventory.zone()).withHour(hour).withMinute(0).withSecond(0).withNano(0).toInstant();
    }

    private void only(Set<Task> may, int from, int to) {
        keyholders.all().forEach(one -> keyholders.remove(one.id(), "mira"));
        keyholders.add(new Keyholder(0, "Ada", may, new Calendar(inventory.zone(), Arrays.stream(DayOfWeek.values()).collect(Collectors.toMap(Function.identity(),
                day -> List.of(Hours.of(from, to)))), Map.of()), new CalendarText.Notes(Map.of())), "mira");
    }

    private Keyholder ada() {
        return keyholders.all().stream().filter(one -> one.name().equals("Ada")).findFirst().orElseThrow();
    }

    private static MockHttpServletRequestBuilder form(String address, String name, String monday, String special) {
        return send(address).param("name", name).param("MONDAY", monday).param("special", special);
    }
}
