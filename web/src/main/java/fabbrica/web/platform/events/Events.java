package fabbrica.web.platform.events;

import fabbrica.web.platform.Live;
import java.time.Clock;
import java.util.Collection;
import java.util.List;
import java.util.Map;
import java.util.stream.Collectors;
import org.springframework.context.ApplicationEventPublisher;
import org.springframework.stereotype.Component;

/** The log of all that happens. Every step writes into it in its own transaction; what must be told goes to the outbox with it. */
@Component
public class Events {

    private final EventRepository repository;
    private final Live live;
    private final ApplicationEventPublisher publisher;
    private final Clock clock;

    Events(EventRepository repository, Live live, ApplicationEventPublisher publisher, Clock clock) {
        this.repository = repository;
        this.live = live;
        this.publisher = publisher;
        this.clock = clock;
    }

    /**
     * @param who    the name by which they sign in; empty when nobody did it
     * @param remark what they wrote with it; may be empty
     */
    public void record(String who, About about, Fact fact, String remark) {
        long id = repository.insert(clock.instant(), who, about, fact);
        if (!remark.isBlank()) {
            repository.insertRemark(id, remark);
        }
        live.floorMoves();
        publisher.publishEvent(new Happened(fact, about));
        if (fact.isTold()) {
            repository.insertIntoOutbox(id);
        }
    }

    public void record(String who, About about, Fact fact) {
        record(who, about, fact, "");
    }

    /** Something moved on the floor that is no fact of its own. */
    public void moved() {
        live.floorMoves();
    }

    /** In their order. */
    public List<Event> ofTicket(long ticketId) {
        return repository.ofTickets(List.of(ticketId));
    }

    /** In their order, of each ticket that has some. */
    public Map<Long, List<Event>> ofTickets(Collection<Long> ticketIds) {
        return ticketIds.isEmpty() ? Map.of() : repository.ofTickets(ticketIds).stream().collect(Collectors.groupingBy(event -> event.about().ticket()));
    }

    /** Of each ticket the latest. */
    public Map<Long, Event> latestOfTickets(Collection<Long> ticketIds) {
        return ticketIds.isEmpty() ? Map.of() : repository.latestOfTickets(ticketIds).stream().collect(Collectors.toMap(event -> event.about().ticket(), event -> event));
    }

    /** The latest first. */
    public List<Event> ofSpool(long spoolId, int most) {
        return repository.ofSpool(spoolId, most);
    }

    /** The latest first. */
    public List<Event> ofPrinter(String printerId, int most) {
        return repository.ofPrinter(printerId, most);
    }

    /** All that somebody did, by the name they sign in with. */
    public List<Event> by(String who) {
        return repository.by(who);
    }
}
