package fabbrica.web.ticket;

import fabbrica.web.platform.events.Event;
import java.util.List;
import java.util.Optional;
import org.springframework.stereotype.Component;

/** What happened to a ticket, in its order. */
@Component
class HistorySection implements TicketSection {

    private final Tickets tickets;

    HistorySection(Tickets tickets) {
        this.tickets = tickets;
    }

    record HistoryPage(List<Event> events) {
    }

    @Override
    public String name() {
        return "history";
    }

    @Override
    public int place() {
        return 60;
    }

    @Override
    public Optional<Shown> show(Ticket ticket, Visit visit) {
        return shown("ticket/history :: history", new HistoryPage(tickets.history(ticket.id())));
    }
}
