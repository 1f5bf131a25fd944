package fabbrica.web.ticket;

import fabbrica.web.platform.events.Outbox;
import fabbrica.web.stores.Inventory;
import java.time.Clock;
import java.time.Duration;
import java.time.Instant;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.stream.Collectors;
import org.springframework.context.annotation.Lazy;
import org.springframework.scheduling.annotation.Scheduled;
import org.springframework.stereotype.Component;

/** What is printed and not collected: its member is reminded every few days, and after some it may be put away. */
@Component
@Lazy(false)
public class Uncollected {

    private final Tickets tickets;
    private final Outbox outbox;
    private final Inventory inventory;
    private final Clock clock;

    Uncollected(Tickets tickets, Outbox outbox, Inventory inventory, Clock clock) {
        this.tickets = tickets;
        this.outbox = outbox;
        this.inventory = inventory;
        this.clock = clock;
    }

    @Scheduled(initialDelayString = "PT3M", fixedDelayString = "PT1H")
    void remind() {
        int days = inventory.setUp().map(lab -> lab.keeping().remindDays()).orElse(0);
        if (days > 0) {
            List<Ticket> printed = tickets.inStates(TicketState.PRINTED);
            Map<Long, List<Outbox.Told>> told = outbox.ofTickets(printed.stream().map(Ticket::id).toList()).stream()
                    .collect(Collectors.groupingBy(each -> Objects.requireNonNull(each.event().about().ticket())));
            Instant before = clock.instant().minus(Duration.ofDays(days));
            printed.stream().filter(ticket -> told.getOrDefault(ticket.id(), List.of()).stream().findFirst()
                    .filter(last -> last.event().at().isBefore(before)).isPresent()).forEach(tickets::remind);
        }
    }

    /** Whether what has been printed since a moment has lain there for as long as the house keeps it. */
    public boolean mayBePutAway(Instant since) {
        int days = inventory.lab().keeping().shelfDays();
        return days > 0 && since.isBefore(clock.instant().minus(Duration.ofDays(days)));
    }
}
