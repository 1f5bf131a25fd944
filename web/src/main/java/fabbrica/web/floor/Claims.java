package fabbrica.web.floor;

import fabbrica.core.estimate.Tariff.Used;
import fabbrica.web.plan.LaidPlate;
import fabbrica.web.plan.Usage;
import fabbrica.web.ticket.Ticket;
import fabbrica.web.ticket.Tickets;
import java.time.Instant;
import java.util.Comparator;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.Optional;
import java.util.Set;
import java.util.function.Function;
import java.util.stream.Collectors;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Component;

/** What plates may ask of the floor: by when they are needed, by how many, and how little whoever wants them has had. */
@Component
class Claims {

    /** A class that waits in vain is many who do (common practice, no source). */
    private static final long OF_A_CLASS = 3;

    private final Tickets tickets;
    private final Together together;
    private final Usage usage;

    Claims(Tickets tickets, Together together, Usage usage) {
        this.tickets = tickets;
        this.together = together;
        this.usage = usage;
    }

    /**
     * A plate's claim.
     *
     * @param due      the earliest moment by which one of its tickets is needed; null when there is no hurry
     * @param weight   1 for an ordinary plate
     * @param patience 1 for members who had nothing of the floor this month, 0 for the one who had most
     * @param tickets  with copies on it
     */
    record Claim(@Nullable Instant due, long weight, double patience, List<Ticket> tickets) {

        /** Of a plate with copies of some tickets that came of plates with these claims. */
        static Claim of(List<Claim> before, List<Long> tickets) {
            List<Ticket> on = before.stream().flatMap(claim -> claim.tickets().stream()).filter(ticket -> tickets.contains(ticket.id())).distinct().toList();
            return new Claim(Claims.due(on).orElse(null), before.stream().mapToLong(Claim::weight).max().orElse(1),
                    before.stream().mapToDouble(Claim::patience).max().orElse(0), on);
        }
    }

    /** Of each plate by its number. */
    Map<Long, Claim> of(List<LaidPlate> plates) {
        Map<Long, Ticket> theirs = tickets(plates);
        Set<Long> grouped = together.grouped(theirs.keySet());
        Map<Long, Used> used = usage.usedThisMonth(theirs.values().stream().map(ticket -> ticket.request().memberId()).filter(Objects::nonNull).distinct().toList());
        double most = used.values().stream().mapToDouble(Used::hours).max().orElse(0);
        Map<Long, Claim> claims = new HashMap<>();
        for (LaidPlate plate : plates) {
            List<Ticket> on = on(plate, theirs);
            double had = on.stream().map(ticket -> Optional.ofNullable(ticket.request().memberId()).map(used::get)).flatMap(Optional::stream)
                    .mapToDouble(Used::hours).average().orElse(0);
            claims.put(plate.id(), new Claim(due(on).orElse(null), on.stream().anyMatch(ticket -> grouped.contains(ticket.id())) ? OF_A_CLASS : 1,
                    most == 0 ? 0 : 1 - had / most, on));
        }
        return claims;
    }

    /** By when each plate is needed; without those that nobody needs by a moment. */
    Map<Long, Instant> needed(List<LaidPlate> plates) {
        Map<Long, Ticket> theirs = tickets(plates);
        Map<Long, Instant> needed = new HashMap<>();
        plates.forEach(plate -> due(on(plate, theirs)).ifPresent(due -> needed.put(plate.id(), due)));
        return needed;
    }

    private Map<Long, Ticket> tickets(List<LaidPlate> plates) {
        return tickets.tickets(plates.stream().flatMap(plate -> plate.tickets().stream()).distinct().toList()).stream()
                .collect(Collectors.toMap(Ticket::id, Function.identity()));
    }

    private static List<Ticket> on(LaidPlate plate, Map<Long, Ticket> tickets) {
        return plate.tickets().stream().map(tickets::get).filter(Objects::nonNull).toList();
    }

    private static Optional<Instant> due(List<Ticket> tickets) {
        return tickets.stream().map(ticket -> ticket.request().neededBy()).filter(Objects::nonNull).min(Comparator.naturalOrder());
    }
}
