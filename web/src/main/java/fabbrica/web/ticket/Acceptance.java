package fabbrica.web.ticket;

import fabbrica.core.bed.BedFit;
import fabbrica.core.mesh.model.Rotation;
import fabbrica.web.account.Member;
import fabbrica.web.ticket.Ticket.Request;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Service;
import org.springframework.transaction.annotation.Transactional;

/** What it takes to accept a ticket, and accepting it: its part is turned as advised when nobody has turned it yet. */
@Service
public class Acceptance {

    private final Tickets tickets;
    private final Verdicts verdicts;
    private final WaysUp waysUp;

    Acceptance(Tickets tickets, Verdicts verdicts, WaysUp waysUp) {
        this.tickets = tickets;
        this.verdicts = verdicts;
        this.waysUp = waysUp;
    }

    /** Why a request cannot be accepted yet, a sentence each. */
    public static List<String> missing(Request request, @Nullable Member member) {
        List<String> missing = new ArrayList<>();
        if (request.purpose() == null) {
            missing.add("Choose what the print is for.");
        }
        if (member == null) {
            missing.add("Choose the member, or enter a new one.");
        } else if (member.lacksGrownUp()) {
            missing.add("%s is a minor: name the grown-up who answers for them first.".formatted(member.name()));
        }
        return missing;
    }

    /** Which way up a part should lie that nobody has turned yet, where it fits some printer that way. */
    Optional<WaysUp.WayUp> advised(Ticket ticket) {
        return ticket.rotation().equals(Rotation.NONE) && ticket.model().isKept() ? waysUp.known(ticket)
                .filter(way -> verdicts.fits(ticket.turned(way.rotation())).values().stream().anyMatch(BedFit::fits)) : Optional.empty();
    }

    /** Nothing is asked: the request is complete. */
    @Transactional
    public void accept(Ticket seen, Request request, String who) {
        Optional<WaysUp.WayUp> way = advised(seen);
        tickets.accept(seen, request, who);
        way.ifPresent(up -> tickets.turn(tickets.ticket(seen.id()), up.rotation(), "as advised: " + up.reason(), who));
    }
}
