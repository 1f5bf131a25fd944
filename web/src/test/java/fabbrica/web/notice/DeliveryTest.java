package fabbrica.web.notice;

import static org.assertj.core.api.Assertions.assertThat;

import com.icegreen.greenmail.util.GreenMail;
import com.icegreen.greenmail.util.GreenMailUtil;
import com.icegreen.greenmail.util.ServerSetup;
import fabbrica.core.mesh.model.Shapes;
import fabbrica.web.DemoLabTest;
import fabbrica.web.Steps;
import fabbrica.web.account.Member;
import fabbrica.web.account.Members;
import fabbrica.web.floor.RunEnd;
import fabbrica.web.platform.events.Outbox;
import fabbrica.web.ticket.Purpose;
import fabbrica.web.ticket.Ticket;
import fabbrica.web.ticket.Ticket.Request;
import fabbrica.web.ticket.Tickets;
import jakarta.mail.Address;
import java.util.List;
import java.util.Optional;
import java.util.Set;
import java.util.UUID;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.springframework.beans.factory.annotation.Autowired;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.mail.javamail.JavaMailSenderImpl;
import org.springframework.transaction.support.TransactionTemplate;

/** Mail as it arrives, at a server of the mail library GreenMail. */
@DemoLabTest
class DeliveryTest {

    @Autowired
    private Outbox outbox;
    @Autowired
    private Notices notices;
    @Autowired
    private Tickets tickets;
    @Autowired
    private Members members;
    @Autowired
    private Steps steps;
    @Autowired
    private TransactionTemplate transaction;
    @Autowired
    private JdbcClient jdbc;

    private final GreenMail post = new GreenMail(ServerSetup.SMTP.dynamicPort());
    private long pupil;

    @BeforeEach
    void emptyOutbox() {
        post.start();
        new Delivery(outbox, notices, Optional.empty()).deliver();
        while (!outbox.due(1).isEmpty()) {
            new Delivery(outbox, notices, Optional.empty()).deliver();
        }
        pupil = members.add(new Member(0, "Rike Onno " + UUID.randomUUID(), true, "Tove Onno", "", "", Set.of()).with(
                new Member.Mail("rike@home.example", "tove@home.example")), "mira");
    }

    @AfterEach
    void stop() {
        post.stop();
    }

    private Delivery byMail() {
        JavaMailSenderImpl sender = new JavaMailSenderImpl();
        sender.setHost("127.0.0.1");
        sender.setPort(post.getSmtp().getPort());
        return new Delivery(outbox, notices, Optional.of(new MailChannel(sender, "lab@house.example")));
    }

    private long sentBack(long member) {
        long id = steps.taken(Shapes.box(20, 20, 8));
        tickets.saveRequest(tickets.ticket(id), new Request(member, Purpose.DISPLAY, null, "", "", 1, "", ""));
        tickets.sendBack(tickets.ticket(id), "Which colour is meant?", "mira");
        return id;
    }

    @Test
    void a_minor_is_told_by_mail_and_the_grown_up_gets_a_copy() throws Exception {
        long id = sentBack(pupil);
        byMail().deliver();
        assertThat(post.getReceivedMessages()).hasSize(2).allSatisfy(mail -> {
            assertThat(mail.getSubject()).isEqualTo("A question about part.stl");
            assertThat(mail.getFrom()[0]).hasToString("lab@house.example");
            assertThat(mail.getAllRecipients()).extracting(Address::toString).containsExactly("rike@home.example", "tove@home.example");
            assertThat(GreenMailUtil.getBody(mail)).contains("Which colour is meant?", "Ticket no. " + id);
        });
        assertThat(outbox.ofTickets(List.of(id)).getFirst().way()).isEqualTo(Outbox.Way.MAIL);
        byMail().deliver();
        assertThat(post.getReceivedMessages()).as("told once, to two").hasSize(2);
    }

    @Test
    void whoever_has_no_address_is_told_on_the_page_alone() {
        long id = sentBack(members.add(new Member(0, "Ole Brandt " + UUID.randomUUID(), false, "", "", "", Set.of()), "mira"));
        byMail().deliver();
        assertThat(post.getReceivedMessages()).isEmpty();
        assertThat(outbox.ofTickets(List.of(id)).getFirst().way()).isEqualTo(Outbox.Way.PAGE);
    }

    @Test
    void what_cannot_be_delivered_waits_and_is_tried_again_and_given_up_in_the_end() {
        long id = sentBack(pupil);
        Delivery mail = byMail();
        post.stop();
        mail.deliver();
        Outbox.Told waiting = outbox.ofTickets(List.of(id)).getFirst();
        assertThat(waiting.at()).isNull();
        assertThat(waiting.tries()).isEqualTo(1);
        assertThat(outbox.due(10)).as("not at once").isEmpty();
        transaction.executeWithoutResult(status -> jdbc.sql("update outbox set tries = 10, next_at = 0 where delivered_at is null").update());
        mail.deliver();
        assertThat(outbox.ofTickets(List.of(id)).getFirst().way()).isEqualTo(Outbox.Way.UNDELIVERED);
    }

    @Test
    void what_is_printed_is_told_with_the_code_to_collect_it_by() {
        long plate = steps.queued(Shapes.box(20, 20, 8), 1, steps.printer(), steps.spool("pla", 300)), id = steps.ticketOf(plate);
        steps.end(steps.started(plate), RunEnd.Outcome.WELL, 10, 1.5);
        Outbox.Told told = outbox.ofTickets(List.of(id)).getFirst();
        assertThat(notices.of(List.of(told.event())).get(told.event().id()).text()).contains("say the code " + tickets.collectCodes(List.of(id)).get(id));
        assertThat(tickets.search(tickets.collectCodes(List.of(id)).get(id).toLowerCase(), 10)).extracting(Ticket::id).contains(id);
    }
}
