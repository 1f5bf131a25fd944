package fabbrica.web.platform.events;

import fabbrica.web.platform.storage.WriterTransactions;
import java.time.Clock;
import java.time.Duration;
import java.time.Instant;
import java.util.Collection;
import java.util.List;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Component;
import org.springframework.transaction.annotation.Transactional;

/** What members are to be told, until they were. What cannot be delivered is tried again, later each time, for about a day. */
@Component
public class Outbox {

    private static final Duration FIRST_WAIT = Duration.ofMinutes(1);
    private static final int MOST_TRIES = 11;

    private final EventRepository repository;
    private final Clock clock;

    Outbox(EventRepository repository, Clock clock) {
        this.repository = repository;
        this.clock = clock;
    }

    /** How somebody was told; the names are stored. */
    public enum Way {
        PAGE("on their page"), MAIL("by mail and on their page"), UNDELIVERED("on their page; the mail could not be delivered");

        private final String label;

        Way(String label) {
            this.label = label;
        }

        public String label() {
            return label;
        }
    }

    /**
     * Something that is told.
     *
     * @param at  when it was delivered; null while it waits, as with way
     * @param tries that were in vain
     */
    public record Told(Event event, @Nullable Instant at, @Nullable Way way, int tries) {
    }

    /** What waits to be delivered, in its order. */
    public List<Event> due(int most) {
        return repository.due(clock.instant(), most);
    }

    @Transactional(label = WriterTransactions.ASIDE)
    public void delivered(Event event, Way way) {
        repository.delivered(event.id(), clock.instant(), way);
    }

    /** Puts it off: a minute at first, twice as long each time; after the last try it is given up. */
    @Transactional
    public void failed(Event event) {
        int tries = repository.failed(event.id());
        if (tries >= MOST_TRIES) {
            repository.delivered(event.id(), clock.instant(), Way.UNDELIVERED);
        } else {
            repository.tryAgain(event.id(), clock.instant().plus(FIRST_WAIT.multipliedBy(1L << (tries - 1))));
        }
    }

    /** The latest first. */
    public List<Told> latest(int most) {
        return repository.told(most);
    }

    /** What was told of some tickets, the latest first. */
    public List<Told> ofTickets(Collection<Long> tickets) {
        return repository.toldOf(tickets);
    }
}
