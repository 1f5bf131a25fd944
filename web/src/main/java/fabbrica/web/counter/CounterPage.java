package fabbrica.web.counter;

import fabbrica.web.account.Member;
import fabbrica.web.platform.Seen;
import fabbrica.web.platform.events.Event;
import fabbrica.web.platform.events.Fact;
import fabbrica.web.ticket.Purpose;
import fabbrica.web.ticket.Ticket;
import java.time.Instant;
import java.util.List;
import java.util.Map;
import org.jspecify.annotations.Nullable;

/**
 * What stands on the counter.
 *
 * @param furnished whether the lab has a printer
 * @param closed the latest of the tickets that came to nothing; {@code more} tells whether there are others
 */
record CounterPage(int limitMb, boolean furnished, List<HandOver> handOvers, List<Groups.Standing> groups, List<Strip> fresh, List<Strip> toPlan, List<Strip> toHandOut,
                   Closed closed, Purpose[] purposes) {

    /**
     * @param member empty when nobody is named yet
     * @param wanted what is to be done next, and by whom
     * @param seen   the mark of the ticket as it is shown
     */
    record Strip(long id, String model, String member, @Nullable Instant neededBy, String wanted, String seen) {

        /** @param last what happened last, where that matters; null otherwise */
        static Strip of(Ticket ticket, Map<Long, Member> members, @Nullable Event last) {
            return of(ticket, members, last, null);
        }

        /** @param usual purpose where a ticket has none; null when there is none */
        static Strip of(Ticket ticket, Map<Long, Member> members, @Nullable Event last, @Nullable Purpose usual) {
            Long id = ticket.request().memberId();
            Member member = id == null ? null : members.get(id);
            String name = member == null ? "" : member.name();
            return new Strip(ticket.id(), ticket.model().name(), name, ticket.request().neededBy(), wanted(ticket, name, last, usual), Seen.of(ticket));
        }

        private static String wanted(Ticket ticket, String member, @Nullable Event last, @Nullable Purpose usual) {
            String whoever = member.isEmpty() ? "the member" : member;
            return switch (ticket.state()) {
                case NEW -> member.isEmpty() ? "name its member" : ticket.request().purpose() == null && usual == null ? "ask %s what it is for".formatted(member)
                        : last != null && last.fact() instanceof Fact.Answered ? "%s has answered: look again".formatted(member) : "accept it, or say why not";
                case ACCEPTED -> "plan it";
                case FAILED -> "try it again, or change one thing";
                case QUEUED -> "start it when its printer is free";
                case RUNNING -> "it prints";
                case PRINTED -> "%s collects it".formatted(whoever);
                case SENT_BACK -> "%s answers".formatted(whoever);
                case DECLINED -> "declined";
                case WITHDRAWN -> "withdrawn";
                case HANDED_OUT -> "handed out";
            };
        }
    }

    /** @param before the last that is shown, when there are earlier ones */
    record Closed(List<Strip> tickets, @Nullable Long before) {
    }
}
