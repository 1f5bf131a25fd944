package fabbrica.web.floor;

import static fabbrica.web.Steps.open;
import static fabbrica.web.Steps.send;
import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;
import static org.assertj.core.api.Assertions.within;
import static org.hamcrest.Matchers.allOf;
import static org.hamcrest.Matchers.containsString;
import static org.hamcrest.Matchers.not;
import static org.springframework.test.web.servlet.request.MockMvcRequestBuilders.get;
import static org.springframework.test.web.servlet.result.MockMvcResultMatchers.content;
import static org.springframework.test.web.servlet.result.MockMvcResultMatchers.redirectedUrl;
import static org.springframework.test.web.servlet.result.MockMvcResultMatchers.status;

import fabbrica.core.judge.Policy;
import fabbrica.core.mesh.model.Shapes;
import fabbrica.core.schedule.Schedule.Slot;
import fabbrica.core.schedule.Span;
import fabbrica.web.DemoLabTest;
import fabbrica.web.Steps;
import fabbrica.web.floor.FloorPlans.Desk;
import fabbrica.web.floor.FloorPlans.Stand;
import fabbrica.web.floor.Publishing.Letter;
import fabbrica.web.plan.LaidPlate;
import fabbrica.web.plan.Plates;
import fabbrica.web.platform.Moments;
import fabbrica.web.platform.Refusal;
import fabbrica.web.platform.Seen;
import fabbrica.web.platform.events.Fact;
import fabbrica.web.platform.events.Outbox;
import fabbrica.web.stores.Condition;
import fabbrica.web.stores.Inventory;
import fabbrica.web.stores.Lab;
import fabbrica.web.stores.SpoolEntry;
import fabbrica.web.stores.Spools;
import fabbrica.web.stores.StockPrinter;
import fabbrica.web.stores.StockSpool;
import java.io.StringReader;
import java.time.Clock;
import java.time.Duration;
import java.time.Instant;
import java.time.format.DateTimeFormatter;
import java.time.temporal.ChronoUnit;
import java.util.List;
import java.util.Objects;
import java.util.stream.Stream;
import net.fortuna.ical4j.data.CalendarBuilder;
import net.fortuna.ical4j.model.Calendar;
import net.fortuna.ical4j.model.Component;
import net.fortuna.ical4j.model.Property;
import net.fortuna.ical4j.model.component.CalendarComponent;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.springframework.beans.factory.annotation.Autowired;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.test.context.TestPropertySource;
import org.springframework.test.web.servlet.MockMvc;
import org.springframework.transaction.support.TransactionTemplate;

/** Three plates on a printer of their own, at half past twelve. */
@DemoLabTest
@TestPropertySource(properties = "fabbrica.data=target/floor-plans-lab")
class FloorPlanTest {

    @Autowired
    private MockMvc mvc;
    @Autowired
    private Steps steps;
    @Autowired
    private FloorPlans plans;
    @Autowired
    private Publishing publishing;
    @Autowired
    private Batching batching;
    @Autowired
    private Plates plates;
    @Autowired
    private Inventory inventory;
    @Autowired
    private Spools spools;
    @Autowired
    private Outbox outbox;
    @Autowired
    private Moments moments;
    @Autowired
    private Clock clock;
    @Autowired
    private JdbcClient jdbc;
    @Autowired
    private TransactionTemplate transaction;

    private String printer = "";
    private long first;
    private long second;
    private long third;

    @BeforeEach
    void three() {
        // What another test has left waiting would keep whoever is there busy for days.
        transaction.executeWithoutResult(status -> {
            jdbc.sql("delete from draft").update();
            jdbc.sql("update plate set state = 'DISSOLVED' where state = 'QUEUED'").update();
        });
        printer = steps.printer();
        long spool = steps.spool("pla", 900);
        first = steps.queued(Shapes.box(20, 20, 8), 1, printer, spool);
        second = steps.queued(Shapes.box(21, 20, 8), 1, printer, spool);
        third = steps.queued(Shapes.box(22, 20, 8), 1, printer, spool);
    }

    private Stand stand() {
        return plans.desk().stand();
    }

    private List<Long> row() {
        return plans.desk().plan().row(printer).stream().map(Placed::plate).toList();
    }

    private Instant start(long plate) {
        return plans.desk().plan().slot(plate).orElseThrow().start();
    }

    private void put(long plate, String to, long before) throws Exception {
        mvc.perform(send("/floor/plates/%d/put".formatted(plate)).param("seen", stand().mark()).param("printer", to).param("before", Long.toString(before)))
                .andExpect(redirectedUrl("/floor"));
    }

    @Test
    void a_draft_changes_nothing_until_it_is_published_and_each_step_is_taken_back() throws Exception {
        put(third, printer, first);
        put(second, printer, first);
        assertThat(row()).containsExactly(third, second, first);
        assertThat(plates.inState(LaidPlate.State.QUEUED)).extracting(LaidPlate::id).as("what waits waits as it did").endsWith(first, second, third);
        mvc.perform(send("/floor/draft/undo").param("seen", stand().mark())).andExpect(redirectedUrl("/floor"));
        assertThat(row()).containsExactly(third, first, second);
        publishing.publish(stand(), "mira");
        assertThat(plans.desk().draft()).isEmpty();
        assertThat(plates.inState(LaidPlate.State.QUEUED)).extracting(LaidPlate::id).endsWith(third, first, second);
        assertThat(plates.plate(third).published()).isNotNull().satisfies(slot -> assertThat(slot.start()).isEqualTo(start(third)));
    }

    @Test
    void what_a_move_does_is_told_before_it_is_done() throws Exception {
        needed(first, start(first).plus(Duration.ofMinutes(30)));
        mvc.perform(open("/floor/plates/%d/carried?printer=%s&before=%d".formatted(third, printer, first))).andExpect(content().string(allOf(
                containsString("part.stl would start"), containsString("■ part.stl would be too late"), containsString("2 other plates start later."))));
        assertThat(row()).containsExactly(first, second, third);
        mvc.perform(open("/floor/plates/%d/carried?printer=nowhere".formatted(third))).andExpect(content().string(containsString("no longer in the stores")));
    }

    /** From ten to eight, and the next day. */
    @Test
    void what_is_needed_while_nobody_is_there_has_to_be_printed_before_the_lab_closes() {
        Instant ten = Instant.parse("2026-03-02T10:00:00Z"), eight = ten.plus(Duration.ofHours(10));
        List<Span> staffed = List.of(new Span(ten, eight), new Span(ten.plus(Duration.ofDays(1)), eight.plus(Duration.ofDays(1))));
        assertThat(FloorPlan.printedBy(staffed, ten.plus(Duration.ofHours(22)))).isEqualTo(eight);
        assertThat(FloorPlan.printedBy(staffed, ten.plus(Duration.ofHours(3)))).isEqualTo(ten.plus(Duration.ofHours(3)));
        assertThat(FloorPlan.printedBy(staffed, ten.minusSeconds(60))).as("too late anyway").isEqualTo(ten.minusSeconds(60));
    }

    @Test
    void a_plate_is_pinned_to_a_moment_and_others_go_round_it() throws Exception {
        Instant at = start(third).plus(Duration.ofHours(1)).truncatedTo(ChronoUnit.MINUTES);
        mvc.perform(send("/floor/plates/%d/pin".formatted(first)).param("seen", stand().mark()).param("start", moments.forInput(at))).andExpect(redirectedUrl("/floor"));
        assertThat(row()).containsExactly(second, third, first);
        assertThat(start(first)).isEqualTo(at);
        mvc.perform(open("/floor/plates/" + first)).andExpect(content().string(containsString("It is pinned: it starts then")));
        publishing.publish(stand(), "mira");
        assertThat(plates.plate(first).published()).isNotNull().satisfies(slot -> assertThat(slot.pinned()).isTrue());
        assertThat(start(first)).as("pinned in the plan that holds").isEqualTo(at);
        mvc.perform(send("/floor/plates/%d/pin".formatted(first)).param("seen", stand().mark()).param("start", moments.forInput(clock.instant().minusSeconds(600))))
                .andExpect(content().string(containsString("It cannot start in the past.")));
        mvc.perform(send("/floor/plates/%d/pin".formatted(first)).param("seen", stand().mark()).param("start", moments.forInput(clock.instant()).substring(0, 10) + "T23:30"))
                .andExpect(content().string(containsString("It cannot start then")));
        mvc.perform(send("/floor/plates/%d/pin".formatted(first)).param("seen", stand().mark()).param("loose", "on").param("start", "")).andExpect(redirectedUrl("/floor"));
        assertThat(row()).as("where it was in the order").first().isNotNull();
        assertThat(start(first)).isBefore(at);
    }

    @Test
    void of_two_who_publish_at_once_the_second_is_told_what_the_first_did() throws Exception {
        Stand seen = stand();
        put(third, printer, first);
        assertThatThrownBy(() -> publishing.publish(seen, "tomas")).isInstanceOf(Refusal.class).hasMessageContaining("mira has gone on with the draft meanwhile: plate no. %d moved on Test bench".formatted(third));
        Stand draft = stand();
        publishing.publish(draft, "mira");
        mvc.perform(send("/floor/draft/publish").param("seen", draft.mark())).andExpect(content().string(containsString("mira has published a plan meanwhile: plate no. %d moved on Test bench".formatted(third))));
        assertThat(row()).as("nothing is lost").containsExactly(third, first, second);
    }

    @Test
    void a_member_is_told_once_and_again_only_when_a_promise_slips() throws Exception {
        long ticket = steps.ticketOf(first);
        assertThat(publishing.publish(stand(), "mira")).extracting(letter -> letter.ticket().id()).contains(ticket);
        assertThat(told(ticket)).hasSize(1);
        assertThat(publishing.publish(stand(), "mira")).isEmpty();
        Instant before = Objects.requireNonNull(told(ticket).getFirst().collect());
        StockPrinter bench = inventory.printer(printer).orElseThrow();
        inventory.change(bench, bench.with(Condition.down("belt", clock.instant().plus(Duration.ofHours(3)))), "mira");
        mvc.perform(open("/floor/draft")).andExpect(content().string(allOf(containsString("promises slip"), containsString("■ slips"))));
        List<Letter> letters = publishing.publish(stand(), "mira");
        assertThat(letters).filteredOn(letter -> letter.ticket().id() == ticket).singleElement().satisfies(letter -> {
            assertThat(letter.before()).isEqualTo(before);
            assertThat(letter.collect()).isAfter(before);
        });
        assertThat(told(ticket)).hasSize(2);
    }

    private List<Fact.Promised> told(long ticket) {
        return outbox.ofTickets(List.of(ticket)).stream().map(told -> told.event().fact()).filter(Fact.Promised.class::isInstance).map(Fact.Promised.class::cast).toList();
    }

    @Test
    void a_draft_knows_what_has_started_and_what_has_come_since() throws Exception {
        put(third, printer, first);
        steps.started(second);
        mvc.perform(open("/floor/plates/%d/carried?printer=%s&before=%d".formatted(third, printer, second))).andExpect(content().string(containsString("no longer waits")));
        long fourth = steps.queued(Shapes.box(23, 20, 8), 1, printer, steps.spool("pla", 900));
        assertThat(row()).containsExactly(third, first, fourth);
        assertThat(plans.desk().plan().slot(third)).isPresent();
        mvc.perform(open("/floor/plates/" + second)).andExpect(redirectedUrl("/plates/" + second));
    }

    @Test
    void why_a_plate_is_where_it_is_and_what_it_would_cost_elsewhere_can_be_read() throws Exception {
        mvc.perform(open("/floor/plates/" + first)).andExpect(content().string(allOf(containsString("Starts"), containsString("It starts as soon as it can."))));
        mvc.perform(open("/floor/plates/" + third)).andExpect(content().string(allOf(containsString("has something else to print before"), containsString("Window bench"))));
        StockPrinter bench = inventory.printer(printer).orElseThrow();
        inventory.change(bench, bench.with(Condition.down("belt", null)), "mira");
        mvc.perform(open("/floor/plates/" + first)).andExpect(content().string(containsString("It has no place")));
    }

    @Test
    void what_would_leave_less_than_the_reserve_on_its_spool_has_no_place() {
        long spool = Objects.requireNonNull(plates.plate(first).plan().spoolId());
        double needed = Stream.of(first, second, third).mapToDouble(plate -> Objects.requireNonNull(plates.plate(plate).promise()).grams()).sum();
        double reserve = inventory.lab().policy().reserveG();
        weighed(spool, needed + reserve + 0.1);
        assertThat(placed()).isEqualTo(3);
        weighed(spool, needed + reserve - 0.1);
        assertThat(placed()).as("one of the three would leave too little").isEqualTo(2);
    }

    private long placed() {
        return Stream.of(first, second, third).filter(plate -> plans.desk().plan().slot(plate).isPresent()).count();
    }

    private void weighed(long spool, double remainingG) {
        StockSpool seen = spools.spool(spool).orElseThrow();
        spools.change(seen, new SpoolEntry(seen.number(), seen.spool().materialId(), seen.spool().colour(), "", seen.netG(), null, seen.diameterMm(), "",
                seen.spool().pricePerKg(), null, null, false), remainingG, "weighed", "mira");
    }

    @Test
    void a_plate_is_laid_with_another_and_apart_again_and_what_that_takes_is_told_before() throws Exception {
        mvc.perform(open("/floor/plates/%d/together?other=%d".formatted(first, second))).andExpect(content().string(allOf(containsString("Copies: 2 in"), containsString("less in all"))));
        String both = Seen.of(List.of(plates.plate(first), plates.plate(second)));
        mvc.perform(send("/floor/plates/%d/together".formatted(first)).param("other", Long.toString(second)).param("seen", both)).andExpect(redirectedUrl("/floor/plates/" + first));
        assertThat(row()).containsExactly(first, third);
        mvc.perform(send("/floor/plates/%d/together".formatted(first)).param("other", Long.toString(third)).param("seen", both)).andExpect(content().string(containsString("has been changed since")));
        mvc.perform(open("/floor/plates/%d/apart?copies=1".formatted(first))).andExpect(content().string(allOf(containsString("Copies: 1 in"), containsString("more in all"))));
        mvc.perform(open("/floor/plates/%d/apart?copies=some".formatted(first))).andExpect(content().string(containsString("Say how many copies")));
        mvc.perform(send("/floor/plates/%d/apart".formatted(first)).param("copies", "1").param("seen", Seen.of(List.of(plates.plate(first))))).andExpect(redirectedUrl("/floor/plates/" + first));
        assertThat(row()).hasSize(3).startsWith(first).endsWith(third);
    }

    @Test
    void plates_that_would_better_share_a_bed_are_found_and_what_that_comes_to_is_told() throws Exception {
        List<Batching.Batch> found = batching.of(plans.desk().queues());
        assertThat(found).hasSize(2).allSatisfy(batch -> assertThat(batch.less()).isGreaterThan(Duration.ofMinutes(10)));
        mvc.perform(open("/floor/batches")).andExpect(content().string(containsString("Try it")));
        mvc.perform(open("/floor/plates/%d/together?other=%d".formatted(first, second))).andExpect(content().string(allOf(containsString("2 × part.stl would start"),
                containsString("1 other plate starts sooner"), containsString("less work at the printers"))));
        needed(first, plans.desk().plan().slot(first).orElseThrow().handOut());
        assertThat(batching.of(plans.desk().queues())).as("the first would be late").extracting(batch -> batch.first().id()).containsExactly(second);
    }

    private void needed(long plate, Instant by) {
        long ticket = steps.ticketOf(plate);
        transaction.executeWithoutResult(status -> jdbc.sql("update ticket set needed_by = ? where id = ?").params(by.toEpochMilli(), ticket).update());
    }

    @Test
    void a_plate_that_would_be_late_in_two_says_so_before() throws Exception {
        long pair = steps.queued(Shapes.box(24, 24, 10), 2, printer, Objects.requireNonNull(plates.plate(first).plan().spoolId()));
        needed(pair, plans.desk().plan().slot(pair).orElseThrow().handOut());
        mvc.perform(open("/floor/plates/%d/apart?copies=1".formatted(pair))).andExpect(content().string(containsString("■ part.stl would be too late")));
    }

    @Test
    void while_nobody_is_there_runs_what_both_the_printer_and_the_house_allow() {
        Lab lab = inventory.lab();
        Policy policy = lab.policy();
        assertThat(unattended(first)).isFalse();
        StockPrinter bench = inventory.printer(printer).orElseThrow();
        inventory.change(bench, bench.at(bench.place(), true), "mira");
        assertThat(unattended(first)).isTrue();
        try {
            inventory.change(lab, new Lab(lab.name(), lab.currency(), lab.zone(), lab.limitMb(), lab.tariff(), new Policy(policy.fairGrams(), policy.fairHours(), policy.fairUseStops(),
                    policy.badgesRequired(), policy.grownUpsRequired(), false, policy.trinketMinutes(), policy.trinketCm3(), policy.reserveG(), policy.refused(), policy.bedCare()), lab.keeping(),
                    lab.round()), "mira");
            assertThat(unattended(first)).isFalse();
        } finally {
            inventory.change(inventory.lab(), lab, "mira");
        }
    }

    private boolean unattended(long plate) {
        return plans.desk().plan().view().waiting().stream().filter(one -> one.plate() == plate).findFirst().orElseThrow().options().getFirst().unattended();
    }

    @Test
    void a_screen_and_a_calendar_tell_numbers_and_no_names() throws Exception {
        mvc.perform(get("/wall/nonsense")).andExpect(status().isNotFound());
        mvc.perform(open("/floor/wall")).andExpect(content().string(containsString("Make addresses")));
        mvc.perform(send("/floor/wall")).andExpect(redirectedUrl("/floor/wall"));
        String key = jdbc.sql("select key from wall").query(String.class).single();
        mvc.perform(get("/wall/" + key)).andExpect(content().string(allOf(containsString("no. " + steps.ticketOf(first)), not(containsString("part.stl")), not(containsString("June")))));
        String feed = mvc.perform(get("/wall/" + key + "/floor.ics")).andExpect(content().contentTypeCompatibleWith("text/calendar")).andReturn().getResponse().getContentAsString();
        Calendar calendar = new CalendarBuilder().build(new StringReader(feed));
        calendar.validate();
        Slot slot = plans.desk().plan().slot(first).orElseThrow();
        assertThat(calendar.<CalendarComponent>getComponents(Component.VEVENT)).filteredOn(event -> event.getProperty(Property.UID).orElseThrow().getValue().equals("plate-%d@fabbrica".formatted(first)))
                .singleElement().satisfies(event -> {
                    assertThat(event.getProperty(Property.SUMMARY).orElseThrow().getValue()).isEqualTo("Test bench: no. " + steps.ticketOf(first));
                    assertThat(moment(event, Property.DTSTART)).isCloseTo(slot.start(), within(1, ChronoUnit.MINUTES));
                    assertThat(Duration.between(moment(event, Property.DTSTART), moment(event, Property.DTEND))).isEqualTo(Duration.between(slot.start(), slot.end()));
                });
        mvc.perform(send("/floor/wall")).andExpect(redirectedUrl("/floor/wall"));
        mvc.perform(get("/wall/" + key)).andExpect(status().isNotFound());
    }

    /** In the basic form of ISO 8601, in UTC. */
    private static Instant moment(CalendarComponent event, String property) {
        return Instant.from(DateTimeFormatter.ofPattern("uuuuMMdd'T'HHmmssX").parse(event.getProperty(property).orElseThrow().getValue()));
    }

    @Test
    void every_span_of_time_is_drawn_and_a_draft_is_drawn_as_it_would_be() throws Exception {
        Desk desk = plans.desk();
        assertThat(desk.plan()).isSameAs(desk.queues());
        for (Zoom zoom : Zoom.values()) {
            mvc.perform(open("/floor?span=" + zoom.code())).andExpect(content().string(allOf(containsString("Timeline of all printers, " + zoom.label()),
                    containsString("data-plate=\"%d\"".formatted(first)))));
        }
        put(third, printer, first);
        mvc.perform(open("/floor")).andExpect(content().string(allOf(containsString("◆ Draft"), containsString("waits moved"))));
        mvc.perform(send("/floor/draft/discard").param("seen", stand().mark())).andExpect(redirectedUrl("/floor"));
        assertThat(row()).containsExactly(first, second, third);
    }
}
