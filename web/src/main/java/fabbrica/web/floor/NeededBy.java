package fabbrica.web.floor;

import fabbrica.web.plan.LaidPlate;
import fabbrica.web.ticket.Ticket;
import fabbrica.web.ticket.Tickets;
import java.time.Instant;
import java.util.Comparator;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.stream.Collectors;
import org.springframework.stereotype.Component;

/** The earliest moment by which a ticket with copies on a plate is needed. */
@Component
class NeededBy {

    private final Tickets tickets;

    NeededBy(Tickets tickets) {
        this.tickets = tickets;
    }

    /** Of each plate by its number; without those that nobody needs by a moment. */
    Map<Long, Instant> of(List<LaidPlate> plates) {
        Map<Long, Instant> needed = tickets.tickets(plates.stream().flatMap(plate -> plate.tickets().stream()).distinct().toList()).stream()
                .filter(ticket -> ticket.request().neededBy() != null)
                .collect(Collectors.toMap(Ticket::id, ticket -> Objects.requireNonNull(ticket.request().neededBy())));
        Map<Long, Instant> byPlate = new HashMap<>();
        plates.forEach(plate -> plate.tickets().stream().map(needed::get).filter(Objects::nonNull).min(Comparator.naturalOrder())
                .ifPresent(earliest -> byPlate.put(plate.id(), earliest)));
        return byPlate;
    }
}
