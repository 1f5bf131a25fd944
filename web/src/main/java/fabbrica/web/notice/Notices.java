package fabbrica.web.notice;

import fabbrica.web.account.Member;
import fabbrica.web.account.Members;
import fabbrica.web.platform.Moments;
import fabbrica.web.platform.events.Event;
import fabbrica.web.platform.events.Fact;
import fabbrica.web.platform.events.Outbox;
import fabbrica.web.stores.Inventory;
import fabbrica.web.ticket.Ticket;
import fabbrica.web.ticket.Tickets;
import java.time.Instant;
import java.util.Collection;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.Optional;
import java.util.function.Function;
import java.util.stream.Collectors;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Service;

/** Makes sentences for a member out of what happened to her tickets. */
@Service
public class Notices {

    private final Outbox outbox;
    private final Tickets tickets;
    private final Members members;
    private final Inventory inventory;
    private final Moments moments;

    Notices(Outbox outbox, Tickets tickets, Members members, Inventory inventory, Moments moments) {
        this.outbox = outbox;
        this.tickets = tickets;
        this.members = members;
        this.inventory = inventory;
        this.moments = moments;
    }

    /** What was told of some tickets, the latest first. */
    public List<Letter> ofTickets(Collection<Long> ids, int most) {
        List<Outbox.Told> told = outbox.ofTickets(ids).stream().limit(most).toList();
        Map<Long, Notice> sentences = of(told.stream().map(Outbox.Told::event).toList());
        return told.stream().filter(each -> sentences.containsKey(each.event().id())).map(each -> new Letter(each.event().at(),
                Objects.requireNonNull(sentences.get(each.event().id())))).toList();
    }

    /** A notice and when what it tells happened. */
    public record Letter(Instant at, Notice notice) {
    }

    /** Of events that are told, by their numbers. */
    public Map<Long, Notice> of(List<Event> events) {
        Map<Long, Ticket> about = tickets.tickets(events.stream().map(event -> event.about().ticket()).filter(Objects::nonNull).distinct().toList())
                .stream().collect(Collectors.toMap(Ticket::id, Function.identity()));
        Map<Long, String> codes = tickets.collectCodes(about.keySet());
        Map<Long, Member> named = members.members(about.values().stream().map(ticket -> ticket.request().memberId()).toList());
        String lab = inventory.lab().name();
        Map<Long, Notice> notices = new LinkedHashMap<>();
        for (Event event : events) {
            Ticket ticket = about.get(event.about().ticket());
            if (ticket != null) {
                Member member = Optional.ofNullable(ticket.request().memberId()).map(named::get).filter(each -> !each.forgotten()).orElse(null);
                notices.put(event.id(), notice(event, ticket, member, lab, codes.getOrDefault(ticket.id(), "")));
            }
        }
        return notices;
    }

    private Notice notice(Event event, Ticket ticket, @Nullable Member member, String lab, String code) {
        String name = ticket.model().name(), why = event.why();
        return switch (event.fact()) {
            case Fact.Accepted() -> told(ticket, member, lab, "%s is taken in".formatted(name), "We have taken in %s%s. Your page says when it is printed and what it takes."
                    .formatted(name, ticket.request().neededBy() == null ? "" : ", needed " + moments.say(ticket.request().neededBy())));
            case Fact.SentBack() -> told(ticket, member, lab, "A question about %s".formatted(name),
                    "Before we can print %s we need something from you: %s%nAnswer on your page, or bring another file.".formatted(name, why));
            case Fact.Reminded() -> told(ticket, member, lab, "%s waits for you".formatted(name), "%s is printed and waits at the counter; say the code %s.".formatted(name, code));
            case Fact.PutAway() -> told(ticket, member, lab, "%s was put away".formatted(name), "Nobody has collected %s. We have put it away; ask at the counter.".formatted(name));
            case Fact.PriceAsked(String price) -> told(ticket, member, lab, "%s costs %s".formatted(name, price),
                    "Printing %s costs %s. Say on your page whether that is all right; it is printed once you have.".formatted(name, price));
            case Fact.Promised(Instant collect, Instant before) when before != null -> told(ticket, member, lab, "%s takes longer".formatted(name),
                    "We said you could collect %s from %s on. It takes longer than we thought: from %s on, as far as we can tell. We are sorry."
                            .formatted(name, moments.dated(before), moments.dated(collect)));
            case Fact.Promised(Instant collect, var none) -> told(ticket, member, lab, "When %s is ready".formatted(name),
                    "%s has its place among the prints. You can collect it from %s on, as far as we can tell; we write again when it is ready."
                            .formatted(name, moments.dated(collect)));
            case Fact.Declined() -> told(ticket, member, lab, "%s is not printed here".formatted(name), "We cannot print %s: %s".formatted(name, why));
            case Fact.Withdrawn() -> told(ticket, member, lab, "%s is withdrawn".formatted(name), "%s is not printed any more: %s".formatted(name, why));
            case Fact.RunEnded(int well, int failed, int cancelled, long seconds, double grams, var defects, int done, int of) when done >= of ->
                    told(ticket, member, lab, "%s is ready".formatted(name), "%s is printed%s. Collect it at the counter; say the code %s."
                            .formatted(name, of == 1 ? "" : ", all %d of them".formatted(of), code));
            case Fact.RunEnded ended -> told(ticket, member, lab, "%s: a try went wrong".formatted(name),
                    "A try at %s did not come out well%s. We try again; there is nothing for you to do.".formatted(name, why.isEmpty() ? "" : " (" + why + ")"));
            default -> told(ticket, member, lab, name, "%s: %s%s".formatted(name, event.what(), why.isEmpty() ? "" : ", " + why));
        };
    }

    private static Notice told(Ticket ticket, @Nullable Member member, String lab, String subject, String text) {
        return new Notice(ticket.id(), member, subject, text, "Ticket no. %d, %s".formatted(ticket.id(), lab));
    }
}
