package fabbrica.web.mine;

import static fabbrica.web.Steps.open;
import static fabbrica.web.Steps.send;
import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.tuple;
import static org.hamcrest.Matchers.allOf;
import static org.hamcrest.Matchers.containsString;
import static org.hamcrest.Matchers.not;
import static org.springframework.security.test.web.servlet.request.SecurityMockMvcRequestPostProcessors.csrf;
import static org.springframework.security.test.web.servlet.request.SecurityMockMvcRequestPostProcessors.user;
import static org.springframework.test.web.servlet.request.MockMvcRequestBuilders.multipart;
import static org.springframework.test.web.servlet.request.MockMvcRequestBuilders.post;
import static org.springframework.test.web.servlet.result.MockMvcResultMatchers.content;
import static org.springframework.test.web.servlet.result.MockMvcResultMatchers.redirectedUrl;
import static org.springframework.test.web.servlet.result.MockMvcResultMatchers.status;

import fabbrica.core.mesh.model.Shapes;
import fabbrica.web.DemoLabTest;
import fabbrica.web.Files3d;
import fabbrica.web.Steps;
import fabbrica.web.account.Member;
import fabbrica.web.account.Members;
import fabbrica.web.account.Role;
import fabbrica.web.floor.RunEnd;
import fabbrica.web.platform.Inspections;
import fabbrica.web.platform.Seen;
import fabbrica.web.platform.events.Event;
import fabbrica.web.ticket.Purpose;
import fabbrica.web.ticket.StoredModel;
import fabbrica.web.ticket.Ticket;
import fabbrica.web.ticket.Ticket.Request;
import fabbrica.web.ticket.TicketState;
import fabbrica.web.ticket.Tickets;
import java.nio.charset.StandardCharsets;
import java.util.List;
import java.util.Objects;
import java.util.UUID;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.springframework.beans.factory.annotation.Autowired;
import org.springframework.mock.web.MockMultipartFile;
import org.springframework.test.web.servlet.MockMvc;
import org.springframework.test.web.servlet.MvcResult;
import org.springframework.test.web.servlet.request.MockHttpServletRequestBuilder;

@DemoLabTest
class MinePagesTest {

    @Autowired
    private MockMvc mvc;
    @Autowired
    private Steps steps;
    @Autowired
    private Tickets tickets;
    @Autowired
    private Members members;
    @Autowired
    private Inspections inspections;

    private Member june;

    @BeforeEach
    void june() {
        june = members.ofAccount("june").orElseThrow();
    }

    private long handIn(String name, byte[] content) throws Exception {
        MvcResult answer = mvc.perform(multipart("/mine").file(new MockMultipartFile("file", name, null, content)).param("token", UUID.randomUUID().toString())
                .with(user("june").roles("MEMBER")).with(csrf())).andExpect(status().is3xxRedirection()).andReturn();
        return Long.parseLong(Objects.requireNonNull(answer.getResponse().getRedirectedUrl()).replace("/mine/", ""));
    }

    private MockHttpServletRequestBuilder hers(String address, long id) {
        return post(address).with(user("june").roles("MEMBER")).with(csrf()).param("seen", Seen.of(tickets.ticket(id)));
    }

    private String page(long id) throws Exception {
        inspections.of(tickets.ticket(id).part());
        return mvc.perform(open("/mine/" + id, "june", Role.MEMBER)).andExpect(status().isOk()).andReturn().getResponse().getContentAsString();
    }

    @Test
    void a_member_hands_in_a_file_sees_the_verdict_and_says_what_it_is_for() throws Exception {
        long id = handIn("cup.stl", Files3d.stl(Shapes.box(30, 30, 10)));
        assertThat(tickets.ticket(id).request().memberId()).isEqualTo(june.id());
        assertThat(page(id)).contains("It lies at the counter", "30 × 30 × 10 mm", "● Prints", "What is it for?");
        mvc.perform(hers("/mine/" + id + "/request", id).param("quantity", "2")).andExpect(content().string(containsString("Choose what the print is for.")));
        mvc.perform(hers("/mine/" + id + "/request", id).param("quantity", "2").param("purpose", "DISPLAY").param("colourWish", "sand"))
                .andExpect(redirectedUrl("/mine/" + id));
        assertThat(tickets.ticket(id).request()).isEqualTo(new Request(june.id(), Purpose.DISPLAY, null, "", "sand", 2, "", ""));
    }

    @Test
    void sent_twice_it_is_one_ticket_and_a_sliced_file_is_refused_with_the_reason() throws Exception {
        byte[] stl = Files3d.stl(Shapes.box(31, 30, 10));
        String token = UUID.randomUUID().toString();
        for (int i = 0; i < 2; i++) {
            mvc.perform(multipart("/mine").file(new MockMultipartFile("file", "twice.stl", null, stl)).param("token", token)
                    .with(user("june").roles("MEMBER")).with(csrf()));
        }
        assertThat(tickets.search("twice.stl", 10)).hasSize(1);
        mvc.perform(multipart("/mine").file(new MockMultipartFile("file", "ready.gcode", null, "G28".getBytes(StandardCharsets.US_ASCII))).param("token", "x")
                .with(user("june").roles("MEMBER")).with(csrf())).andExpect(content().string(containsString("Hand in the model it was made from")));
    }

    @Test
    void she_reads_what_is_asked_of_her_and_answers_with_another_file() throws Exception {
        long id = handIn("lid.stl", Files3d.stl(Shapes.box(32, 30, 10)));
        tickets.sendBack(tickets.ticket(id), "The lid is 2 mm too wide. Please draw it again.", "mira");
        assertThat(page(id)).contains("Something is asked of you.", "The lid is 2 mm too wide", "Send it to the lab");
        mvc.perform(hers("/mine/" + id + "/answer", id)).andExpect(content().string(containsString("Write an answer, or bring another file")));
        mvc.perform(multipart("/mine/" + id + "/answer").file(new MockMultipartFile("file", "lid-2.stl", null, Files3d.stl(Shapes.box(30, 30, 10))))
                .param("seen", Seen.of(tickets.ticket(id))).param("answer", "Two millimetres less now.").with(user("june").roles("MEMBER")).with(csrf()))
                .andExpect(redirectedUrl("/mine/" + id));
        Ticket answered = tickets.ticket(id);
        assertThat(answered.state()).isEqualTo(TicketState.NEW);
        assertThat(answered.model().name()).isEqualTo("lid-2.stl");
        assertThat(tickets.original(answered)).map(StoredModel::name).contains("lid.stl");
        assertThat(tickets.history(id)).extracting(Event::what, Event::why).contains(tuple("answered by the member", "Two millimetres less now."));
        mvc.perform(open("/counter")).andExpect(content().string(not(containsString("lid.stl"))));
    }

    @Test
    void a_file_that_cannot_be_read_leaves_the_question_open() throws Exception {
        long id = handIn("arm.stl", Files3d.stl(Shapes.box(33, 30, 10)));
        tickets.sendBack(tickets.ticket(id), "Too thin.", "mira");
        mvc.perform(multipart("/mine/" + id + "/answer").file(new MockMultipartFile("file", "arm.stl", null, "no model".getBytes(StandardCharsets.US_ASCII)))
                .param("seen", Seen.of(tickets.ticket(id))).param("answer", "").with(user("june").roles("MEMBER")).with(csrf()))
                .andExpect(status().isUnprocessableContent());
        assertThat(tickets.ticket(id).state()).isEqualTo(TicketState.SENT_BACK);
    }

    @Test
    void when_it_is_printed_she_reads_the_code_and_what_others_have_is_not_there_for_her() throws Exception {
        long plate = steps.queued(Shapes.box(20, 20, 6), 1, steps.printer(), steps.spool("pla", 300)), id = steps.ticketOf(plate);
        mvc.perform(open("/mine/" + id, "june", Role.MEMBER)).andExpect(status().isNotFound());
        mvc.perform(hers("/mine/" + id + "/withdraw", id)).andExpect(status().isNotFound());
        tickets.become(id, TicketState.QUEUED);
        long own = handIn("tag.stl", Files3d.stl(Shapes.box(21, 20, 6)));
        tickets.accept(tickets.ticket(own), new Request(june.id(), Purpose.EVERYDAY, null, "", "", 1, "", ""), "mira");
        long hers = steps.queue(own, steps.printer(), steps.spool("pla", 300));
        assertThat(page(own)).contains("It waits for its turn", "handed out by").doesNotContain("Say this code");
        steps.end(steps.started(hers), RunEnd.Outcome.WELL, 10, 2);
        String code = tickets.collectCodes(List.of(own)).get(own);
        assertThat(page(own)).contains("It is ready", code);
        mvc.perform(open("/mine", "june", Role.MEMBER)).andExpect(content().string(allOf(containsString("tag.stl is ready"), containsString(code))));
        mvc.perform(open("/tickets/" + own + "/sections/hand-out")).andExpect(content().string(containsString(code)));
    }

    @Test
    void she_withdraws_what_she_no_longer_needs() throws Exception {
        long id = handIn("peg.stl", Files3d.stl(Shapes.box(34, 30, 10)));
        mvc.perform(hers("/mine/" + id + "/withdraw", id)).andExpect(redirectedUrl("/mine/" + id));
        assertThat(tickets.ticket(id).state()).isEqualTo(TicketState.WITHDRAWN);
    }

    @Test
    void she_says_where_she_is_told_by_mail() throws Exception {
        String seen = Seen.of(june);
        mvc.perform(post("/mine/address").with(user("june").roles("MEMBER")).with(csrf()).param("seen", seen).param("email", "not an address"))
                .andExpect(content().string(containsString("is no address that mail can be sent to")));
        mvc.perform(post("/mine/address").with(user("june").roles("MEMBER")).with(csrf()).param("seen", seen).param("email", "june@home.example"))
                .andExpect(redirectedUrl("/mine"));
        assertThat(members.ofAccount("june").orElseThrow()).isEqualTo(june.with(new Member.Mail("june@home.example", "")));
        members.tell(june.id(), "", "mira");
    }

    @Test
    void a_minor_is_taken_in_only_with_a_grown_up() throws Exception {
        mvc.perform(send("/members/0").param("name", "Nil Aster").param("minor", "on").param("token", UUID.randomUUID().toString()))
                .andExpect(content().string(containsString("A minor needs a grown-up")));
        long id = steps.taken(Shapes.box(22, 20, 6));
        mvc.perform(send("/tickets/" + id + "/accept").param("memberName", "Odo Karst").param("purpose", "DISPLAY").param("quantity", "1")
                .param("seen", Seen.of(tickets.ticket(id)))).andExpect(content().string(containsString("name the grown-up who answers for them")));
        assertThat(tickets.ticket(id).state()).isEqualTo(TicketState.NEW);
    }
}
