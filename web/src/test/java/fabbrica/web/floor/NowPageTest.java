package fabbrica.web.floor;

import static fabbrica.web.Steps.open;
import static fabbrica.web.Steps.send;
import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;
import static org.hamcrest.Matchers.allOf;
import static org.hamcrest.Matchers.containsString;
import static org.hamcrest.Matchers.matchesPattern;
import static org.hamcrest.Matchers.not;
import static org.springframework.security.test.web.servlet.request.SecurityMockMvcRequestPostProcessors.csrf;
import static org.springframework.security.test.web.servlet.request.SecurityMockMvcRequestPostProcessors.user;
import static org.springframework.test.web.servlet.request.MockMvcRequestBuilders.post;
import static org.springframework.test.web.servlet.result.MockMvcResultMatchers.content;
import static org.springframework.test.web.servlet.result.MockMvcResultMatchers.flash;
import static org.springframework.test.web.servlet.result.MockMvcResultMatchers.redirectedUrl;

import fabbrica.core.mesh.model.Shapes;
import fabbrica.web.DemoLabTest;
import fabbrica.web.Steps;
import fabbrica.web.floor.RunEnd.Outcome;
import fabbrica.web.plan.LaidPlate;
import fabbrica.web.plan.Plates;
import fabbrica.web.platform.Seen;
import fabbrica.web.platform.events.Event;
import fabbrica.web.stores.Condition;
import fabbrica.web.stores.Inventory;
import fabbrica.web.stores.Lab;
import fabbrica.web.stores.SpoolEntry;
import fabbrica.web.stores.Spools;
import fabbrica.web.stores.StockPrinter;
import fabbrica.web.ticket.TicketState;
import fabbrica.web.ticket.Tickets;
import java.time.Clock;
import java.time.Duration;
import java.time.Instant;
import java.util.List;
import java.util.Objects;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.springframework.beans.factory.annotation.Autowired;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.mock.web.MockHttpSession;
import org.springframework.test.web.servlet.MockMvc;
import org.springframework.transaction.support.TransactionTemplate;

/** What waits for whoever is on duty, and a machine that goes down in the middle of it. */
@DemoLabTest
class NowPageTest {

    @Autowired
    private MockMvc mvc;
    @Autowired
    private Steps steps;
    @Autowired
    private Tickets tickets;
    @Autowired
    private Round round;
    @Autowired
    private Runs runs;
    @Autowired
    private Plates plates;
    @Autowired
    private JdbcClient jdbc;
    @Autowired
    private Inventory inventory;
    @Autowired
    private Spools spools;
    @Autowired
    private Clock clock;
    @Autowired
    private TransactionTemplate transaction;

    private String printer;
    private long spool;
    private long plate;
    private long ticket;

    @BeforeEach
    void queue() {
        printer = steps.printer();
        inventory.change(stock(), stock().at("in the cellar", true), "mira");
        spool = steps.spool("pla", 300);
        plate = steps.queued(Shapes.box(20, 20, 6), 1, printer, spool);
        ticket = steps.ticketOf(plate);
    }

    private StockPrinter stock() {
        return inventory.printer(printer).orElseThrow();
    }

    private long overdue(Duration by) {
        long run = steps.started(plate);
        beganAgo(run, by.plusSeconds(Math.round(runs.run(run).promisedS())));
        return run;
    }

    private void beganAgo(long run, Duration ago) {
        Instant started = clock.instant().minus(ago);
        transaction.executeWithoutResult(status -> jdbc.sql("update run set started_at = ? where id = ?").params(started.toEpochMilli(), run).update());
    }

    @Test
    void places_come_in_the_order_of_the_way_round_the_room_and_those_nobody_named_after_them() {
        inventory.change(stock(), stock().at("zinc bench", true), "mira");
        String other = steps.printer();
        StockPrinter there = inventory.printer(other).orElseThrow();
        inventory.change(there, there.at("attic", true), "mira");
        steps.queued(Shapes.box(20, 20, 7), 1, other, steps.spool("pla", 300));
        assertThat(places("zinc bench", "attic")).as("by name").containsExactly("attic", "zinc bench");
        Lab lab = inventory.lab();
        inventory.change(lab, new Lab(lab.name(), lab.currency(), lab.zone(), lab.limitMb(), lab.tariff(), lab.policy(), lab.keeping(), List.of("Zinc bench")), "mira");
        assertThat(places("zinc bench", "attic")).containsExactly("zinc bench", "attic");
        assertThat(inventory.lab().round()).containsExactly("Zinc bench");
        inventory.change(inventory.lab(), lab, "mira");
    }

    private List<String> places(String... of) {
        return round.now().stops().stream().map(Round.Stop::place).filter(List.of(of)::contains).toList();
    }

    @Test
    void a_run_that_should_have_ended_asks_and_its_time_is_taken_from_when_it_should_not_from_when_somebody_came_by() throws Exception {
        long run = overdue(Duration.ofMinutes(35));
        mvc.perform(open("/now")).andExpect(content().string(allOf(containsString("in the cellar"), containsString("should have ended"),
                containsString("since 35 min"), containsString("/floor/runs/" + run + "/well"))));
        Run before = runs.run(run);
        String promised = Long.toString(Math.round(before.promisedS() / 60));
        mvc.perform(open("/floor/runs/" + run + "/end")).andExpect(content().string(allOf(containsString("It should have ended"),
                containsString("name=\"minutes\" value=\"" + promised + "\""))));
        mvc.perform(send("/floor/runs/" + run + "/well").param("seen", Seen.of(before)).param("from", "/now")).andExpect(redirectedUrl("/now"));
        Run ended = runs.run(run);
        assertThat(Objects.requireNonNull(ended.endedAt())).isBetween(before.promisedEnd().minusSeconds(31), before.promisedEnd().plusSeconds(31));
        assertThat(ended.realG()).isEqualTo(before.promisedG(), within(0.001));
        assertThat(tickets.ticket(ticket).state()).isEqualTo(TicketState.PRINTED);
        mvc.perform(open("/now")).andExpect(content().string(allOf(containsString("/tickets/" + ticket + "/hand-out"),
                not(containsString("/floor/runs/" + run + "/well")))));
    }

    @Test
    void a_first_layer_is_to_be_looked_at_once_it_is_laid_and_until_somebody_has() throws Exception {
        long run = steps.started(plate);
        mvc.perform(open("/now")).andExpect(content().string(not(containsString("/floor/runs/" + run + "/first-layer"))));
        beganAgo(run, Duration.ofSeconds(Math.round(runs.run(run).prepareS()) + 60));
        mvc.perform(open("/now")).andExpect(content().string(containsString("Look at the first layer of")));
        mvc.perform(send("/floor/runs/" + run + "/first-layer").param("seen", Seen.of(runs.run(run))).param("from", "/now")).andExpect(redirectedUrl("/now"));
        mvc.perform(open("/now")).andExpect(content().string(not(containsString("/floor/runs/" + run + "/first-layer"))));
        assertThat(runs.run(run).isToBeLookedAt(runs.run(run).startedAt().plus(Duration.ofHours(1)))).isFalse();
    }

    @Test
    void a_press_sent_twice_does_its_work_once_and_says_so() throws Exception {
        long run = overdue(Duration.ofMinutes(5));
        String seen = Seen.of(runs.run(run));
        mvc.perform(send("/floor/runs/" + run + "/well").param("seen", seen)).andExpect(redirectedUrl("/floor"));
        mvc.perform(send("/floor/runs/" + run + "/well").param("seen", seen).header("Host", "localhost")
                .header("Referer", "http://localhost/now")).andExpect(redirectedUrl("/now")).andExpect(flash().attribute("refused", containsString("Nothing was changed")));
        assertThat(runs.copies(List.of(run))).hasSize(1);
    }

    @Test
    void what_is_free_is_started_next_and_its_spool_is_to_be_taken_along() throws Exception {
        mvc.perform(open("/now")).andExpect(content().string(allOf(containsString("/floor/start/" + plate + "?from=/now\""),
                containsString("Take spool no. " + spools.spool(spool).orElseThrow().number()))));
        steps.started(plate);
        mvc.perform(open("/now")).andExpect(content().string(not(containsString("/floor/start/" + plate + "?"))));
    }

    @Test
    void a_spool_of_which_more_was_booked_than_it_still_holds_is_to_be_weighed_and_the_scales_figure_is_asked_for() throws Exception {
        spools.change(spools.spool(spool).orElseThrow(), new SpoolEntry(null, "pla", "test white", "rack 3", 300, 200.0, 1.75, "", 30, null, null, false),
                300, "", "mira");
        long run = steps.started(plate);
        steps.end(run, Outcome.WELL, 10, 140);
        mvc.perform(open("/now")).andExpect(content().string(not(containsString("/stores/spools/" + spool + "/weigh"))));
        long again = steps.started(steps.queued(Shapes.box(21, 20, 6), 1, printer, spool));
        steps.end(again, Outcome.WELL, 10, 20);
        mvc.perform(open("/now")).andExpect(content().string(allOf(containsString("/stores/spools/" + spool + "/weigh"), containsString("name=\"grossG\""))));
        mvc.perform(post("/stores/spools/" + spool + "/weigh").with(user("tomas").roles("HELPER")).with(csrf()).param("grossG", "345").param("from", "/now"))
                .andExpect(redirectedUrl("/now"));
        assertThat(spools.spool(spool).orElseThrow().spool().remainingG()).isEqualTo(145);
        mvc.perform(open("/now")).andExpect(content().string(not(containsString("/stores/spools/" + spool + "/weigh"))));
    }

    @Test
    void a_helper_puts_a_machine_out_of_order_sees_whom_that_hits_and_moves_it() throws Exception {
        String other = steps.printer();
        mvc.perform(post("/floor/printers/" + printer).with(user("tomas").roles("HELPER")).with(csrf()).param("down", "on").param("reason", ""))
                .andExpect(content().string(containsString("Say what is wrong with it")));
        mvc.perform(post("/floor/printers/" + printer).with(user("tomas").roles("HELPER")).with(csrf()).param("seen", Seen.of(stock()))
                .param("down", "on").param("reason", "belt torn")).andExpect(redirectedUrl("/floor/printers/" + printer));
        assertThat(stock().condition()).isEqualTo(Condition.down("belt torn", null));
        mvc.perform(open("/now")).andExpect(content().string(allOf(containsString("is out of order: belt torn"), containsString("One plate waits for it"))));
        mvc.perform(open("/floor/printers/" + printer)).andExpect(content().string(containsString("/plates/" + plate + "\"")));
        mvc.perform(open("/floor/plates/" + plate + "/elsewhere")).andExpect(content().string(containsString("value=\"" + other + "\"")));
        mvc.perform(post("/floor/plates/" + plate + "/move").with(user("tomas").roles("HELPER")).with(csrf()).param("seen", Seen.of(plates.plate(plate)))
                .param("printer", other)).andExpect(redirectedUrl("/floor/printers/" + printer));
        LaidPlate moved = plates.plate(plate);
        assertThat(moved.waits()).isTrue();
        assertThat(moved.plan().printerId()).isEqualTo(other);
        assertThat(Objects.requireNonNull(moved.promise()).printerId()).isEqualTo(other);
        assertThat(tickets.history(ticket)).extracting(Event::why).contains("moved to another printer; Test bench is out of order: belt torn");
        assertThat(tickets.ticket(ticket).state()).isEqualTo(TicketState.QUEUED);
    }

    @Test
    void a_plate_is_not_moved_where_it_does_not_fit_and_the_page_says_why() throws Exception {
        long wide = steps.queued(Shapes.box(200, 200, 2), 1, steps.printer(), steps.spool("pla", 900));
        mvc.perform(open("/floor/plates/" + wide + "/elsewhere")).andExpect(content().string(not(containsString("value=\"window\""))));
        mvc.perform(send("/floor/plates/" + wide + "/move").param("printer", "window")).andExpect(content().string(
                matchesPattern("(?s).*role=\"alert\".*bed.*")));
        assertThat(plates.plate(wide).waits()).isTrue();
    }

    @Test
    void a_machine_whose_day_of_return_has_come_is_asked_after() throws Exception {
        inventory.change(stock(), stock().with(Condition.down("spare part", clock.instant().minusSeconds(60))), "mira");
        mvc.perform(open("/now")).andExpect(content().string(containsString("should be in order again")));
        mvc.perform(send("/floor/printers/" + printer).param("seen", Seen.of(stock())).param("from", "/now")).andExpect(redirectedUrl("/now"));
        assertThat(stock().outOfOrder()).isFalse();
    }

    @Test
    void what_was_said_waits_for_the_page_it_leads_to_though_a_place_is_filled_anew_meanwhile() throws Exception {
        long ticket = steps.ticketOf(steps.queued(Shapes.box(30, 20, 10), 1, steps.printer(), steps.spool("pla", 500)));
        MockHttpSession session = new MockHttpSession();
        mvc.perform(send("/tickets/%d/withdraw".formatted(ticket)).session(session).param("seen", Seen.of(tickets.ticket(ticket))).param("why", "no longer needed"))
                .andExpect(flash().attributeExists("told"));
        String address = "/tickets/" + ticket, told = "role=\"status\"";
        mvc.perform(open(address).session(session).header("HX-Request", "true")).andExpect(content().string(not(containsString(told))));
        mvc.perform(open(address).session(session)).andExpect(content().string(containsString(told)));
        mvc.perform(open(address).session(session)).andExpect(content().string(not(containsString(told))));
    }
}
