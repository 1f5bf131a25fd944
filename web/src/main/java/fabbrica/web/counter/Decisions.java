package fabbrica.web.counter;

import fabbrica.web.account.Member;
import fabbrica.web.account.Members;
import fabbrica.web.platform.Refusal;
import fabbrica.web.ticket.Acceptance;
import fabbrica.web.ticket.Purpose;
import fabbrica.web.ticket.Ticket;
import fabbrica.web.ticket.Ticket.Request;
import fabbrica.web.ticket.Tickets;
import java.time.Instant;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.function.Consumer;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Service;

/** Decides on several tickets at once, each for itself: what cannot be done with one is said and holds up no other. */
@Service
class Decisions {

    private final Tickets tickets;
    private final Members members;
    private final Acceptance acceptance;

    Decisions(Tickets tickets, Members members, Acceptance acceptance) {
        this.tickets = tickets;
        this.members = members;
        this.acceptance = acceptance;
    }

    /** @param refused why, a sentence for each that stayed as it was */
    record Outcome(int done, List<String> refused) {
    }

    /**
     * Accepts tickets by what they ask for.
     *
     * @param purpose  of those that have none; null for none
     * @param neededBy so too
     */
    Outcome accept(List<Ticket> seen, @Nullable Purpose purpose, @Nullable Instant neededBy, String who) {
        Map<Long, Member> named = members.members(seen.stream().map(ticket -> ticket.request().memberId()).toList());
        return each(seen, ticket -> {
            Request asked = ticket.request();
            Request request = new Request(asked.memberId(), asked.purpose() == null ? purpose : asked.purpose(), asked.neededBy() == null ? neededBy : asked.neededBy(),
                    asked.materialWish(), asked.colourWish(), asked.quantity(), asked.source(), asked.designerNotes());
            List<String> missing = Acceptance.missing(request, asked.memberId() == null ? null : named.get(asked.memberId()));
            if (!missing.isEmpty()) {
                throw new Refusal(String.join(" ", missing));
            }
            acceptance.accept(ticket, request, who);
        });
    }

    Outcome sendBack(List<Ticket> seen, String why, String who) {
        return each(seen, ticket -> tickets.sendBack(ticket, why, who));
    }

    Outcome decline(List<Ticket> seen, String why, String who) {
        return each(seen, ticket -> tickets.decline(ticket, why, who));
    }

    Outcome withdraw(List<Ticket> seen, String why, String who) {
        return each(seen, ticket -> tickets.withdraw(ticket, why, who));
    }

    private static Outcome each(List<Ticket> seen, Consumer<Ticket> step) {
        List<String> refused = new ArrayList<>();
        for (Ticket ticket : seen) {
            try {
                step.accept(ticket);
            } catch (Refusal refusal) {
                refused.add("No. %d, %s: %s".formatted(ticket.id(), ticket.model().name(), refusal.getMessage()));
            }
        }
        return new Outcome(seen.size() - refused.size(), refused);
    }
}
