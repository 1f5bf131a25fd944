package fabbrica.web.stores;

import fabbrica.core.units.Spoken;
import fabbrica.web.platform.Outdated;
import fabbrica.web.platform.Refusal;
import fabbrica.web.platform.events.About;
import fabbrica.web.platform.events.Events;
import fabbrica.web.platform.events.Fact;
import java.time.Clock;
import java.time.Instant;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import org.jspecify.annotations.Nullable;
import org.springframework.dao.DataIntegrityViolationException;
import org.springframework.stereotype.Service;
import org.springframework.transaction.annotation.Transactional;

/**
 * The spools of the lab. What one holds is the sum of what came to it and went from it; nothing of that is ever changed, a
 * correction is one more movement.
 */
@Service
public class Spools {

    private static final double NOTICED_G = 0.0005;

    private final SpoolRepository repository;
    private final Inventory inventory;
    private final Events events;
    private final Clock clock;

    Spools(SpoolRepository repository, Inventory inventory, Events events, Clock clock) {
        this.repository = repository;
        this.inventory = inventory;
        this.events = events;
        this.clock = clock;
    }

    /** Spools that were taken off the shelf, those with the highest numbers first. */
    public List<StockSpool> offShelf(int belowNumber, int most) {
        return repository.offShelf(belowNumber, most);
    }

    /** Spools that can be used. */
    public List<StockSpool> shelf() {
        return repository.shelf();
    }

    /**
     * Of some spools, those of which more has been booked since they were weighed than they still hold: what is booked is mostly
     * worked out, and its error has grown as large as to matter. Those whose empty reel nobody has weighed are left out.
     */
    public List<StockSpool> toWeigh(List<StockSpool> some) {
        List<StockSpool> weighable = some.stream().filter(spool -> spool.tareG() != null).toList();
        Map<Long, Double> booked = repository.bookedSinceKnown(weighable.stream().map(StockSpool::id).toList());
        return weighable.stream().filter(spool -> booked.getOrDefault(spool.id(), 0.0) > spool.spool().remainingG()).toList();
    }

    public Optional<StockSpool> spool(long id) {
        return repository.spool(id);
    }

    /** Grams that a spool held at a moment, by what came to it and went from it. */
    public double heldAt(long id, Instant at) {
        return repository.heldAt(id, at);
    }

    /** The latest first. */
    public List<Movement> movements(long id, int most) {
        return repository.movements(id, most);
    }

    /** @param grams on it now */
    @Transactional
    public long add(SpoolEntry entry, double grams, String who) {
        long id = repository.insert(entry, number(entry, 0), inventory.lab().currency());
        repository.move(id, clock.instant(), who, Movement.Kind.ADDED, grams, null, "");
        events.record(who, About.spool(id), new Fact.Added(Fact.Thing.SPOOL, name(id)));
        return id;
    }

    /**
     * @param grams  on it now; when it is not what it held, that is one more movement
     * @param reason of the difference; may be empty
     * @throws Outdated when the spool is no longer as somebody saw it; so with all that is changed here
     */
    @Transactional
    public void change(StockSpool seen, SpoolEntry entry, double grams, String reason, String who) {
        requireUnchanged(seen);
        repository.update(seen.id(), entry, number(entry, seen.id()), inventory.lab().currency());
        book(seen, grams, Movement.Kind.CORRECTED, reason, who);
        if (entry.retired()) {
            repository.load(seen.id(), null);
        }
        events.record(who, About.spool(seen.id()), new Fact.Changed(Fact.Thing.SPOOL, name(seen.id())), reason);
    }

    /**
     * Books what the scales say.
     *
     * @param grossG reel and plastic
     * @throws Refusal when nobody has said what the empty reel weighs, or it weighs more than that
     */
    @Transactional
    public void weigh(StockSpool seen, double grossG, String who) {
        requireUnchanged(seen);
        Double tare = seen.tareG();
        if (tare == null) {
            throw new Refusal("Say what the empty reel weighs first; then the scales tell what is left.");
        }
        if (grossG < tare) {
            throw new Refusal("The empty reel weighs %s; the scales cannot show less.".formatted(Spoken.grams(tare)));
        }
        book(seen, grossG - tare, Movement.Kind.WEIGHED, "", who);
        events.record(who, About.spool(seen.id()), new Fact.Weighed(grossG - tare));
    }

    /** @param printerId which it feeds from now on, in place of any other spool; null puts it back on the shelf */
    @Transactional
    public void load(StockSpool seen, @Nullable String printerId, String who) {
        requireUnchanged(seen);
        if (seen.retired()) {
            throw new Refusal("This spool was taken off the shelf.");
        }
        if (printerId == null) {
            if (seen.loadedIn() != null) {
                repository.load(seen.id(), null);
                events.record(who, About.spool(seen.id()).on(seen.loadedIn()), new Fact.Unloaded());
            }
            return;
        }
        repository.unload(printerId);
        repository.load(seen.id(), printerId);
        events.record(who, About.spool(seen.id()).on(printerId), new Fact.Loaded());
    }

    /** Books what a run took. */
    @Transactional
    public void take(long spoolId, long runId, Movement.Kind kind, double grams, String who) {
        repository.move(spoolId, clock.instant(), who, kind, -grams, runId, "");
    }

    /** @throws Refusal when something names it; then it stays on record */
    @Transactional
    public void remove(long id, String who) {
        String name = name(id);
        try {
            repository.delete(id);
        } catch (DataIntegrityViolationException e) {
            throw new Refusal("Tickets or runs name this spool, so it stays on record. Mark it as taken off the shelf instead.");
        }
        events.record(who, About.spool(id), new Fact.Removed(Fact.Thing.SPOOL, name));
    }

    private void book(StockSpool seen, double grams, Movement.Kind kind, String reason, String who) {
        double more = grams - seen.spool().remainingG();
        if (Math.abs(more) > NOTICED_G || kind == Movement.Kind.WEIGHED) {
            repository.move(seen.id(), clock.instant(), who, kind, more, null, reason);
        }
    }

    private int number(SpoolEntry entry, long butFor) {
        Integer number = entry.number();
        if (number == null) {
            return repository.nextNumber();
        }
        if (repository.isTaken(number, butFor)) {
            throw new Refusal("Another spool has the number %d.".formatted(number));
        }
        return number;
    }

    private String name(long id) {
        StockSpool spool = spool(id).orElseThrow();
        return "no. %d, %s".formatted(spool.number(), spool.spool().colour());
    }

    private void requireUnchanged(StockSpool seen) {
        if (!spool(seen.id()).equals(Optional.of(seen))) {
            throw new Outdated();
        }
    }
}
