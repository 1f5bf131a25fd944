package fabbrica.web.ticket;

import fabbrica.web.platform.Moments;
import fabbrica.web.platform.events.Event;
import fabbrica.web.ticket.TicketSection.Visit;
import java.util.List;
import java.util.Optional;
import org.springframework.stereotype.Component;

/** What happened to a ticket, in its order. */
@Component
class HistorySection implements TicketSection {

    private final Tickets tickets;
    private final Moments moments;

    HistorySection(Tickets tickets, Moments moments) {
        this.tickets = tickets;
        this.moments = moments;
    }

    record HistoryPage(Ticket ticket, List<Event> events) {
    }

    @Override
    public String name() {
        return "history";
    }

    @Override
    public String title() {
        return "History";
    }

    @Override
    public int place() {
        return 70;
    }

    @Override
    public Optional<Shown> show(Ticket ticket, Visit visit) {
        List<Event> events = tickets.history(ticket.id());
        return Optional.of(shown(events.isEmpty() ? "" : "%s, %s".formatted(events.getLast().what(), moments.say(events.getLast().at())),
                "ticket/history :: history", new HistoryPage(ticket, events)));
    }
}
