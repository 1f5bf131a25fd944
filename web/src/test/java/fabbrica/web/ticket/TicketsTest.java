package fabbrica.web.ticket;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;
import static org.assertj.core.api.Assertions.tuple;
import static org.assertj.core.api.Assertions.within;

import fabbrica.core.estimate.Estimate;
import fabbrica.core.mesh.model.Shapes;
import fabbrica.core.recipe.StartingPoint;
import fabbrica.core.run.Defect;
import fabbrica.core.units.LengthUnit;
import fabbrica.web.DemoLabTest;
import fabbrica.web.Steps;
import fabbrica.web.platform.Inspections;
import fabbrica.web.platform.Outdated;
import fabbrica.web.platform.Refusal;
import fabbrica.web.platform.events.Event;
import fabbrica.web.platform.storage.StorageException;
import fabbrica.web.stores.Inventory;
import fabbrica.web.stores.SpoolEntry;
import fabbrica.web.stores.Spools;
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
    private Planning planning;
    @Autowired
    private PrinterQueues queues;
    @Autowired
    private Steps steps;
    @Autowired
    private Inventory inventory;
    @Autowired
    private Spools spools;
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
        long id = queued(1);
        assertThat(tickets.ticket(id).state()).isEqualTo(TicketState.QUEUED);
        long run = start(id);
        assertThat(tickets.ticket(id).state()).isEqualTo(TicketState.RUNNING);
        tickets.end(run, Run.State.DONE, end(33, 4.5), "mira");
        tickets.handOut(tickets.ticket(id), "mira");
        assertThat(tickets.ticket(id).state()).isEqualTo(TicketState.HANDED_OUT);
        assertThat(tickets.history(id)).extracting(Event::what).containsSubsequence("handed over", "accepted",
                "run started on Test bench", "run done", "handed out");
    }

    @Test
    void a_run_keeps_the_nozzle_and_the_spool_is_in_the_printer() {
        long nozzle = inventory.printer(printer).orElseThrow().nozzleId();
        tickets.end(start(queued(1)), Run.State.DONE, end(90, 4.0), "mira");
        assertThat(inventory.nozzleHours().get(nozzle)).isEqualTo(1.5);
        assertThat(spools.spool(spool).orElseThrow().loadedIn()).isEqualTo(printer);
    }

    @Test
    void the_spool_goes_down_by_the_grams_used_and_by_failed_prints_too() {
        long id = queued(1);
        tickets.end(start(id), Run.State.FAILED, end(10, 1.5), "mira");
        tickets.retry(tickets.ticket(id), "mira");
        tickets.end(start(id), Run.State.DONE, end(30, 4.0), "mira");
        assertThat(spools.spool(spool).orElseThrow().spool().remainingG()).isCloseTo(494.5, within(1e-9));
        assertThat(tickets.runsOf(id)).extracting(Run::cost).extracting(Object::toString).containsExactly("0.05 EUR", "0.12 EUR");
    }

    @Test
    void a_retry_is_a_new_run_of_the_same_ticket_with_everything_kept() {
        long id = queued(1);
        Ticket before = tickets.ticket(id);
        tickets.end(start(id), Run.State.FAILED, end(10, 1.5), "mira");
        assertThat(tickets.ticket(id).state()).isEqualTo(TicketState.FAILED);
        tickets.retry(tickets.ticket(id), "mira");
        Ticket after = tickets.ticket(id);
        assertThat(after.recipe()).isEqualTo(before.recipe());
        assertThat(after.printerId()).isEqualTo(before.printerId());
        assertThat(after.spoolId()).isEqualTo(before.spoolId());
        start(id);
        assertThat(tickets.runsOf(id)).extracting(Run::state).containsExactly(Run.State.FAILED, Run.State.RUNNING);
        assertThat(tickets.runsOf(id).getFirst().defects()).containsExactly(Defect.STRINGS);
    }

    @Test
    void a_ticket_for_three_copies_is_printed_after_three_good_runs() {
        long id = queued(3);
        for (int copy = 1; copy <= 3; copy++) {
            assertThat(tickets.ticket(id).state()).isEqualTo(TicketState.QUEUED);
            tickets.end(start(id), Run.State.DONE, end(30, 4), "mira");
        }
        assertThat(tickets.ticket(id).state()).isEqualTo(TicketState.PRINTED);
        assertThat(tickets.done(id)).isEqualTo(3);
    }

    @Test
    void what_is_asked_for_twice_happens_once() {
        long id = queued(1);
        long run = start(id);
        assertThatThrownBy(() -> start(id)).isInstanceOf(Refusal.class).hasMessageContaining("started already");
        tickets.end(run, Run.State.DONE, end(30, 4), "mira");
        assertThatThrownBy(() -> tickets.end(run, Run.State.DONE, end(30, 4), "mira"))
                .hasMessage("This run has already been marked as ended.");
        assertThat(spools.spool(spool).orElseThrow().spool().remainingG()).isCloseTo(496, within(1e-9));
    }

    @Test
    void one_printer_prints_one_run_at_a_time_and_the_queue_says_when_the_next_can_start() {
        long first = queued(1), second = queued(1);
        start(first);
        assertThatThrownBy(() -> start(second)).hasMessageContaining("still busy");
        PrinterQueues.PrinterQueue queue = queues.all().stream().filter(q -> q.printer().id().equals(printer))
                .findFirst().orElseThrow();
        assertThat(queue.running().ticketId()).isEqualTo(first);
        assertThat(queue.waiting()).extracting(waiting -> waiting.ticket().id()).containsExactly(second);
        assertThat(queue.waiting().getFirst().slot().start()).isAfter(queue.running().promisedEnd());
    }

    @Test
    void a_spool_taken_off_the_shelf_stops_the_start_and_loses_nothing() {
        long id = queued(1);
        spools.change(spools.spool(spool).orElseThrow(), new SpoolEntry(null, "pla", "test white", "", 500, null, 1.75, "", 30, null, null, true), 500,
                "", "mira");
        assertThatThrownBy(() -> start(id)).hasMessageContaining("spool planned for this ticket is gone");
        assertThat(tickets.ticket(id).state()).isEqualTo(TicketState.QUEUED);
        assertThat(tickets.runsOf(id)).isEmpty();
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
        long id = queued(1);
        tickets.resize(tickets.ticket(id), LengthUnit.MILLIMETRE, 50, "mira");
        assertThat(tickets.ticket(id).state()).isEqualTo(TicketState.ACCEPTED);
        assertThat(inspections.of(tickets.ticket(id).lying()).bounds().sizeX()).isCloseTo(10, within(1e-6));
    }

    @Test
    void a_plan_that_cannot_be_carried_out_is_refused_with_its_reasons() {
        long big = steps.taken(Shapes.box(300, 300, 5));
        assertThatThrownBy(() -> plan(big, "door", spool)).hasMessageContaining("Does not fit");
        long holed = steps.taken(Shapes.without(Shapes.box(20, 20, 20), 1));
        assertThatThrownBy(() -> plan(holed, "door", spool)).hasMessageContaining("finding that stops the print");
        long wood = spools.add(SpoolEntry.fresh("pla-wood", "oak", 500, 40, null), 500, "mira");
        long fine = steps.taken(Shapes.box(20, 20, 20));
        assertThatThrownBy(() -> plan(fine, "door", wood)).hasMessageContaining("abrasive");
        long empty = spools.add(SpoolEntry.fresh("pla", "nearly gone", 1, 30, null), 1, "mira");
        assertThatThrownBy(() -> plan(fine, "door", empty)).hasMessageContaining("3 g short");
        assertThatThrownBy(() -> plan(fine, "nowhere", spool)).hasMessageContaining("no longer in the stores");
        assertThatThrownBy(() -> plan(fine, "door", 99_999L)).hasMessageContaining("no longer on the shelf");
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
        long id = queued(1);
        assertThatThrownBy(() -> tickets.takeOutOfQueue(tickets.ticket(id), " ", "mira")).hasMessageContaining("give a reason");
        tickets.takeOutOfQueue(tickets.ticket(id), "needs another colour", "mira");
        assertThat(tickets.ticket(id).state()).isEqualTo(TicketState.ACCEPTED);
        steps.queue(id, printer, spool);
        tickets.end(start(id), Run.State.DONE, end(30, 4.0), "mira");
        tickets.handOut(tickets.ticket(id), "mira");
        tickets.takeBackHandOut(tickets.ticket(id), "wrong shelf", "tomas");
        assertThat(tickets.ticket(id).state()).isEqualTo(TicketState.PRINTED);
        assertThat(tickets.history(id)).extracting(Event::what, Event::why, Event::by).contains(
                tuple("taken out of the queue", "needs another colour", "mira"), tuple("hand-out taken back", "wrong shelf", "tomas"));
    }

    @Test
    void a_withdrawn_ticket_can_be_taken_in_again() {
        long id = queued(1);
        tickets.withdraw(tickets.ticket(id), "found one at home", "mira");
        assertThat(tickets.ticket(id).state()).isEqualTo(TicketState.WITHDRAWN);
        assertThatThrownBy(() -> tickets.withdraw(tickets.ticket(id), "again", "mira")).hasMessageContaining("Nothing more");
        tickets.reopen(tickets.ticket(id), "mira");
        assertThat(tickets.ticket(id).state()).isEqualTo(TicketState.NEW);
    }

    @Test
    void what_must_be_told_goes_into_the_outbox_with_the_step() {
        long declined = steps.taken(Shapes.box(20, 20, 8)), failed = queued(1);
        tickets.decline(tickets.ticket(declined), "too large", "mira");
        tickets.end(start(failed), Run.State.FAILED, end(10, 1.5), "mira");
        assertThat(jdbc.sql("select e.kind from outbox o join event e on e.id = o.event_id where e.ticket_id in (?, ?) and o.delivered_at is null order by e.id")
                .params(declined, failed).query(String.class).list()).containsExactly("declined", "run-ended");
    }

    @Test
    void one_spool_feeds_one_run_at_a_time() {
        start(queued(1));
        long other = steps.queued(Shapes.box(20, 20, 8), 1, steps.printer(), spool);
        assertThatThrownBy(() -> start(other)).hasMessageContaining("feeds another run");
        assertThat(tickets.ticket(other).state()).isEqualTo(TicketState.QUEUED);
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

    private long queued(int quantity) {
        return steps.queued(Shapes.box(20, 20, 8), quantity, printer, spool);
    }

    private Estimate plan(long id, String printerId, long spoolId) {
        return planning.settle(tickets.ticket(id), new Plan(StartingPoint.DAILY_BREAD, steps.everyday(), printerId, spoolId, false));
    }

    private long start(long id) {
        return steps.started(id);
    }

    private static RunEnd end(double minutes, double grams) {
        return new RunEnd(minutes, grams, List.of(Defect.STRINGS), "", "", null, null);
    }
}
