package fabbrica.web.counter;

import fabbrica.web.account.Member;
import fabbrica.web.plan.SlicedFile;
import fabbrica.web.ticket.Ticket;
import java.time.Instant;
import java.util.List;
import java.util.Map;
import org.jspecify.annotations.Nullable;

/**
 * What stands on the counter.
 *
 * @param sliced files sliced elsewhere, without a ticket
 * @param closed the latest of the tickets that came to nothing; {@code more} tells whether there are others
 */
record CounterPage(int limitMb, List<HandOver> handOvers, List<SlicedFile> sliced, List<Strip> fresh, List<Strip> toPlan, List<Strip> toHandOut,
                   Closed closed) {

    /** @param member empty when nobody is named yet */
    record Strip(long id, String model, String member, @Nullable Instant neededBy, String state) {

        static Strip of(Ticket ticket, Map<Long, Member> members) {
            Long id = ticket.request().memberId();
            Member member = id == null ? null : members.get(id);
            return new Strip(ticket.id(), ticket.model().name(), member == null ? "" : member.name(), ticket.request().neededBy(),
                    ticket.state().label());
        }
    }

    /** @param before the last that is shown, when there are earlier ones */
    record Closed(List<Strip> tickets, @Nullable Long before) {
    }
}
