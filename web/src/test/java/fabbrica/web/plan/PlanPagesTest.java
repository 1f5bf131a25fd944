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
import fabbrica.core.motion.Motion;
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
import fabbrica.web.platform.FormValues;
import fabbrica.web.platform.Seen;
import fabbrica.web.platform.Shop;
import fabbrica.web.stores.Inventory;
import fabbrica.web.ticket.Purpose;
import fabbrica.web.ticket.Ticket;
import fabbrica.web.ticket.Tickets;
import java.io.ByteArrayOutputStream;
import java.nio.ByteBuffer;
import java.nio.ByteOrder;
import java.util.List;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import org.junit.jupiter.api.Test;
import org.springframework.beans.factory.annotation.Autowired;
import org.springframework.mock.web.MockMultipartFile;
import org.springframework.test.web.servlet.MockMvc;
import org.springframework.test.web.servlet.request.MockHttpServletRequestBuilder;
import org.springframework.test.web.servlet.request.RequestPostProcessor;
import org.springframework.util.MultiValueMap;

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
    private Plans plans;
    @Autowired
    private Plates plates;
    @Autowired
    private Laying laying;
    @Autowired
    private Members members;
    @Autowired
    private Inventory inventory;
    @Autowired
    private Shop shop;

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
        assertThat(grams(id, boxed)).isGreaterThan(1.5 * grams(id, plain));
        mvc.perform(preview(id, boxed).with(changed("boxRight", "0")))
                .andExpect(content().string(containsString("A box needs some width, depth and height.")));
        mvc.perform(preview(id, boxed).with(changed("boxTo", "high")))
                .andExpect(content().string(containsString("Box 1, to takes a number; “high” was given.")));
        mvc.perform(open("/tickets/" + id + "/sheet")).andExpect(content().string(containsString("data-view=\"front\"")))
                .andExpect(content().string(containsString("data-width=\"20\" data-height=\"10\"")));
    }

    private double grams(long id, Recipe recipe) {
        Ticket ticket = tickets.ticket(id);
        Printer door = inventory.printer("door").orElseThrow().printer();
        return shop.await(new Shop.Request(laying.one(ticket.part(), laying.fit(ticket.part(), recipe, door), recipe), door, BuiltIn.PLA)).grams();
    }

    @Test
    void a_plan_that_is_queued_can_be_looked_at_and_queued_another_way() throws Exception {
        long id = steps.ticketOf(steps.queued(Shapes.box(22, 11, 10), 1, steps.printer(), steps.spool("pla", 500)));
        mvc.perform(open("/tickets/" + id)).andExpect(content().string(containsString("hx-trigger=\"intersect once\"")));
        mvc.perform(preview(id, steps.everyday())).andExpect(status().isOk()).andExpect(content().string(containsString("Queue it this way instead")));
    }

    @Test
    void impossible_values_are_refused_in_place_with_what_is_allowed() throws Exception {
        long id = steps.accepted(Shapes.box(20, 20, 10), 1);
        mvc.perform(preview(id, steps.everyday()).with(changed("supportAngle", "95")))
                .andExpect(content().string(containsString("Support beyond must be between 0 and 89 ° from vertical; 95 was given.")));
        mvc.perform(preview(id, steps.everyday()).with(changed("changeAt", "soon")))
                .andExpect(content().string(containsString("“Change filament at” takes heights in mm")));
        mvc.perform(preview(id, steps.everyday()).with(changed("layerHeight", "0.35")))
                .andExpect(content().string(containsString("outside the 0.4 mm nozzle&#39;s window (0.08 to 0.28 mm)")));
        mvc.perform(preview(id, steps.everyday()).with(changed("lineWidth", "0")))
                .andExpect(content().string(containsString("Line width must be between")));
    }

    @Test
    void the_layers_come_as_an_outline_and_one_by_one() throws Exception {
        long id = steps.accepted(Shapes.box(20, 20, 4), 1);
        String layers = plan(id, steps.everyday(), 1L) + "/layers";
        mvc.perform(open(layers)).andExpect(status().isOk())
                .andExpect(content().string(containsString("20 layers for Door bench")));
        mvc.perform(open(layers + "/outline")).andExpect(jsonPath("$.tops.length()").value(20))
                .andExpect(jsonPath("$.seconds.length()").value(20)).andExpect(jsonPath("$.tops[0]").value("0.24"));
        byte[] layer = mvc.perform(open(layers + "/5")).andReturn().getResponse().getContentAsByteArray();
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
        assertThat(mvc.perform(open(layers + "/stack")).andReturn().getResponse()
                .getContentAsByteArray().length % 28).isZero();
    }

    @Test
    void layers_that_take_a_while_are_asked_for_until_they_are_laid_and_can_be_stopped() throws Exception {
        long id = steps.accepted(LevelSet.gyroid(30, 40), 1);
        String address = plan(id, steps.everyday(), 1L) + "/layers";
        mvc.perform(send(address + "/stop")).andExpect(content().string(containsString("Begin again")));
        String refresh = null;
        for (int tries = 0; tries < 200 && refresh == null; tries++) {
            refresh = mvc.perform(open(address + "/ready")).andExpect(status().isOk()).andReturn().getResponse()
                    .getHeader("HX-Refresh");
        }
        assertThat(refresh).isEqualTo("true");
        mvc.perform(open(address)).andExpect(content().string(containsString("layers for Door bench")));
        mvc.perform(open(address)).andExpect(content().string(containsString("data-count=\"150\"")));
        mvc.perform(preview(id, steps.everyday()).with(changed("printer", "nowhere")))
                .andExpect(content().string(containsString("That printer or that spool is no longer in the stores.")));
        mvc.perform(open("/tickets/" + id + "/plans/999999/layers")).andExpect(status().isNotFound());
    }

    @Test
    void the_quote_names_plastic_and_total_and_asks_for_a_spool_first() throws Exception {
        long id = steps.accepted(Shapes.box(20, 20, 4), 2), spool = steps.spool("pla", 500);
        mvc.perform(open(plan(id, steps.everyday(), spool) + "/quote"))
                .andExpect(content().string(containsString("2 copies"))).andExpect(content().string(containsString("Total")));
        mvc.perform(open(plan(id, steps.everyday(), null) + "/quote"))
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
        mvc.perform(open(plan(id, steps.everyday(), spool) + "/quote"))
                .andExpect(content().string(containsString("Rate for Students"))).andExpect(content().string(containsString("50 %")));
        members.change(members.member(member.id()).orElseThrow(), member, "mira");
    }

    @Test
    void a_printer_that_was_levelled_lately_is_promised_sooner_and_its_file_does_not_level() throws Exception {
        long id = steps.accepted(Shapes.box(20, 20, 4), 1), spool = steps.spool("pla", 500);
        PlanEntry full = new PlanEntry(StartingPoint.DAILY_BREAD, steps.everyday(), "door", spool, false);
        PlanEntry fresh = new PlanEntry(StartingPoint.DAILY_BREAD, steps.everyday(), "door", spool, true);
        assertThat(PlanForm.read(new FormValues(values(fresh)))).contains(fresh);
        double levelling = inventory.printer("door").orElseThrow().printer().preparation().levellingS();
        assertThat(promise(id, full).raw().totalS() - promise(id, fresh).raw().totalS()).isCloseTo(levelling, within(1e-6));
        mvc.perform(open(plan(id, full) + "/gcode")).andExpect(content().string(containsString("\nG29\n")));
        mvc.perform(open(plan(id, fresh) + "/gcode")).andExpect(content().string(not(containsString("\nG29\n"))));
        mvc.perform(send("/tickets/" + id + "/plan").params(values(fresh)).param("seen", Seen.of(tickets.ticket(id))))
                .andExpect(status().is3xxRedirection());
        assertThat(plans.plan(tickets.ticket(id).planId()).entry()).isEqualTo(fresh);
        assertThat(plates.openOf(id)).singleElement().satisfies(plate -> assertThat(plate.promise().raw().totalS())
                .isCloseTo(promise(id, full).raw().totalS() - levelling, within(1e-6)));
    }

    private static MultiValueMap<String, String> values(PlanEntry plan) {
        MultiValueMap<String, String> values = with(plan.recipe());
        values.set("printer", plan.printerId());
        values.set("spool", plan.spoolId().toString());
        values.set("start", plan.start().code());
        if (plan.fresh()) {
            values.set("fresh", "on");
        }
        return values;
    }

    private Promise promise(long id, PlanEntry entry) {
        return planning.settle(tickets.ticket(id), plans.keep(entry)).promises().getFirst();
    }

    @Test
    void a_file_is_only_written_for_a_printer_that_can_do_it() throws Exception {
        long holed = steps.accepted(Shapes.without(Shapes.box(20, 20, 4), 1), 1), good = steps.accepted(Shapes.box(20, 20, 4), 1);
        long abs = steps.spool("abs", 500);
        mvc.perform(open(plan(holed, steps.everyday(), 1L) + "/gcode"))
                .andExpect(content().string(containsString("a finding that stops the print")));
        mvc.perform(open(plan(good, steps.everyday(), abs) + "/gcode"))
                .andExpect(content().string(containsString("ABS needs an enclosed printer.")));
        mvc.perform(open(plan(good, steps.everyday(), 1L) + "/gcode"))
                .andExpect(header().string("Content-Disposition", containsString("Ticket%20" + good + "%2C%20part%2C%20for%20Door%20bench.gcode")))
                .andExpect(content().string(containsString("; Ticket " + good)))
                .andExpect(content().string(containsString("Try it on this very machine first")));
    }

    @Test
    void the_trade_table_fills_and_can_be_stopped() throws Exception {
        long id = steps.accepted(Shapes.box(25, 20, 4), 1);
        String trade = plan(id, steps.everyday(), 1L) + "/trade";
        mvc.perform(send(trade + "/stop")).andExpect(content().string(not(containsString("still being worked out"))));
        String page = "";
        for (int i = 0; i < 600 && !page.contains("layers of 0.28 mm"); i++) {
            page = mvc.perform(open(trade)).andReturn().getResponse().getContentAsString();
            Thread.sleep(100);
        }
        assertThat(page).contains("as planned").contains("layers of 0.28 mm").contains("fastest that still looks right");
        String thick = page.substring(page.indexOf("layers of 0.28 mm"));
        Matcher use = Pattern.compile("/trade/use/(\\d+)").matcher(thick);
        assertThat(use.find()).isTrue();
        mvc.perform(send(trade + "/use/" + use.group(1)).param("seen", Seen.of(tickets.ticket(id))))
                .andExpect(header().string("HX-Redirect", containsString("plan=" + use.group(1))));
        assertThat(plans.plan(Long.parseLong(use.group(1))).recipe().layerHeightMm()).isEqualTo(0.28);
        mvc.perform(send(trade + "/use/999999")).andExpect(status().isNotFound());
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

    private static MultiValueMap<String, String> with(Recipe recipe) {
        MultiValueMap<String, String> values = PlanForm.values(recipe);
        values.set("printer", "door");
        values.set("spool", "1");
        return values;
    }

    /** @return the address of a plan of a ticket for the printer by the door, which is stored now */
    private String plan(long id, Recipe recipe, Long spool) {
        return plan(id, new PlanEntry(StartingPoint.DAILY_BREAD, recipe, "door", spool, false));
    }

    private String plan(long id, PlanEntry entry) {
        return "/tickets/" + id + "/plans/" + plans.keep(entry).id();
    }

    private static MockHttpServletRequestBuilder preview(long id, Recipe recipe) {
        return send("/tickets/" + id + "/plan/preview").params(with(recipe));
    }

    private static RequestPostProcessor changed(String field, String value) {
        return request -> {
            request.setParameter(field, value);
            return request;
        };
    }
}
