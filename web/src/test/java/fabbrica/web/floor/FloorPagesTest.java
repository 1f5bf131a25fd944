package fabbrica.web.floor;

import static fabbrica.web.Steps.open;
import static fabbrica.web.Steps.send;
import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;
import static org.hamcrest.Matchers.allOf;
import static org.hamcrest.Matchers.containsString;
import static org.hamcrest.Matchers.not;
import static org.springframework.security.test.web.servlet.request.SecurityMockMvcRequestPostProcessors.csrf;
import static org.springframework.security.test.web.servlet.request.SecurityMockMvcRequestPostProcessors.user;
import static org.springframework.test.web.servlet.request.MockMvcRequestBuilders.multipart;
import static org.springframework.test.web.servlet.result.MockMvcResultMatchers.content;
import static org.springframework.test.web.servlet.result.MockMvcResultMatchers.redirectedUrl;
import static org.springframework.test.web.servlet.result.MockMvcResultMatchers.status;

import fabbrica.core.mesh.model.Shapes;
import fabbrica.core.run.Defect;
import fabbrica.web.DemoLabTest;
import fabbrica.web.Steps;
import fabbrica.web.plan.Plates;
import fabbrica.web.platform.Refusal;
import fabbrica.web.platform.Seen;
import fabbrica.web.platform.storage.Sha256;
import fabbrica.web.stores.Condition;
import fabbrica.web.stores.Inventory;
import fabbrica.web.stores.Spools;
import fabbrica.web.stores.StockPrinter;
import fabbrica.web.ticket.TicketState;
import fabbrica.web.ticket.Tickets;
import java.time.Duration;
import java.time.Instant;
import java.util.HexFormat;
import java.util.List;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.springframework.beans.factory.annotation.Autowired;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.mock.web.MockMultipartFile;
import org.springframework.test.web.servlet.MockMvc;
import org.springframework.test.web.servlet.request.MockHttpServletRequestBuilder;
import org.springframework.test.web.servlet.request.MockMultipartHttpServletRequestBuilder;
import org.springframework.transaction.support.TransactionTemplate;

@DemoLabTest
class FloorPagesTest {

    private static final String[] ALL_CHECKS = {"0", "1", "2", "3", "4"};

    @Autowired
    private MockMvc mvc;
    @Autowired
    private Steps steps;
    @Autowired
    private Tickets tickets;
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
    private TransactionTemplate transaction;

    private long plate;
    private long ticket;
    private long spool;

    @BeforeEach
    void queue() {
        spool = steps.spool("pla", 300);
        plate = steps.queued(Shapes.box(20, 20, 6), 1, steps.printer(), spool);
        ticket = steps.ticketOf(plate);
    }

    @Test
    void a_plate_waits_for_a_printer_that_is_expected_back_and_cannot_be_started_before() throws Exception {
        StockPrinter printer = inventory.printer(plates.plate(plate).plan().printerId()).orElseThrow();
        String start = "/floor/start/" + plate + "\"";
        mvc.perform(open("/floor")).andExpect(content().string(containsString(start)));
        inventory.change(printer, printer.with(Condition.down("fan rattles", Instant.now().plus(Duration.ofDays(1)))), "mira");
        mvc.perform(open("/floor")).andExpect(content().string(allOf(containsString("It is out of order: fan rattles, until "), not(containsString(start)))));
        mvc.perform(open("/floor/start/" + plate)).andExpect(content().string(containsString("is out of order: fan rattles.")));
        long second = steps.queued(Shapes.box(15, 15, 6), 1, printer.id(), spool);
        assertThat(plates.plate(second).waits()).isTrue();
        StockPrinter down = inventory.printer(printer.id()).orElseThrow();
        inventory.change(down, down.with(Condition.down("fan rattles", null)), "mira");
        assertThatThrownBy(() -> steps.queued(Shapes.box(16, 15, 6), 1, printer.id(), spool)).isInstanceOf(Refusal.class)
                .hasMessageContaining("out of order");
    }

    @Test
    void the_checklist_shows_the_cautions_and_wants_every_line_ticked() throws Exception {
        mvc.perform(open("/floor/start/" + plate)).andExpect(content().string(allOf(
                containsString("test white (spool no. "), containsString("fire risk"),
                containsString("The maker's manual"))));
        mvc.perform(start().param("checked", "0", "1")).andExpect(content().string(allOf(
                containsString("Tick every line once it is true"), containsString("value=\"1\" checked=\"checked\""),
                not(containsString("value=\"2\" checked=\"checked\"")))));
        assertThat(tickets.ticket(ticket).state()).isEqualTo(TicketState.QUEUED);
        mvc.perform(start().param("checked", ALL_CHECKS)).andExpect(redirectedUrl("/floor"));
        assertThat(tickets.ticket(ticket).state()).isEqualTo(TicketState.RUNNING);
    }

    @Test
    void a_start_sent_twice_is_refused_the_second_time() throws Exception {
        mvc.perform(start().param("checked", ALL_CHECKS)).andExpect(redirectedUrl("/floor"));
        mvc.perform(start().param("checked", ALL_CHECKS))
                .andExpect(status().isUnprocessableContent())
                .andExpect(content().string(containsString("it may have been started already")));
        assertThat(runs.ofTickets(List.of(ticket))).hasSize(1);
    }

    @Test
    void the_floor_shows_what_runs_until_when() throws Exception {
        steps.started(plate);
        mvc.perform(open("/floor")).andExpect(content().string(allOf(containsString("● warming up"),
                containsString("part.stl"), containsString("promised for"), containsString("class=\"bar runs\""))));
    }

    @Test
    void a_report_that_cannot_be_used_comes_back_as_it_was_filled_in() throws Exception {
        long run = steps.started(plate);
        mvc.perform(end(run).param("ended", "FAILED").param("minutes", "ten").param("grams", "-4")
                .param("note", "smelled odd")).andExpect(status().isOk()).andExpect(content().string(allOf(
                        containsString("Minutes takes a number; “ten” was given."),
                        containsString("Say what went wrong"), containsString("smelled odd"))));
        mvc.perform(end(run).param("minutes", "10").param("grams", "3")).andExpect(content().string(
                containsString("Say whether it came out well or failed.")));
        mvc.perform(end(run).param("ended", "WELL").param("minutes", "10").param("grams", "-4"))
                .andExpect(content().string(containsString("Grams must be between 0 and 100000 g; -4 was given.")));
        assertThat(runs.run(run).state()).isEqualTo(Run.State.RUNNING);
        assertThat(spools.spool(spool).orElseThrow().spool().remainingG()).isEqualTo(300);
    }

    @Test
    void a_photo_is_kept_with_the_run_and_anything_else_is_refused() throws Exception {
        long run = steps.started(plate);
        mvc.perform(end(run).file(new MockMultipartFile("photo", "p.svg", "image/svg+xml", new byte[10]))
                .param("ended", "WELL").param("minutes", "10").param("grams", "3")).andExpect(content().string(
                        containsString("A photo may be a JPEG, PNG or WebP")));
        mvc.perform(end(run).file(new MockMultipartFile("photo", "p.png", "image/png", new byte[] {1, 2, 3}))
                .param("ended", "FAILED").param("minutes", "10").param("grams", "3").param("defect", "STRINGS"))
                .andExpect(redirectedUrl("/tickets/" + ticket));
        assertThat(runs.run(run).defects()).containsExactly(Defect.STRINGS);
        mvc.perform(open("/floor/runs/" + run + "/photo")).andExpect(status().isOk())
                .andExpect(content().contentType("image/png")).andExpect(content().bytes(new byte[] {1, 2, 3}));
        mvc.perform(open("/floor")).andExpect(content().string(containsString("Failed, to be tried again")));
    }

    /** Of a form that was opened while it still printed. */
    @Test
    void what_was_proposed_and_not_touched_gives_way_to_what_the_machine_has_told_since() throws Exception {
        long run = steps.started(plate);
        String page = mvc.perform(open("/floor/runs/" + run + "/end")).andReturn().getResponse().getContentAsString();
        String minutes = value(page, "proposed-minutes"), grams = value(page, "proposed-grams");
        assertThat(value(page, "minutes")).isEqualTo(minutes);
        transaction.executeWithoutResult(status -> jdbc.sql("""
                update machine_file set layers = 20, layer = 20, filament_mm = 1000, over_at = 1, whole = 1, seconds = 5400 where run_id = ?""").params(run).update());
        mvc.perform(end(run).param("ended", "WELL").param("proposed-minutes", minutes).param("minutes", minutes).param("proposed-grams", grams).param("grams", "1.5"))
                .andExpect(redirectedUrl("/tickets/" + ticket));
        assertThat(runs.run(run).realMinutes()).as("by the machine").isEqualTo(90);
        assertThat(runs.run(run).realG()).as("as it was weighed").isEqualTo(1.5);
    }

    private static String value(String page, String field) {
        Matcher value = Pattern.compile("<input[^>]*name=\"" + field + "\"[^>]* value=\"([^\"]*)\"").matcher(page);
        assertThat(value.find()).as(field).isTrue();
        return value.group(1);
    }

    @Test
    void a_run_that_has_ended_cannot_end_again() throws Exception {
        long run = steps.started(plate);
        mvc.perform(end(run).param("ended", "WELL").param("minutes", "12").param("grams", "2.5"))
                .andExpect(redirectedUrl("/tickets/" + ticket));
        mvc.perform(end(run).param("ended", "FAILED").param("minutes", "12").param("grams", "2.5")
                .param("cause", "second thoughts")).andExpect(status().isUnprocessableContent());
        assertThat(runs.run(run).state()).isEqualTo(Run.State.DONE);
        mvc.perform(open("/floor/runs/" + run + "/end")).andExpect(content().string(
                containsString("already been marked as ended")));
        mvc.perform(open("/floor/runs/" + run + "/photo")).andExpect(status().isNotFound());
    }

    @Test
    void an_outcome_is_put_right_on_the_form_with_its_reason() throws Exception {
        long run = steps.started(plate);
        steps.end(run, RunEnd.Outcome.WELL, 12, 2.5);
        mvc.perform(open("/floor/runs/" + run + "/correct")).andExpect(content().string(containsString("value=\"2.5\"")));
        mvc.perform(end(run).param("ended", "FAILED").param("minutes", "12").param("grams", "2.5").param("cause", "split later").param("why", ""))
                .andExpect(content().string(allOf(containsString("Say why the outcome is corrected."), containsString("split later"))));
        assertThat(runs.run(run).state()).isEqualTo(Run.State.DONE);
        mvc.perform(end(run).param("ended", "FAILED").param("minutes", "12").param("grams", "2.5").param("cause", "split later")
                .param("why", "seen on the shelf")).andExpect(status().is3xxRedirection());
        assertThat(runs.run(run).state()).isEqualTo(Run.State.FAILED);
        mvc.perform(open("/floor/runs/" + run)).andExpect(content().string(allOf(containsString("split later"),
                containsString("Lay what failed on a plate again"))));
    }

    @Test
    void a_run_keeps_the_hash_of_the_file_that_was_handed_out_for_its_plate() throws Exception {
        byte[] file = mvc.perform(open("/plates/" + plate + "/gcode")).andExpect(status().isOk()).andReturn().getResponse().getContentAsByteArray();
        long run = steps.started(plate);
        assertThat(jdbc.sql("select file_hash from run where id = ?").params(run).query(String.class).single())
                .isEqualTo(HexFormat.of().formatHex(Sha256.digest().digest(file)));
    }

    @Test
    void more_plastic_than_the_spool_held_is_questioned() throws Exception {
        long run = steps.started(steps.queued(Shapes.box(20, 20, 8), 1, steps.printer(), steps.spool("pla", 300)));
        mvc.perform(end(run).param("ended", "WELL").param("minutes", "30").param("grams", "450"))
                .andExpect(content().string(containsString("The spool held 300 g; 450 g is more.")));
        assertThat(runs.run(run).state()).isEqualTo(Run.State.RUNNING);
        mvc.perform(end(run).param("ended", "WELL").param("minutes", "30").param("grams", "450").param("sure", "on"))
                .andExpect(status().is3xxRedirection());
        assertThat(runs.run(run).realG()).isEqualTo(450);
    }

    private MockHttpServletRequestBuilder start() {
        return send("/floor/start/" + plate).param("seen", Seen.of(plates.plate(plate)));
    }

    private static MockMultipartHttpServletRequestBuilder end(long run) {
        return (MockMultipartHttpServletRequestBuilder) multipart("/floor/runs/" + run + "/end")
                .with(user("mira").roles("COORDINATOR")).with(csrf());
    }
}
