package fabbrica.web.ticket;

import fabbrica.core.units.Money;
import fabbrica.web.account.Member;
import fabbrica.web.account.Members;
import fabbrica.web.ticket.TicketSection.Visit;
import java.util.List;
import java.util.Optional;
import org.springframework.stereotype.Component;

/** What is printed goes to its member, and may come back when that was too early. */
@Component
class HandOutSection implements TicketSection {

    private final Members members;
    private final Tickets tickets;

    HandOutSection(Members members, Tickets tickets) {
        this.members = members;
        this.tickets = tickets;
    }

    /** @param code that its member was told to collect it by */
    record HandOutPage(Ticket ticket, String why, String code) {
    }

    @Override
    public String name() {
        return "hand-out";
    }

    @Override
    public String title() {
        return "Hand-out";
    }

    @Override
    public int place() {
        return 60;
    }

    /** ", 2.40 EUR to be paid"; empty when it costs nothing. */
    private static String paid(Charge charge) {
        Money price = charge.price();
        return price == null || price.amount().signum() == 0 ? "" : ", %s %s".formatted(price, charge.isDue() ? "to be paid" : "paid");
    }

    @Override
    public Optional<Shown> show(Ticket ticket, Visit visit) {
        if (!ticket.state().canBeHandedOut() && !ticket.state().isHandedOut()) {
            return Optional.empty();
        }
        String to = Optional.ofNullable(ticket.request().memberId()).flatMap(members::member).map(Member::name).orElse("somebody not named");
        String code = tickets.collectCodes(List.of(ticket.id())).getOrDefault(ticket.id(), "");
        String why = visit.entered() == null ? "" : Optional.ofNullable(visit.entered().getFirst("why")).orElse("");
        return Optional.of(shown((ticket.state().isHandedOut() ? "went to " : "waits for ") + to + paid(ticket.charge()), "ticket/hand-out :: handOut", new HandOutPage(ticket, why, code))
                .opened(visit.entered() != null).offering(ticket.state().isHandedOut() ? null
                        : NextStep.press(ticket.charge().isDue() ? "Hand out, %s paid".formatted(ticket.charge().price()) : "Hand out", "hand-out", "To %s, who says %s.".formatted(to, code))));
    }
}
