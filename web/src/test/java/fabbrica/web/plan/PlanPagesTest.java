package fabbrica.web.plan;

import static fabbrica.web.Steps.open;
import static fabbrica.web.Steps.send;
import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;
import static org.hamcrest.Matchers.containsString;
import static org.hamcrest.Matchers.not;
import static org.springframework.security.test.web.servlet.request.SecurityMockMvcRequestPostProcessors.csrf;
import static org.springframework.security.test.web.servlet.request.SecurityMockMvcRequestPostProcessors.user;
import static org.springframework.test.web.servlet.request.MockMvcRequestBuilders.multipart;
import static org.springframework.test.web.servlet.result.MockMvcResultMatchers.content;
import static org.springframework.test.web.servlet.result.MockMvcResultMatchers.header;
import static org.springframework.test.web.servlet.result.MockMvcResultMatchers.jsonPath;
import static org.springframework.test.web.servlet.result.MockMvcResultMatchers.status;

import fabbrica.core.gcode.GcodeFile;
import fabbrica.core.mesh.model.LevelSet;
import fabbrica.core.mesh.model.Shapes;
import fabbrica.core.recipe.BuiltIn;
import fabbrica.core.recipe.LineWork;
import fabbrica.core.recipe.Printer;
import fabbrica.core.recipe.Recipe;
import fabbrica.core.recipe.StartingPoint;
import fabbrica.core.recipe.Supports;
import fabbrica.core.recipe.Zone;
import fabbrica.core.toolpath.Toolpath;
import fabbrica.core.units.Progress;
import fabbrica.web.DemoLabTest;
import fabbrica.web.Steps;
import fabbrica.web.account.Member;
import fabbrica.web.account.Members;
import fabbrica.web.platform.Estimator;
import fabbrica.web.platform.FormValues;
import fabbrica.web.stores.Inventory;
import fabbrica.web.ticket.Plan;
import fabbrica.web.ticket.PlanForm;
import fabbrica.web.ticket.Planning;
import fabbrica.web.ticket.Purpose;
import fabbrica.web.ticket.Ticket;
import fabbrica.web.ticket.Tickets;
import java.io.ByteArrayOutputStream;
import java.nio.ByteBuffer;
import java.nio.ByteOrder;
import java.util.List;
import org.junit.jupiter.api.Test;
import org.springframework.beans.factory.annotation.Autowired;
import org.springframework.mock.web.MockMultipartFile;
import org.springframework.test.web.servlet.MockMvc;

@DemoLabTest
class PlanPagesTest {

    @Autowired
    private MockMvc mvc;
    @Autowired
    private Steps steps;
    @Autowired
    private Tickets tickets;
    @Autowired
    private Planning planning;
    @Autowired
    private Members members;
    @Autowired
    private Inventory inventory;
    @Autowired
    private Estimator estimator;

    @Test
    void a_plan_comes_back_from_its_form_as_it_was() {
        Zone dense = Zone.box(1, 2, 0, 10.5, 8, 4).withInfill(0.6), open = Zone.box(0, 0, 5, 5, 5, 9).withClosed(0, 2)
                .with(Zone.Support.BLOCKED);
        Recipe recipe = steps.everyday().with(Supports.of(Supports.Where.EVERYWHERE).withAngle(50)).with(new LineWork(
                LineWork.Seam.REAR, true, false, false, 30, 2, 1.2, 0.15, true, List.of(4.0, 12.5), 150, List.of(dense, open)));
        assertThat(PlanForm.read(new FormValues(with(recipe))).orElseThrow().recipe()).isEqualTo(recipe);
    }

    @Test
    void boxes_change_what_a_plan_takes_and_impossible_ones_are_refused_in_place() throws Exception {
        long id = steps.accepted(Shapes.box(20, 20, 10), 1);
        Recipe plain = steps.everyday();
        Recipe boxed = plain.with(plain.lines().withZones(List.of(Zone.box(0, 0, 0, 20, 20, 10).withInfill(1))));
        Plan plan = new Plan(StartingPoint.DAILY_BREAD, boxed, "door", 1L, false);
        assertThat(grams(id, boxed)).isGreaterThan(1.5 * grams(id, plain));
        String preview = "/tickets/" + id + "/plan/preview?" + PlanForm.query(plan);
        mvc.perform(open(preview.replace("boxRight=20", "boxRight=0")))
                .andExpect(content().string(containsString("A box needs some width, depth and height.")));
        mvc.perform(open(preview.replace("boxTo=10", "boxTo=high")))
                .andExpect(content().string(containsString("Box 1, to takes a number; “high” was given.")));
        mvc.perform(open("/tickets/" + id + "/sheet")).andExpect(content().string(containsString("data-view=\"front\"")))
                .andExpect(content().string(containsString("data-width=\"20.000\" data-height=\"10.000\"")));
    }

    private double grams(long id, Recipe recipe) {
        Ticket ticket = tickets.ticket(id);
        Planning.Question question = planning.question(ticket, inventory.printer("door").orElseThrow().printer(), recipe,
                BuiltIn.PLA);
        return estimator.await(question.request()).grams();
    }

    @Test
    void impossible_values_are_refused_in_place_with_what_is_allowed() throws Exception {
        long id = steps.accepted(Shapes.box(20, 20, 10), 1);
        String preview = "/tickets/" + id + "/plan/preview?" + query(steps.everyday(), "door", 1);
        mvc.perform(open(preview.replace("supportAngle=45", "supportAngle=95")))
                .andExpect(content().string(containsString("Support angle must be between 0 and 89 °; 95 was given.")));
        mvc.perform(open(preview.replace("changes=", "changes=soon")))
                .andExpect(content().string(containsString("Filament changes are heights in mm")));
        mvc.perform(open(preview.replace("layerHeight=0.2", "layerHeight=0.35")))
                .andExpect(content().string(containsString("outside the 0.4 mm nozzle&#39;s window (0.08 to 0.28 mm)")));
        mvc.perform(open(preview.replace("lineWidth=0.42", "lineWidth=0")))
                .andExpect(content().string(containsString("Line width must be between")));
    }

    @Test
    void the_layers_come_as_an_outline_and_one_by_one() throws Exception {
        long id = steps.accepted(Shapes.box(20, 20, 4), 1);
        String query = query(steps.everyday(), "door", 1);
        mvc.perform(open("/tickets/" + id + "/layers?" + query)).andExpect(status().isOk())
                .andExpect(content().string(containsString("20 layers for Door bench")));
        mvc.perform(open("/tickets/" + id + "/layers/outline?" + query)).andExpect(jsonPath("$.tops.length()").value(20))
                .andExpect(jsonPath("$.seconds.length()").value(20)).andExpect(jsonPath("$.tops[0]").value("0.24"));
        byte[] layer = mvc.perform(open("/tickets/" + id + "/layers/5?" + query)).andReturn().getResponse().getContentAsByteArray();
        ByteBuffer data = ByteBuffer.wrap(layer).order(ByteOrder.LITTLE_ENDIAN);
        int paths = 0;
        while (data.hasRemaining()) {
            data.position(data.position() + 20);
            int points = data.getInt();
            assertThat(points).isGreaterThan(1);
            data.position(data.position() + 8 * points);
            paths++;
        }
        assertThat(paths).isGreaterThan(5);
        assertThat(mvc.perform(open("/tickets/" + id + "/layers/stack?" + query)).andReturn().getResponse()
                .getContentAsByteArray().length % 28).isZero();
    }

    @Test
    void layers_that_take_a_while_are_asked_for_until_they_are_laid_and_can_be_stopped() throws Exception {
        long id = steps.accepted(LevelSet.gyroid(30, 40), 1);
        String address = "/tickets/" + id + "/layers", query = "?" + query(steps.everyday(), "door", 1);
        mvc.perform(send(address + "/stop" + query)).andExpect(content().string(containsString("Begin again")));
        String refresh = null;
        for (int tries = 0; tries < 200 && refresh == null; tries++) {
            refresh = mvc.perform(open(address + "/ready" + query)).andExpect(status().isOk()).andReturn().getResponse()
                    .getHeader("HX-Refresh");
        }
        assertThat(refresh).isEqualTo("true");
        mvc.perform(open(address + query)).andExpect(content().string(containsString("layers for Door bench")));
        mvc.perform(open(address + query)).andExpect(content().string(containsString("data-count=\"150\"")));
        mvc.perform(open(address + query.replace("printer=door", "printer=")))
                .andExpect(content().string(containsString("Choose a printer first.")));
    }

    @Test
    void the_quote_names_plastic_and_total_and_asks_for_a_spool_first() throws Exception {
        long id = steps.accepted(Shapes.box(20, 20, 4), 2), spool = steps.spool("pla", 500);
        mvc.perform(open("/tickets/" + id + "/quote?" + query(steps.everyday(), "door", spool)))
                .andExpect(content().string(containsString("2 copies"))).andExpect(content().string(containsString("Total")));
        mvc.perform(open("/tickets/" + id + "/quote?" + query(steps.everyday(), "door", spool).replaceFirst("spool=\\d+", "spool=")))
                .andExpect(status().isUnprocessableContent()).andExpect(content().string(containsString("Choose a spool first")));
    }

    @Test
    void a_member_of_a_class_is_quoted_its_rate() throws Exception {
        long id = steps.taken(Shapes.box(20, 20, 4)), spool = steps.spool("pla", 500);
        Member member = members.search("Bruno").getFirst();
        tickets.accept(tickets.ticket(id), new Ticket.Request(member.id(), Purpose.EVERYDAY, null, "", "", 1, "", ""), "mira");
        mvc.perform(send("/members/" + member.id()).param("name", member.name()).param("class", "Students"))
                .andExpect(status().is3xxRedirection());
        mvc.perform(open("/members/" + member.id())).andExpect(content().string(containsString("Guests")));
        mvc.perform(open("/tickets/" + id + "/quote?" + query(steps.everyday(), "door", spool)))
                .andExpect(content().string(containsString("Rate for Students"))).andExpect(content().string(containsString("50 %")));
        members.change(members.member(member.id()).orElseThrow(), member, "mira");
    }

    @Test
    void a_printer_that_was_levelled_lately_is_promised_sooner_and_its_file_does_not_level() throws Exception {
        long id = steps.accepted(Shapes.box(20, 20, 4), 1), spool = steps.spool("pla", 500);
        Plan full = new Plan(StartingPoint.DAILY_BREAD, steps.everyday(), "door", spool, false);
        Plan fresh = new Plan(StartingPoint.DAILY_BREAD, steps.everyday(), "door", spool, true);
        assertThat(PlanForm.read(new FormValues(values(fresh))).orElseThrow()).isEqualTo(fresh);
        double levelling = inventory.printer("door").orElseThrow().printer().preparation().levellingS();
        assertThat(planning.settle(tickets.ticket(id), full).totalSeconds()
                - planning.settle(tickets.ticket(id), fresh).totalSeconds()).isCloseTo(levelling, within(1e-6));
        mvc.perform(open("/tickets/" + id + "/gcode?" + PlanForm.query(full))).andExpect(content().string(containsString("\nG29\n")));
        mvc.perform(open("/tickets/" + id + "/gcode?" + PlanForm.query(fresh)))
                .andExpect(content().string(not(containsString("\nG29\n"))));
        mvc.perform(send("/tickets/" + id + "/plan?" + PlanForm.query(fresh))).andExpect(status().is3xxRedirection());
        assertThat(tickets.ticket(id).plan()).isEqualTo(fresh);
        assertThat(planning.prepareSeconds(tickets.ticket(id)))
                .isEqualTo(planning.settle(tickets.ticket(id), fresh).prepareSeconds());
    }

    private static org.springframework.util.MultiValueMap<String, String> values(Plan plan) {
        var values = with(plan.recipe());
        values.set("printer", plan.printerId());
        values.set("spool", plan.spoolId().toString());
        values.set("start", plan.start().code());
        if (plan.fresh()) {
            values.set("fresh", "on");
        }
        return values;
    }

    @Test
    void a_file_is_only_written_for_a_printer_that_can_do_it() throws Exception {
        long holed = steps.accepted(Shapes.without(Shapes.box(20, 20, 4), 1), 1), good = steps.accepted(Shapes.box(20, 20, 4), 1);
        long abs = steps.spool("abs", 500);
        mvc.perform(open("/tickets/" + holed + "/gcode?" + query(steps.everyday(), "door", 1)))
                .andExpect(content().string(containsString("a finding that stops the print")));
        mvc.perform(open("/tickets/" + good + "/gcode?" + query(steps.everyday(), "door", abs)))
                .andExpect(content().string(containsString("ABS is not allowed on this printer.")));
        mvc.perform(open("/tickets/" + good + "/gcode?" + query(steps.everyday(), "door", 1)))
                .andExpect(header().string("Content-Disposition", containsString("ticket-" + good + "-part_door-bench_pla_0h")))
                .andExpect(content().string(containsString("; Ticket " + good)))
                .andExpect(content().string(containsString("Try it on this very machine first")));
    }

    @Test
    void the_trade_table_fills_and_can_be_stopped() throws Exception {
        long id = steps.accepted(Shapes.box(25, 20, 4), 1);
        String query = query(steps.everyday(), "door", 1);
        mvc.perform(send("/tickets/" + id + "/trade/stop?" + query))
                .andExpect(content().string(not(containsString("still being worked out"))));
        String page = "";
        for (int i = 0; i < 300 && !page.contains("layers of 0.28 mm"); i++) {
            page = mvc.perform(open("/tickets/" + id + "/trade?" + query)).andReturn().getResponse().getContentAsString();
            Thread.sleep(100);
        }
        assertThat(page).contains("as planned").contains("layers of 0.28 mm").contains("fastest that still looks right");
        mvc.perform(send("/tickets/" + id + "/trade/use?" + query).param("way", "layers of 0.28 mm"))
                .andExpect(header().string("HX-Redirect", containsString("layerHeight=0.28")));
        mvc.perform(send("/tickets/" + id + "/trade/use?" + query).param("way", "by magic"))
                .andExpect(content().string(containsString("no longer offered")));
    }

    @Test
    void whatever_is_handed_over_as_sliced_gets_a_clear_answer() throws Exception {
        long id = steps.accepted(Shapes.box(20, 20, 4), 1);
        String address = "/tickets/" + id + "/sliced";
        mvc.perform(multipart(address).file(new MockMultipartFile("file", "junk.gcode", "text/plain", new byte[5000])).param("token", "junk")
                .with(user("mira").roles("COORDINATOR")).with(csrf())).andExpect(status().is3xxRedirection());
        mvc.perform(open(address)).andExpect(content().string(containsString("The file lays no line of plastic.")))
                .andExpect(content().string(containsString("■ Not for Door bench")));
        mvc.perform(multipart(address).file(new MockMultipartFile("file", "empty.gcode", "text/plain", new byte[0])).param("token", "empty")
                .with(user("mira").roles("COORDINATOR")).with(csrf()))
                .andExpect(content().string(containsString("The file is empty.")));
        mvc.perform(multipart(address).file(new MockMultipartFile("file", "line.gcode", "text/plain", new byte[5 << 20])).param("token", "line")
                .with(user("mira").roles("COORDINATOR")).with(csrf()))
                .andExpect(content().string(containsString("Line 1 is longer than 4 MB: this is no G-code.")));
    }

    @Test
    void a_sliced_file_handed_over_at_the_counter_is_judged_for_every_printer_and_spool() throws Exception {
        Printer door = inventory.printer("door").orElseThrow().printer();
        ByteArrayOutputStream file = new ByteArrayOutputStream();
        new GcodeFile(Toolpath.of(Shapes.box(20, 20, 3), steps.everyday(), Progress.IGNORED), steps.everyday(), door,
                BuiltIn.PLA, 50, 50, List.of("from home")).write(file);
        String next = mvc.perform(multipart("/counter").file(new MockMultipartFile("file", "C:\\prints\\stick.gcode",
                "text/plain", file.toByteArray())).param("token", "t").with(user("mira").roles("COORDINATOR")).with(csrf()))
                .andExpect(status().is3xxRedirection()).andReturn().getResponse().getRedirectedUrl();
        assertThat(next).startsWith("/sliced/");
        mvc.perform(open(next)).andExpect(content().string(containsString("with <span>PLA</span> on the spool")));
        long pla = steps.spool("pla", 500), petg = steps.spool("petg", 500);
        mvc.perform(open(next + "?spool=" + pla)).andExpect(content().string(containsString("● For Door bench")))
                .andExpect(content().string(containsString("stick.gcode")));
        mvc.perform(open(next + "?spool=" + petg)).andExpect(content().string(containsString("PETG")))
                .andExpect(content().string(containsString("heats the nozzle to 210 °C")));
        mvc.perform(open(next + "/layers?printer=door")).andExpect(content().string(containsString("15 layers for Door bench")));
        mvc.perform(open(next + "/layers/outline?printer=door")).andExpect(jsonPath("$.tops.length()").value(15));
        mvc.perform(open("/counter")).andExpect(content().string(containsString("Sliced elsewhere, without a ticket")));
        mvc.perform(open("/sliced/999999")).andExpect(status().isNotFound());
    }

    private static org.springframework.util.MultiValueMap<String, String> with(Recipe recipe) {
        var values = PlanForm.values(recipe);
        values.set("printer", "door");
        values.set("spool", "1");
        return values;
    }

    private static String query(Recipe recipe, String printer, long spool) {
        return PlanForm.query(new Plan(StartingPoint.DAILY_BREAD, recipe, printer, spool, false));
    }
}
