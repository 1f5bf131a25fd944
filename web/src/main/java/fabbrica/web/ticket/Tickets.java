package fabbrica.web.ticket;

import fabbrica.core.estimate.Estimate;
import fabbrica.core.estimate.Tariff.Used;
import fabbrica.core.mesh.model.Rotation;
import fabbrica.core.units.LengthUnit;
import fabbrica.core.units.Spoken;
import fabbrica.web.platform.CoreVersion;
import fabbrica.web.platform.Outdated;
import fabbrica.web.platform.Refusal;
import fabbrica.web.platform.events.About;
import fabbrica.web.platform.events.Event;
import fabbrica.web.platform.events.Events;
import fabbrica.web.platform.events.Fact;
import fabbrica.web.stores.Inventory;
import fabbrica.web.stores.Movement;
import fabbrica.web.stores.Spools;
import fabbrica.web.stores.StockPrinter;
import fabbrica.web.stores.StockSpool;
import fabbrica.web.ticket.Ticket.Request;
import java.time.Clock;
import java.util.List;
import java.util.Optional;
import java.util.function.Consumer;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Service;
import org.springframework.transaction.annotation.Transactional;

/**
 * The life of tickets and their runs. Every step is one transaction that changes the ticket and appends to its history;
 * a step is asked for with the ticket as it was seen, so that asked for
 * twice, or by two people at once, it happens once and is refused the second time.
 */
@Service
public class Tickets {

    private static final int MANY_RUNS = 20;

    private final TicketRepository repository;
    private final Inventory inventory;
    private final Spools spools;
    private final Events events;
    private final Clock clock;

    Tickets(TicketRepository repository, Inventory inventory, Spools spools, Events events, Clock clock) {
        this.repository = repository;
        this.inventory = inventory;
        this.spools = spools;
        this.events = events;
        this.clock = clock;
    }

    /** A new ticket for a stored model; the ticket it already has when it has one. */
    @Transactional
    public long open(long modelId, LengthUnit unit, String who) {
        Optional<Long> existing = repository.ofModel(modelId);
        if (existing.isPresent()) {
            return existing.get();
        }
        long id = repository.insert(modelId, unit, clock.instant());
        record(id, who, new Fact.HandedOver(), "");
        return id;
    }

    public Ticket ticket(long id) {
        return repository.ticket(id).orElseThrow();
    }

    public Optional<Ticket> find(long id) {
        return repository.ticket(id);
    }

    public List<Ticket> inStates(TicketState... states) {
        return repository.inStates(List.of(states));
    }

    public List<Ticket> ofMember(long memberId) {
        return repository.ofMember(memberId);
    }

    public List<Event> history(long id) {
        return events.ofTicket(id);
    }

    @Transactional
    public void saveRequest(Ticket seen, Request request) {
        requireAtCounter(unchanged(seen));
        repository.saveRequest(seen.id(), request);
    }

    @Transactional
    public void resize(Ticket seen, LengthUnit unit, double scalePercent, String who) {
        Ticket ticket = changeable(seen);
        repository.saveSize(seen.id(), unit, scalePercent);
        record(seen.id(), who, new Fact.Resized(scalePercent, unit), "");
        planAgain(ticket, who, Fact.Cause.SIZE);
    }

    /** @param rotation from how the part was drawn */
    @Transactional
    public void turn(Ticket seen, Rotation rotation, String who) {
        Ticket ticket = changeable(seen);
        repository.saveRotation(seen.id(), rotation);
        record(seen.id(), who, new Fact.Turned(), "");
        planAgain(ticket, who, Fact.Cause.LYING);
    }

    /** Puts a model made from the ticket's in its place; the one before stays stored. */
    @Transactional
    public void revise(Ticket seen, Revision revision, String who) {
        revised(changeable(seen), revision, who);
    }

    /**
     * Takes a ticket's model apart: the first part stays on it, each other gets a ticket of its own, like this one.
     *
     * @return the other tickets
     */
    @Transactional
    public List<Long> split(Ticket seen, List<Revision> parts, String who) {
        Ticket ticket = changeable(seen);
        List<Long> others = parts.stream().skip(1).map(part -> openPart(ticket, part, who)).toList();
        revised(ticket, parts.getFirst(), who);
        return others;
    }

    private void revised(Ticket ticket, Revision revision, String who) {
        repository.saveModel(ticket.id(), repository.insertRevision(ticket.model(), revision));
        record(ticket.id(), who, new Fact.Revised(revision.madeBy()), "");
        planAgain(ticket, who, Fact.Cause.MODEL);
    }

    private long openPart(Ticket ticket, Revision part, String who) {
        long made = repository.insert(repository.insertRevision(ticket.model(), part), ticket.unit(), clock.instant());
        repository.saveSize(made, ticket.unit(), ticket.scalePercent());
        repository.saveRotation(made, ticket.rotation());
        repository.saveRequest(made, ticket.request());
        record(made, who, new Fact.TakenOut(ticket.id()), "");
        return made;
    }

    /** Goes back to the model as it came. */
    @Transactional
    public void restore(Ticket seen, String who) {
        Ticket ticket = changeable(seen);
        if (ticket.model().revisionOf() == null) {
            throw new Refusal("The ticket has the model as it came.");
        }
        if (repository.ofModel(ticket.model().revisionOf()).isPresent()) {
            throw new Refusal("The model as it came is on another ticket now.");
        }
        if (original(ticket).isEmpty()) {
            throw new Refusal("The file of the model as it came is no longer kept.");
        }
        repository.saveModel(ticket.id(), ticket.model().revisionOf());
        record(ticket.id(), who, new Fact.Restored(), "");
        planAgain(ticket, who, Fact.Cause.MODEL);
    }

    /** The model as it came, when the ticket's was made from it and it is still kept. */
    public Optional<StoredModel> original(Ticket ticket) {
        return Optional.ofNullable(ticket.model().revisionOf()).flatMap(repository::model).filter(StoredModel::isKept);
    }

    /** What a member's runs took since the first of this month. */
    public Used usedThisMonth(long memberId) {
        return repository.used(memberId, clock.instant().atZone(inventory.zone()).toLocalDate().withDayOfMonth(1)
                .atStartOfDay(inventory.zone()).toInstant());
    }

    /** Share of a printer's runs that failed, 0 to below 1; few runs are taken as twenty, so that a first failure does not double a price. */
    public double failureShare(String printerId) {
        int[] ended = repository.ended(printerId);
        return ended[1] / (double) Math.max(MANY_RUNS, ended[0] + 1);
    }

    /** What came of earlier files from the same source; all zero when none is named. */
    public Experience experience(Ticket ticket) {
        String source = ticket.request().source();
        return source.isBlank() ? new Experience(0, 0, 0) : repository.experience(source, ticket.id());
    }

    @Transactional
    public void accept(Ticket seen, Request request, String who) {
        Ticket ticket = unchanged(seen);
        requireAtCounter(ticket);
        repository.saveRequest(ticket.id(), request);
        move(ticket, TicketState.ACCEPTED);
        record(ticket.id(), who, new Fact.Accepted(), "");
    }

    @Transactional
    public void sendBack(Ticket seen, String why, String who) {
        decide(seen, TicketState.SENT_BACK, new Fact.SentBack(), why, who);
    }

    @Transactional
    public void decline(Ticket seen, String why, String who) {
        decide(seen, TicketState.DECLINED, new Fact.Declined(), why, who);
    }

    /** Takes a ticket that was sent back or declined in again. */
    @Transactional
    public void reopen(Ticket seen, String who) {
        Ticket ticket = unchanged(seen);
        if (!ticket.state().canBeReopened()) {
            throw new Refusal("Only a ticket that was sent back, declined or withdrawn can be taken in again.");
        }
        if (!ticket.model().isKept()) {
            throw new Refusal("The file of this model is no longer kept. Hand it over again at the Counter.");
        }
        move(ticket, TicketState.NEW);
        record(ticket.id(), who, new Fact.Reopened(), "");
    }

    /** Ends a ticket that nobody waits for any more. */
    @Transactional
    public void withdraw(Ticket seen, String why, String who) {
        Ticket ticket = unchanged(seen);
        if (ticket.state() == TicketState.RUNNING) {
            throw new Refusal("Ticket no. %d is printing. End its run on the Floor first.".formatted(ticket.id()));
        }
        if (ticket.state().isOver()) {
            throw new Refusal("Nothing more is to be done on this ticket.");
        }
        requireReason(why);
        move(ticket, TicketState.WITHDRAWN);
        record(ticket.id(), who, new Fact.Withdrawn(), why);
    }

    /** Settles how a ticket is printed and puts it into its printer's queue. */
    @Transactional
    public void queue(Ticket seen, Plan plan, Estimate promise, String who) {
        Ticket ticket = unchanged(seen);
        if (!ticket.state().canBePlanned()) {
            throw new Refusal("This ticket cannot be planned now: it is “%s”.".formatted(
                    ticket.state().label().toLowerCase()));
        }
        repository.savePlan(ticket.id(), plan, promise.totalSeconds(), promise.grams());
        repository.queuedAt(ticket.id(), clock.instant());
        move(ticket, TicketState.QUEUED);
        events.record(who, About.ticket(ticket.id()).on(plan.printerId()), new Fact.Queued(promise.totalSeconds(), promise.grams()));
    }

    /** Takes a ticket out of its printer's queue; it can be planned anew. */
    @Transactional
    public void takeOutOfQueue(Ticket seen, String why, String who) {
        Ticket ticket = unchanged(seen);
        if (ticket.state() != TicketState.QUEUED) {
            throw new Refusal("Only a ticket that waits for its printer can be taken out of the queue.");
        }
        requireReason(why);
        move(ticket, TicketState.ACCEPTED);
        record(ticket.id(), who, new Fact.LeftQueue(Fact.Cause.TAKEN_BACK), why);
    }

    /** Back into the queue after a failure, everything kept. */
    @Transactional
    public void retry(Ticket seen, String who) {
        Ticket ticket = unchanged(seen);
        if (ticket.state() != TicketState.FAILED) {
            throw new Refusal("Only a ticket whose run failed can be tried again.");
        }
        repository.queuedAt(ticket.id(), clock.instant());
        move(ticket, TicketState.QUEUED);
        record(ticket.id(), who, new Fact.Retried(), "");
    }

    /** @param prepareS seconds before the first line, for the floor's timeline */
    @Transactional
    public long start(Ticket seen, double prepareS, String who) {
        Ticket ticket = unchanged(seen);
        if (ticket.state() != TicketState.QUEUED || !ticket.isPlanned()) {
            throw new Refusal("This ticket is not waiting for its printer; it may have been started already.");
        }
        if (repository.running().stream().anyMatch(run -> run.printerId().equals(ticket.printerId()))) {
            throw new Refusal("The printer is still busy with another run. Mark that one done or failed first.");
        }
        if (repository.running().stream().anyMatch(run -> run.spoolId() == ticket.spoolId())) {
            throw new Refusal("The spool planned for this ticket feeds another run. Wait for that one, or plan it with another spool.");
        }
        StockSpool spool = spools.spool(ticket.spoolId()).orElseThrow();
        if (spool.retired() || spool.spool().remainingG() < ticket.promisedG()) {
            throw new Refusal("The spool planned for this ticket is gone or no longer holds the %s needed. "
                    .formatted(Spoken.grams(ticket.promisedG())) + "Plan it with another one.");
        }
        move(ticket, TicketState.RUNNING);
        StockPrinter printer = inventory.printer(ticket.printerId()).orElseThrow();
        long run = repository.insertRun(ticket, printer.nozzleId(), prepareS, CoreVersion.current(), clock.instant(), who);
        if (!printer.id().equals(spool.loadedIn())) {
            spools.load(spool, printer.id(), who);
        }
        events.record(who, About.ticket(ticket.id()).inRun(run).on(printer.id()).from(spool.id()), new Fact.RunStarted());
        return run;
    }

    @Transactional
    public void end(long runId, Run.State state, RunEnd end, String who) {
        Run run = run(runId);
        StockSpool spool = spools.spool(run.spoolId()).orElseThrow();
        if (!repository.endRun(runId, state, end, clock.instant(), spool.spool().price(end.realG()))) {
            throw new Refusal("This run has already been marked as ended.");
        }
        boolean failed = state == Run.State.FAILED;
        spools.take(run.spoolId(), runId, failed ? Movement.Kind.FAILED : Movement.Kind.USED, end.realG(), who);
        Ticket ticket = ticket(run.ticketId());
        long done = done(ticket.id());
        int quantity = ticket.request().quantity();
        move(ticket, failed ? TicketState.FAILED : done >= quantity ? TicketState.PRINTED : TicketState.QUEUED);
        events.record(who, About.ticket(ticket.id()).inRun(runId).on(run.printerId()).from(run.spoolId()),
                new Fact.RunEnded(failed, end.realMinutes(), end.realG(), end.defects(), done, quantity), end.cause());
    }

    @Transactional
    public void handOut(Ticket seen, String who) {
        Ticket ticket = unchanged(seen);
        if (ticket.state() != TicketState.PRINTED) {
            throw new Refusal("Only a ticket that is printed can be handed out.");
        }
        move(ticket, TicketState.HANDED_OUT);
        record(ticket.id(), who, new Fact.HandedOut(), "");
    }

    /** Takes a hand-out back: the print lies there after all. */
    @Transactional
    public void takeBackHandOut(Ticket seen, String why, String who) {
        Ticket ticket = unchanged(seen);
        if (ticket.state() != TicketState.HANDED_OUT) {
            throw new Refusal("Only a ticket that was handed out can be taken back.");
        }
        requireReason(why);
        move(ticket, TicketState.PRINTED);
        record(ticket.id(), who, new Fact.HandOutTakenBack(), why);
    }

    /** Copies that came out well. */
    public long done(long id) {
        return repository.done(id);
    }

    public Run run(long id) {
        return repository.run(id).orElseThrow();
    }

    public List<Run> runsOf(long ticketId) {
        return repository.runsOf(ticketId);
    }

    public List<Run> running() {
        return repository.running();
    }

    /**
     * The latest first.
     *
     * @param before only runs that started before this one did; null for the latest
     */
    public List<Run> runs(RunFilter filter, @Nullable Long before, int most) {
        return repository.runs(filter, before, most);
    }

    /** Hands over all runs that match, the latest first, one after another. */
    public void eachRun(RunFilter filter, Consumer<Run> each) {
        repository.each(filter, each);
    }

    public RunSums sums(RunFilter filter) {
        return repository.sums(filter);
    }

    private void decide(Ticket seen, TicketState to, Fact what, String why, String who) {
        Ticket ticket = unchanged(seen);
        requireAtCounter(ticket);
        requireReason(why);
        move(ticket, to);
        record(ticket.id(), who, what, why);
    }

    /** The ticket, if it is still as somebody saw it. */
    private Ticket unchanged(Ticket seen) {
        if (!ticket(seen.id()).equals(seen)) {
            throw new Outdated();
        }
        return seen;
    }

    private Ticket changeable(Ticket seen) {
        Ticket ticket = unchanged(seen);
        if (!ticket.state().atCounter() && !ticket.state().canBePlanned()) {
            throw new Refusal("The part can no longer be changed: the ticket is “%s”.".formatted(
                    ticket.state().label().toLowerCase()));
        }
        return ticket;
    }

    private void planAgain(Ticket ticket, String who, Fact.Cause cause) {
        if (ticket.state() == TicketState.QUEUED) {
            move(ticket, TicketState.ACCEPTED);
            record(ticket.id(), who, new Fact.LeftQueue(cause), "");
        }
    }

    private static void requireReason(String why) {
        if (why.isBlank()) {
            throw new Refusal("The member will want to know why: give a reason.");
        }
    }

    private static void requireAtCounter(Ticket ticket) {
        if (!ticket.state().atCounter()) {
            throw new Refusal("This ticket has left the counter: it is “%s”.".formatted(
                    ticket.state().label().toLowerCase()));
        }
    }

    private void move(Ticket ticket, TicketState to) {
        if (!repository.move(ticket.id(), ticket.state(), to)) {
            throw new Refusal("Somebody else has just moved this ticket on. Look at it again.");
        }
    }

    private void record(long id, String who, Fact fact, String why) {
        events.record(who, About.ticket(id), fact, why);
    }
}
