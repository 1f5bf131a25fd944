package fabbrica.web.ticket;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;
import static org.assertj.core.api.Assertions.tuple;
import static org.assertj.core.api.Assertions.within;

import fabbrica.core.mesh.model.Shapes;
import fabbrica.core.units.LengthUnit;
import fabbrica.web.DemoLabTest;
import fabbrica.web.Steps;
import fabbrica.web.floor.RunEnd.Outcome;
import fabbrica.web.plan.Plates;
import fabbrica.web.platform.Inspections;
import fabbrica.web.platform.Outdated;
import fabbrica.web.platform.events.Event;
import fabbrica.web.platform.storage.StorageException;
import java.util.List;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.springframework.beans.factory.annotation.Autowired;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.transaction.support.TransactionTemplate;

@DemoLabTest
class TicketsTest {

    @Autowired
    private Inspections inspections;
    @Autowired
    private Tickets tickets;
    @Autowired
    private Plates plates;
    @Autowired
    private Steps steps;
    @Autowired
    private JdbcClient jdbc;
    @Autowired
    private TransactionTemplate transaction;

    private String printer;
    private long spool;

    /** A printer and a spool of its own, so that tests do not wait for each other's runs. */
    @BeforeEach
    void stock() {
        printer = steps.printer();
        spool = steps.spool("pla", 500);
    }

    @Test
    void a_ticket_goes_from_the_counter_to_the_hand_out() {
        long plate = queued(), id = steps.ticketOf(plate);
        assertThat(tickets.ticket(id).state()).isEqualTo(TicketState.QUEUED);
        long run = steps.started(plate);
        assertThat(tickets.ticket(id).state()).isEqualTo(TicketState.RUNNING);
        steps.end(run, Outcome.WELL, 33, 4.5);
        assertThat(tickets.ticket(id).state()).isEqualTo(TicketState.PRINTED);
        tickets.handOut(tickets.ticket(id), "mira");
        assertThat(tickets.ticket(id).state()).isEqualTo(TicketState.HANDED_OUT);
        assertThat(tickets.history(id)).extracting(Event::what).containsSubsequence("handed over", "accepted",
                "run started on Test bench", "run done", "handed out");
    }

    @Test
    void sending_back_and_declining_want_a_reason() {
        long id = steps.taken(Shapes.box(20, 20, 8));
        assertThatThrownBy(() -> tickets.sendBack(tickets.ticket(id), "  ", "mira")).hasMessageContaining("give a reason");
        tickets.sendBack(tickets.ticket(id), "the hole is too small", "mira");
        assertThat(tickets.history(id).getLast().why()).isEqualTo("the hole is too small");
        tickets.reopen(tickets.ticket(id), "mira");
        tickets.decline(tickets.ticket(id), "not a reasonable use", "mira");
        assertThat(tickets.ticket(id).state()).isEqualTo(TicketState.DECLINED);
    }

    @Test
    void another_size_takes_a_ticket_out_of_the_queue() {
        long id = steps.ticketOf(queued());
        tickets.resize(tickets.ticket(id), LengthUnit.MILLIMETRE, 50, "mira");
        assertThat(tickets.ticket(id).state()).isEqualTo(TicketState.ACCEPTED);
        assertThat(inspections.of(tickets.ticket(id).part()).bounds().sizeX()).isCloseTo(10, within(1e-6));
    }

    @Test
    void the_history_cannot_be_rewritten() {
        long id = steps.taken(Shapes.box(20, 20, 8));
        for (String forgery : List.of("update event set facts = '{}' where ticket_id = ?",
                "delete from event where ticket_id = ?")) {
            assertThatThrownBy(() -> transaction.executeWithoutResult(status -> jdbc.sql(forgery).params(id).update()))
                    .hasMessageContaining("append-only");
            assertThatThrownBy(() -> jdbc.sql(forgery).params(id).update()).as("writing outside of a transaction")
                    .isInstanceOf(StorageException.class);
        }
    }

    @Test
    void steps_can_be_taken_back_with_a_reason() {
        long plate = queued(), id = steps.ticketOf(plate);
        assertThatThrownBy(() -> plates.putBack(plates.plate(plate), " ", "mira")).hasMessageContaining("Give a reason");
        plates.putBack(plates.plate(plate), "needs another colour", "mira");
        assertThat(tickets.ticket(id).state()).isEqualTo(TicketState.ACCEPTED);
        steps.end(steps.started(steps.queue(id, printer, spool)), Outcome.WELL, 30, 4.0);
        tickets.handOut(tickets.ticket(id), "mira");
        tickets.takeBackHandOut(tickets.ticket(id), "wrong shelf", "tomas");
        assertThat(tickets.ticket(id).state()).isEqualTo(TicketState.PRINTED);
        assertThat(tickets.history(id)).extracting(Event::what, Event::why, Event::by).contains(
                tuple("taken out of the queue", "needs another colour", "mira"), tuple("hand-out taken back", "wrong shelf", "tomas"));
    }

    @Test
    void a_withdrawn_ticket_can_be_taken_in_again() {
        long id = steps.ticketOf(queued());
        tickets.withdraw(tickets.ticket(id), "found one at home", "mira");
        assertThat(tickets.ticket(id).state()).isEqualTo(TicketState.WITHDRAWN);
        assertThatThrownBy(() -> tickets.withdraw(tickets.ticket(id), "again", "mira")).hasMessageContaining("Nothing more");
        tickets.reopen(tickets.ticket(id), "mira");
        assertThat(tickets.ticket(id).state()).isEqualTo(TicketState.NEW);
    }

    @Test
    void what_must_be_told_goes_into_the_outbox_with_the_step() {
        long declined = steps.taken(Shapes.box(20, 20, 8)), plate = queued(), failed = steps.ticketOf(plate);
        tickets.decline(tickets.ticket(declined), "too large", "mira");
        steps.end(steps.started(plate), Outcome.FAILED, 10, 1.5);
        assertThat(jdbc.sql("select e.kind from outbox o join event e on e.id = o.event_id where e.ticket_id in (?, ?) order by e.id")
                .params(declined, failed).query(String.class).list()).containsExactly("accepted", "declined", "run-ended");
    }

    @Test
    void a_step_from_an_old_page_changes_nothing() {
        Ticket seen = tickets.ticket(steps.taken(Shapes.box(20, 20, 8)));
        tickets.resize(seen, LengthUnit.INCH, 100, "mira");
        assertThatThrownBy(() -> tickets.decline(seen, "too small", "tomas")).isInstanceOf(Outdated.class);
        assertThatThrownBy(() -> tickets.resize(seen, LengthUnit.MILLIMETRE, 50, "tomas")).isInstanceOf(Outdated.class);
        assertThat(tickets.ticket(seen.id()).unit()).isEqualTo(LengthUnit.INCH);
        assertThat(tickets.history(seen.id())).hasSize(2);
    }

    private long queued() {
        return steps.queued(Shapes.box(20, 20, 8), 1, printer, spool);
    }
}
