package fabbrica.web.ticket;

import fabbrica.core.mesh.model.Rotation;
import fabbrica.core.units.LengthUnit;
import fabbrica.web.platform.Outdated;
import fabbrica.web.platform.Refusal;
import fabbrica.web.platform.events.About;
import fabbrica.web.platform.events.Event;
import fabbrica.web.platform.events.Events;
import fabbrica.web.platform.events.Fact;
import fabbrica.web.ticket.Ticket.Request;
import java.time.Clock;
import java.time.Instant;
import java.util.Arrays;
import java.util.Collection;
import java.util.HashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Objects;
import java.util.Optional;
import java.util.stream.Collectors;
import java.util.stream.Stream;
import org.jspecify.annotations.Nullable;
import org.springframework.context.ApplicationEventPublisher;
import org.springframework.stereotype.Service;
import org.springframework.transaction.annotation.Transactional;

/**
 * The life of tickets. Every step is one transaction that changes the ticket and appends to its history; a step is asked for with
 * the ticket as it was seen, so that asked for twice, or by two people at once, it happens once and is refused the second time.
 */
@Service
public class Tickets {

    private final TicketRepository repository;
    private final Events events;
    private final ApplicationEventPublisher publisher;
    private final Clock clock;

    Tickets(TicketRepository repository, Events events, ApplicationEventPublisher publisher, Clock clock) {
        this.repository = repository;
        this.events = events;
        this.publisher = publisher;
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

    /** Tickets by their numbers, in their order. */
    public List<Ticket> tickets(Collection<Long> ids) {
        return repository.tickets(ids);
    }

    public Optional<Ticket> find(long id) {
        return repository.ticket(id);
    }

    public List<Ticket> inStates(TicketState... states) {
        return repository.inStates(List.of(states));
    }

    /**
     * Tickets in some states, the latest first.
     *
     * @param before only those that were handed over before this one; null for the latest
     */
    public List<Ticket> latest(@Nullable Long before, int most, TicketState... states) {
        return repository.latest(List.of(states), before, most);
    }

    /** Tickets whose model, member or number is meant by some words, each of them; the latest first. */
    public List<Ticket> search(String words, int most) {
        List<String> all = Arrays.stream(words.toLowerCase(Locale.ROOT).split("\\s+")).filter(word -> !word.isEmpty()).toList();
        return all.isEmpty() ? List.of() : repository.search(all, most);
    }

    public List<Ticket> ofMember(long memberId) {
        return repository.ofMember(memberId);
    }

    /** Of some files, by their hashes, the tickets that had one before, the latest first. */
    public Map<String, List<Earlier>> earlier(Collection<String> hashes) {
        Map<String, List<Long>> found = hashes.isEmpty() ? Map.of() : repository.withFiles(hashes);
        Map<Long, List<Event>> histories = events.ofTickets(found.values().stream().flatMap(List::stream).toList());
        Map<String, List<Earlier>> earlier = new HashMap<>();
        found.forEach((hash, ids) -> earlier.put(hash, ids.stream().flatMap(id -> Stream.ofNullable(histories.get(id))
                .map(history -> new Earlier(id, history.getLast()))).toList()));
        return earlier;
    }

    /** The codes by which members collect what is printed, by the numbers of their tickets. */
    public Map<Long, String> collectCodes(Collection<Long> ids) {
        return ids.isEmpty() ? Map.of() : repository.collectCodes(ids);
    }

    /** What happened last to some tickets. */
    public Map<Long, Event> latest(Collection<Long> ids) {
        return events.latestOfTickets(ids);
    }

    public List<Event> history(long id) {
        return events.ofTicket(id);
    }

    @Transactional
    public void saveRequest(Ticket seen, Request request) {
        requireAtCounter(unchanged(seen));
        repository.saveRequest(seen.id(), request);
    }

    /** Says by when a ticket is needed, wherever it is. */
    @Transactional
    public void needBy(Ticket seen, Instant by, String who) {
        Request asked = unchanged(seen).request();
        if (!by.equals(asked.neededBy())) {
            repository.saveRequest(seen.id(), new Request(asked.memberId(), asked.purpose(), by, asked.materialWish(), asked.colourWish(), asked.quantity(),
                    asked.source(), asked.designerNotes()));
            record(seen.id(), who, new Fact.NeededBy(by), "");
        }
    }

    @Transactional
    public void resize(Ticket seen, LengthUnit unit, double scalePercent, String who) {
        Ticket ticket = changeable(seen).shaped();
        repository.saveSize(seen.id(), unit, scalePercent);
        record(seen.id(), who, new Fact.Resized(scalePercent, unit), "");
        planAgain(ticket, who, Fact.Cause.SIZE);
    }

    /** @param rotation from how the part was drawn */
    @Transactional
    public void turn(Ticket seen, Rotation rotation, String who) {
        turn(seen, rotation, "", who);
    }

    /** @param why a sentence; may be empty */
    @Transactional
    public void turn(Ticket seen, Rotation rotation, String why, String who) {
        Ticket ticket = changeable(seen).shaped();
        repository.saveRotation(seen.id(), rotation);
        record(seen.id(), who, new Fact.Turned(), why);
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
        return Optional.ofNullable(originals(List.of(ticket)).get(ticket.id()));
    }

    /** So for several tickets, by the number of each whose model was made from another that is still kept. */
    public Map<Long, StoredModel> originals(List<Ticket> some) {
        Map<Long, StoredModel> models = repository.models(some.stream().map(ticket -> ticket.model().revisionOf()).filter(Objects::nonNull)
                .toList()).stream().filter(StoredModel::isKept).collect(Collectors.toMap(StoredModel::id, model -> model));
        Map<Long, StoredModel> originals = new HashMap<>();
        some.forEach(ticket -> Optional.ofNullable(ticket.model().revisionOf()).map(models::get)
                .ifPresent(model -> originals.put(ticket.id(), model)));
        return originals;
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

    /**
     * Takes a member's answer to what was asked of her; the ticket lies at the counter again.
     *
     * @param instead a model in place of the one that was sent back; null when that stays
     */
    @Transactional
    public void answer(Ticket seen, String answer, @Nullable Revision instead, String who) {
        Ticket ticket = unchanged(seen);
        if (ticket.state() != TicketState.SENT_BACK) {
            throw new Refusal("Nothing is asked of you on this ticket.");
        }
        if (answer.isBlank() && instead == null) {
            throw new Refusal("Write an answer, or bring another file.");
        }
        move(ticket, TicketState.NEW);
        record(ticket.id(), who, new Fact.Answered(), answer);
        if (instead != null) {
            revised(ticket(ticket.id()), instead, who);
        }
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
        publisher.publishEvent(new PartChanged(ticket.id(), Fact.Cause.WITHDRAWN, who));
        move(ticket(ticket.id()), TicketState.WITHDRAWN);
        record(ticket.id(), who, new Fact.Withdrawn(), why);
    }

    /** Writes down how a ticket was planned last. */
    @Transactional
    public void planned(long id, long planId) {
        repository.savePlan(id, planId);
    }

    /** Puts an accepted ticket where its copies are. */
    @Transactional
    public void become(long id, TicketState to) {
        Ticket ticket = ticket(id);
        if (ticket.state() != to && !ticket.state().isOver() && !ticket.state().atCounter()) {
            move(ticket, to);
        }
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

    /** Says where what is printed lies until it is collected. */
    @Transactional
    public void shelve(Ticket seen, String place) {
        repository.saveShelf(unchanged(seen).id(), place);
    }

    /** Reminds the member of what lies there. */
    @Transactional
    public void remind(Ticket seen) {
        if (unchanged(seen).state() == TicketState.PRINTED) {
            record(seen.id(), "", new Fact.Reminded(), "");
        }
    }

    /** Puts away what nobody has collected; its member is told. */
    @Transactional
    public void putAway(Ticket seen, String who) {
        Ticket ticket = unchanged(seen);
        if (ticket.state() != TicketState.PRINTED) {
            throw new Refusal("Only what is printed and waits can be put away.");
        }
        move(ticket, TicketState.WITHDRAWN);
        record(ticket.id(), who, new Fact.PutAway(), "");
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
        publisher.publishEvent(new PartChanged(ticket.id(), cause, who));
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
