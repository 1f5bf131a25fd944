package fabbrica.web.ticket;

import static fabbrica.web.Steps.open;
import static fabbrica.web.Steps.send;
import static org.assertj.core.api.Assertions.assertThat;
import static org.hamcrest.Matchers.allOf;
import static org.hamcrest.Matchers.containsString;
import static org.hamcrest.Matchers.matchesPattern;
import static org.hamcrest.Matchers.not;
import static org.springframework.test.web.servlet.result.MockMvcResultMatchers.content;
import static org.springframework.test.web.servlet.result.MockMvcResultMatchers.redirectedUrl;
import static org.springframework.test.web.servlet.result.MockMvcResultMatchers.status;

import fabbrica.core.mesh.model.Shapes;
import fabbrica.core.units.LengthUnit;
import fabbrica.web.DemoLabTest;
import fabbrica.web.Steps;
import fabbrica.web.account.Members;
import fabbrica.web.platform.Inspections;
import fabbrica.web.platform.Seen;
import java.util.Collections;
import java.util.concurrent.ExecutorService;
import java.util.concurrent.Executors;
import java.util.concurrent.Future;
import org.junit.jupiter.api.Test;
import org.springframework.beans.factory.annotation.Autowired;
import org.springframework.test.web.servlet.MockMvc;
import org.springframework.test.web.servlet.request.MockHttpServletRequestBuilder;

@DemoLabTest
class TicketPagesTest {

    @Autowired
    private Inspections inspections;
    @Autowired
    private MockMvc mvc;
    @Autowired
    private Steps steps;
    @Autowired
    private Tickets tickets;
    @Autowired
    private Members members;

    @Test
    void the_verdict_does_its_arithmetic_aloud() throws Exception {
        long id = steps.taken(Shapes.box(40, 30, 20));
        mvc.perform(open("/tickets/" + id)).andExpect(status().isOk()).andExpect(content().string(allOf(
                containsString("● Prints"), containsString("40 × 30 × 20 mm"), containsString("1.57 × 1.18 × 0.79 in"),
                containsString("24 cm³"), containsString("52 cm²"), containsString("● closed"))));
    }

    @Test
    void a_part_that_stops_says_why_and_how_large_it_could_be() throws Exception {
        long holed = steps.taken(Shapes.without(Shapes.box(40, 30, 20), 3));
        mvc.perform(open("/tickets/" + holed)).andExpect(content().string(allOf(
                containsString("■ Does not print as it is"), containsString("open along 3 edges"),
                containsString("■ open along 3 edges"))));
        long huge = steps.taken(Shapes.box(600, 600, 20));
        mvc.perform(open("/tickets/" + huge)).andExpect(content().string(allOf(
                containsString("Too big for every printer of the lab."), containsString("fits 0 of"),
                containsString("Largest scale"))));
    }

    @Test
    void a_tilted_bar_is_turned_and_the_angle_is_said() throws Exception {
        long bar = steps.taken(Shapes.box(270, 12, 10));
        mvc.perform(open("/tickets/" + bar)).andExpect(content().string(containsString("Fits turned by ")));
    }

    @Test
    void names_of_files_and_notes_are_never_markup() throws Exception {
        long id = steps.taken(Shapes.box(20, 20, 20));
        mvc.perform(send("/tickets/" + id + "/request").param("quantity", "1").param("source", "<script>alert(1)"))
                .andExpect(redirectedUrl("/tickets/" + id));
        mvc.perform(open("/tickets/" + id)).andExpect(content().string(allOf(
                containsString("&lt;script&gt;alert(1)"), not(containsString("<script>alert(1)")))));
    }

    @Test
    void first_estimates_come_for_every_printer_that_fits() throws Exception {
        long id = steps.taken(Shapes.box(200, 200, 4));
        String table = "";
        for (int tries = 0; tries < 100 && !table.contains("If started next") | table.contains("<progress"); tries++) {
            table = mvc.perform(open("/tickets/" + id + "/estimates")).andReturn().getResponse().getContentAsString();
            Thread.sleep(100);
        }
        assertThat(table).contains("Door bench", "Long table", "Glass house").doesNotContain("Window bench");
        assertThat(table).contains("printed by", " g</td>", " EUR</td>");
    }

    @Test
    void a_size_that_is_none_changes_nothing() throws Exception {
        long id = steps.taken(Shapes.box(20, 20, 20));
        mvc.perform(send("/tickets/" + id + "/size").param("unit", "mm").param("scale", "half"))
                .andExpect(status().isUnprocessableContent())
                .andExpect(content().string(containsString("Scale takes a number; “half” was given.")));
        mvc.perform(send("/tickets/" + id + "/size").param("unit", "furlong").param("scale", "100"))
                .andExpect(content().string(containsString("Choose a unit from the list.")));
        mvc.perform(send("/tickets/" + id + "/size").param("unit", "mm").param("scale", "0"))
                .andExpect(content().string(containsString("Scale must be between 0.01 and 100000 %")));
        assertThat(tickets.ticket(id).scalePercent()).isEqualTo(100);
        mvc.perform(send("/tickets/" + id + "/size").param("unit", "in").param("scale", "50"))
                .andExpect(redirectedUrl("/tickets/" + id));
        assertThat(tickets.ticket(id).unit()).isEqualTo(LengthUnit.INCH);
        assertThat(inspections.of(tickets.ticket(id).part()).bounds().sizeX()).isEqualTo(254);
    }

    @Test
    void what_was_typed_survives_a_refusal() throws Exception {
        long id = steps.taken(Shapes.box(20, 20, 20));
        mvc.perform(request(id, "accept").param("neededBy", "1999-12-31T23:00").param("quantity", "0")
                .param("purpose", "DISPLAY")).andExpect(status().isOk()).andExpect(content().string(allOf(
                        containsString("The needed-by moment lies in the past."),
                        containsString("a gift for the harbour"), containsString("1999-12-31T23:00"))));
        assertThat(tickets.ticket(id).state()).isEqualTo(TicketState.NEW);
    }

    @Test
    void numbers_of_copies_have_their_limits() throws Exception {
        long id = steps.taken(Shapes.box(20, 20, 20));
        for (String wrong : new String[] {"0", "-3", "2.5", "many", "", "100000"}) {
            mvc.perform(request(id, "accept").param("quantity", wrong).param("purpose", "DISPLAY"))
                    .andExpect(content().string(containsString("Quantity")));
            assertThat(tickets.ticket(id).state()).isEqualTo(TicketState.NEW);
        }
    }

    @Test
    void a_new_member_is_added_with_the_ticket_and_found_again_by_name() throws Exception {
        long first = steps.taken(Shapes.box(20, 20, 20)), second = steps.taken(Shapes.box(20, 20, 21));
        mvc.perform(request(first, "accept").param("quantity", "1").param("purpose", "DISPLAY")
                .param("memberName", "Ilse Venn").param("newMember", "on").param("minor", "on")
                .param("grownUp", "Rolf Venn")).andExpect(redirectedUrl("/tickets/" + first));
        mvc.perform(request(second, "accept").param("quantity", "1").param("purpose", "DISPLAY")
                .param("memberName", "ilse venn")).andExpect(redirectedUrl("/tickets/" + second));
        assertThat(members.search("Ilse Venn")).singleElement().satisfies(member -> {
            assertThat(member.lacksGrownUp()).isFalse();
            assertThat(tickets.ofMember(member.id())).hasSize(2);
        });
    }

    @Test
    void a_decision_without_a_reason_is_refused_and_what_was_typed_is_shown_again() throws Exception {
        long id = steps.taken(Shapes.box(20, 20, 20));
        for (String decision : new String[] {"send-back", "decline"}) {
            mvc.perform(request(id, decision).param("quantity", "2"))
                    .andExpect(content().string(allOf(containsString("give a reason"), containsString("a gift for the harbour"))));
        }
        assertThat(tickets.ticket(id).state()).isEqualTo(TicketState.NEW);
        assertThat(tickets.ticket(id).request().quantity()).isEqualTo(1);
    }

    @Test
    void what_is_asked_for_is_kept_with_the_decision() throws Exception {
        long id = steps.taken(Shapes.box(20, 20, 20));
        mvc.perform(request(id, "send-back").param("quantity", "2").param("why", "too thin"))
                .andExpect(redirectedUrl("/tickets/" + id));
        assertThat(tickets.ticket(id).request().quantity()).isEqualTo(2);
    }

    @Test
    void a_refused_step_adds_nobody() throws Exception {
        long id = steps.taken(Shapes.box(20, 20, 20));
        String old = Seen.of(tickets.ticket(id));
        tickets.resize(tickets.ticket(id), LengthUnit.INCH, 100, "tomas");
        mvc.perform(request(id, "accept").param("quantity", "1").param("purpose", "EVERYDAY").param("memberName", "Ilse Nobody")
                .param("newMember", "on").param("seen", old)).andExpect(content().string(allOf(
                        containsString("has been changed since the page was opened"), containsString("Ilse Nobody"))));
        assertThat(members.named("Ilse Nobody")).isEmpty();
        assertThat(tickets.ticket(id).state()).isEqualTo(TicketState.NEW);
    }

    @Test
    void ten_clicks_at_once_take_a_model_apart_once() throws Exception {
        long id = steps.taken(Shapes.together(Shapes.box(20, 20, 20), Shapes.box(5, 6, 7).moved(40, 0, 0)));
        String seen = Seen.of(tickets.ticket(id));
        int before = tickets.inStates(TicketState.NEW).size();
        try (ExecutorService clicks = Executors.newFixedThreadPool(10)) {
            for (Future<?> click : clicks.invokeAll(Collections.nCopies(10, () -> mvc.perform(
                    send("/tickets/" + id + "/gauge/split").param("seen", seen)).andReturn()))) {
                click.get();
            }
        }
        assertThat(tickets.inStates(TicketState.NEW)).hasSize(before + 1);
    }

    @Test
    void a_purpose_the_page_does_not_offer_is_refused() throws Exception {
        long id = steps.taken(Shapes.box(20, 20, 20));
        mvc.perform(request(id, "accept").param("quantity", "1").param("purpose", "WORLD_PEACE"))
                .andExpect(status().isBadRequest());
        assertThat(tickets.ticket(id).state()).isEqualTo(TicketState.NEW);
    }

    @Test
    void a_purpose_brings_its_caution_and_its_starting_point() throws Exception {
        long id = steps.taken(Shapes.box(20, 20, 20));
        mvc.perform(request(id, "accept").param("quantity", "1").param("purpose", "LOAD_BEARING")
                .param("memberName", "June Abara")).andExpect(redirectedUrl("/tickets/" + id));
        mvc.perform(open("/tickets/" + id)).andExpect(content().string(allOf(
                containsString("not load-rated"), matchesPattern("(?s).*value=\"work-horse\"[^>]*checked=.*"))));
    }

    @Test
    void a_part_of_a_name_finds_a_member_and_their_tickets() throws Exception {
        long id = steps.taken(Shapes.box(20, 20, 20));
        mvc.perform(request(id, "accept").param("quantity", "1").param("purpose", "EVERYDAY").param("memberName", "abar"))
                .andExpect(redirectedUrl("/tickets/" + id));
        mvc.perform(open("/counter/search").param("words", "june " + id)).andExpect(content().string(allOf(containsString("no. " + id), containsString("June Abara"))));
        mvc.perform(open("/counter/search").param("words", "june no-such-thing")).andExpect(content().string(containsString("There is none.")));
        mvc.perform(open("/counter/search")).andExpect(status().isOk());
        long other = steps.taken(Shapes.box(20, 20, 21));
        mvc.perform(request(other, "accept").param("quantity", "1").param("purpose", "EVERYDAY").param("memberName", "in"))
                .andExpect(content().string(containsString("Write more of the name.")));
    }

    @Test
    void a_recipe_that_is_none_is_refused_in_place_with_the_allowed_range() throws Exception {
        long id = steps.accepted(Shapes.box(20, 20, 20), 1);
        mvc.perform(plan(id, "0.2", "120")).andExpect(content().string(
                containsString("Infill must be between 0 and 100 %; 120 was given.")));
        mvc.perform(plan(id, "thin", "15")).andExpect(content().string(
                containsString("Layer height takes a number; “thin” was given.")));
        mvc.perform(plan(id, "0.38", "15")).andExpect(content().string(
                containsString("outside the 0.4 mm nozzle&#39;s window")));
    }

    private static MockHttpServletRequestBuilder plan(long id, String layer, String infill) {
        return send("/tickets/" + id + "/plan/preview").param("layerHeight", layer).param("firstLayerHeight", "0.24")
                .param("lineWidth", "0.42").param("walls", "3").param("top", "4").param("bottom", "3")
                .param("infill", infill).param("pattern", "lines").param("adhesion", "skirt").param("speed", "80").param("supports", "none")
                .param("start", "daily-bread").param("printer", "door").param("spool", "1");
    }

    private static MockHttpServletRequestBuilder request(long id, String step) {
        return send("/tickets/" + id + "/" + step).param("source", "a gift for the harbour");
    }
}
