package fabbrica.web.counter;

import fabbrica.web.floor.Together;
import fabbrica.web.platform.Outdated;
import fabbrica.web.platform.Refusal;
import fabbrica.web.ticket.Purpose;
import fabbrica.web.ticket.Ticket;
import fabbrica.web.ticket.TicketState;
import fabbrica.web.ticket.Tickets;
import java.time.Clock;
import java.time.Instant;
import java.util.Arrays;
import java.util.Collection;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Objects;
import java.util.Set;
import java.util.stream.Collectors;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Service;
import org.springframework.transaction.annotation.Transactional;

/** The groups that tickets belong to. */
@Service
public class Groups implements Together {

    private static final List<TicketState> OPEN = Arrays.stream(TicketState.values()).filter(state -> !state.isOver() || state == TicketState.SENT_BACK).toList();

    private final GroupRepository repository;
    private final Tickets tickets;
    private final Clock clock;

    Groups(GroupRepository repository, Tickets tickets, Clock clock) {
        this.repository = repository;
        this.tickets = tickets;
        this.clock = clock;
    }

    /** A group with how many of its tickets are in each state. */
    record Standing(Group group, Map<TicketState, Integer> counts) {

        /** "3 at the counter, 12 waiting for its printer". */
        public String spoken() {
            return counts.entrySet().stream().map(each -> "%d %s".formatted(each.getValue(), each.getKey().label().toLowerCase(Locale.ROOT)))
                    .collect(Collectors.joining("; "));
        }

        public int all() {
            return counts.values().stream().mapToInt(Integer::intValue).sum();
        }
    }

    /** @throws NoSuchElementException when there is none with that number */
    Group group(long id) {
        return repository.group(id).orElseThrow();
    }

    List<Ticket> tickets(Group group) {
        return tickets.tickets(repository.tickets(group.id()));
    }

    /** With something still to be done, the most urgent first. */
    List<Standing> open() {
        List<Group> open = repository.open(OPEN);
        Map<Long, Map<TicketState, Integer>> counts = repository.counts(open.stream().map(Group::id).toList());
        return open.stream().map(group -> new Standing(group, counts.getOrDefault(group.id(), Map.of()))).toList();
    }

    @Override
    public Set<Long> grouped(Collection<Long> some) {
        return Set.copyOf(repository.grouped(some));
    }

    /** Makes tickets one group; by its deadline all of them are needed. */
    @Transactional
    public long make(String name, @Nullable Purpose purpose, @Nullable Instant neededBy, List<Ticket> some, String who) {
        if (name.isBlank()) {
            throw new Refusal("Give the group a name: a class, a club, a course.");
        }
        if (some.isEmpty()) {
            throw new Refusal("Tick at least one ticket.");
        }
        long id = repository.insert(name, purpose, neededBy, clock.instant());
        some.forEach(ticket -> repository.put(ticket.id(), id));
        needed(some, neededBy, who);
        return id;
    }

    @Transactional
    public void change(Group seen, Group group, String who) {
        if (!group(seen.id()).equals(seen)) {
            throw new Outdated();
        }
        if (group.name().isBlank()) {
            throw new Refusal("Give the group a name: a class, a club, a course.");
        }
        repository.save(group);
        if (!Objects.equals(seen.neededBy(), group.neededBy())) {
            needed(tickets(group), group.neededBy(), who);
        }
    }

    /** Takes a ticket out of its group. */
    @Transactional
    public void release(Ticket ticket) {
        repository.put(ticket.id(), null);
    }

    private void needed(List<Ticket> some, @Nullable Instant by, String who) {
        if (by != null) {
            some.stream().filter(ticket -> !ticket.state().isOver()).forEach(ticket -> tickets.needBy(ticket, by, who));
        }
    }
}
