package fabbrica.web.counter;

import static fabbrica.web.Steps.open;
import static fabbrica.web.Steps.send;
import static org.assertj.core.api.Assertions.assertThat;
import static org.hamcrest.Matchers.allOf;
import static org.hamcrest.Matchers.containsString;
import static org.hamcrest.Matchers.hasSize;
import static org.hamcrest.Matchers.not;
import static org.springframework.test.web.servlet.result.MockMvcResultMatchers.content;
import static org.springframework.test.web.servlet.result.MockMvcResultMatchers.flash;
import static org.springframework.test.web.servlet.result.MockMvcResultMatchers.redirectedUrl;

import fabbrica.core.mesh.model.Shapes;
import fabbrica.core.units.LengthUnit;
import fabbrica.web.DemoLabTest;
import fabbrica.web.Steps;
import fabbrica.web.account.Member;
import fabbrica.web.account.Members;
import fabbrica.web.platform.Moments;
import fabbrica.web.platform.Seen;
import fabbrica.web.ticket.Purpose;
import fabbrica.web.ticket.Ticket;
import fabbrica.web.ticket.Ticket.Request;
import fabbrica.web.ticket.TicketState;
import fabbrica.web.ticket.Tickets;
import java.time.Duration;
import java.time.Instant;
import java.time.temporal.ChronoUnit;
import java.util.List;
import java.util.Objects;
import java.util.Set;
import java.util.UUID;
import org.jspecify.annotations.Nullable;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.springframework.beans.factory.annotation.Autowired;
import org.springframework.test.web.servlet.MockMvc;
import org.springframework.test.web.servlet.request.MockHttpServletRequestBuilder;

/** Many tickets at a time, and groups of them. */
@DemoLabTest
class GroupsTest {

    @Autowired
    private MockMvc mvc;
    @Autowired
    private Steps steps;
    @Autowired
    private Tickets tickets;
    @Autowired
    private Members members;
    @Autowired
    private Groups groups;
    @Autowired
    private Moments moments;

    private long member;
    private List<Long> three;

    @BeforeEach
    void three() {
        member = members.add(new Member(0, "Class member " + UUID.randomUUID(), false, "", "", "", Set.of()), "mira");
        three = List.of(asked(20, member, Purpose.DISPLAY), asked(21, member, null), asked(22, null, Purpose.DISPLAY));
    }

    private long asked(double width, @Nullable Long by, @Nullable Purpose purpose) {
        long id = steps.taken(Shapes.box(width, 20, 4));
        tickets.saveRequest(tickets.ticket(id), new Request(by, purpose, null, "", "", 1, "", ""));
        return id;
    }

    private MockHttpServletRequestBuilder decide(String decision) {
        MockHttpServletRequestBuilder form = send("/counter/decide").param("decision", decision);
        three.forEach(id -> form.param("ticket", Long.toString(id)).param("seen-" + id, Seen.of(tickets.ticket(id))));
        return form;
    }

    @Test
    void many_are_accepted_at_once_and_what_cannot_be_is_said_and_holds_up_no_other() throws Exception {
        mvc.perform(decide("accept").param("purpose", "PROTOTYPE")).andExpect(redirectedUrl("/counter")).andExpect(flash().attribute("told", "2 of 3 done."))
                .andExpect(flash().attribute("problems", List.of("No. %d, part.stl: Choose the member, or enter a new one.".formatted(three.get(2)))));
        assertThat(three).extracting(id -> tickets.ticket(id).state()).containsExactly(TicketState.ACCEPTED, TicketState.ACCEPTED, TicketState.NEW);
        assertThat(three).extracting(id -> tickets.ticket(id).request().purpose()).containsExactly(Purpose.DISPLAY, Purpose.PROTOTYPE, Purpose.DISPLAY);
    }

    @Test
    void many_are_declined_with_one_reason_and_without_one_none_is() throws Exception {
        mvc.perform(decide("decline")).andExpect(flash().attribute("problems", hasSize(3)));
        mvc.perform(decide("decline").param("why", "over fair use")).andExpect(flash().attribute("told", "3 of 3 done."));
        assertThat(three).allMatch(id -> tickets.ticket(id).state() == TicketState.DECLINED);
        assertThat(tickets.history(three.getFirst()).getLast().why()).isEqualTo("over fair use");
    }

    @Test
    void what_somebody_else_has_changed_meanwhile_is_not_decided_on() throws Exception {
        MockHttpServletRequestBuilder form = decide("withdraw").param("why", "term is over");
        tickets.resize(tickets.ticket(three.get(1)), LengthUnit.INCH, 100, "tomas");
        mvc.perform(form).andExpect(content().string(containsString("has changed since this page was opened")));
        assertThat(three).allMatch(id -> tickets.ticket(id).state() == TicketState.NEW);
    }

    @Test
    void a_group_is_accepted_planned_and_followed_as_one() throws Exception {
        Instant deadline = moments.now().plus(Duration.ofDays(2)).truncatedTo(ChronoUnit.MINUTES);
        tickets.saveRequest(tickets.ticket(three.get(2)), new Request(member, null, null, "", "", 1, "", ""));
        String address = Objects.requireNonNull(mvc.perform(decide("group").param("name", "Class 7b").param("purpose", "DISPLAY")
                .param("neededBy", moments.forInput(deadline))).andReturn().getResponse().getRedirectedUrl());
        Group group = groups.group(Long.parseLong(address.replace("/counter/groups/", "")));
        assertThat(three).allMatch(id -> deadline.equals(tickets.ticket(id).request().neededBy()));
        mvc.perform(open("/counter")).andExpect(content().string(allOf(containsString("Class 7b"), containsString("3 at the counter"),
                not(containsString("/tickets/" + three.getFirst() + "\"")))));
        mvc.perform(open(address)).andExpect(content().string(containsString("Accept all 3 at the counter")));
        mvc.perform(send(address + "/accept").param("seen", Seen.of(group))).andExpect(flash().attribute("told", "3 accepted."));
        mvc.perform(open(address)).andExpect(content().string(allOf(containsString("Nothing of it has a place on a printer yet."),
                containsString("Lay 3 on plates together"))));
        String printer = steps.printer();
        long spool = steps.spool("pla", 500);
        three.forEach(id -> steps.queue(id, printer, spool));
        mvc.perform(open(address)).andExpect(content().string(containsString("All of it is there by ")));
        mvc.perform(send(address).param("seen", Seen.of(group)).param("name", "Class 7b").param("neededBy", moments.forInput(moments.now().plusSeconds(120))))
                .andExpect(redirectedUrl(address));
        mvc.perform(open(address)).andExpect(content().string(containsString("■ 3 are too late.")));
        mvc.perform(send(address + "/release").param("ticket", three.getFirst().toString())).andExpect(redirectedUrl(address));
        assertThat(groups.tickets(groups.group(group.id()))).extracting(Ticket::id).isEqualTo(three.subList(1, 3));
    }

    @Test
    void a_strip_says_what_is_wanted_of_whom() throws Exception {
        String name = members.member(member).orElseThrow().name();
        mvc.perform(open("/counter")).andExpect(content().string(allOf(containsString("ask " + name + " what it is for"), containsString("name its member"),
                containsString("accept it, or say why not"))));
        tickets.sendBack(tickets.ticket(three.getFirst()), "which colour?", "mira");
        tickets.answer(tickets.ticket(three.getFirst()), "sand", null, "mira");
        mvc.perform(open("/counter")).andExpect(content().string(containsString(name + " has answered: look again")));
    }
}
