package fabbrica.web.stores;

import fabbrica.web.platform.Outdated;
import fabbrica.web.platform.Refusal;
import fabbrica.web.platform.events.About;
import fabbrica.web.platform.events.Events;
import fabbrica.web.platform.events.Fact;
import fabbrica.web.platform.storage.Kept;
import java.util.List;
import java.util.Optional;
import org.springframework.stereotype.Service;
import org.springframework.transaction.annotation.Transactional;

/** Who has a key, what each may do and when each is on duty. */
@Service
public class Keyholders {

    private final KeyholderRepository repository;
    private final Inventory inventory;
    private final Events events;
    private final Kept<List<Keyholder>> all;

    Keyholders(KeyholderRepository repository, Inventory inventory, Events events) {
        this.repository = repository;
        this.inventory = inventory;
        this.events = events;
        all = new Kept<>(() -> repository.all(inventory.zone()));
    }

    public List<Keyholder> all() {
        return all.get();
    }

    public Optional<Keyholder> one(long id) {
        return all().stream().filter(keyholder -> keyholder.id() == id).findFirst();
    }

    public Duty duty() {
        return new Duty(inventory.calendar(), all());
    }

    /** @throws Refusal when the name is taken */
    @Transactional
    public void add(Keyholder keyholder, String who) {
        save(keyholder, new Fact.Added(Fact.Thing.KEYHOLDER, keyholder.name()), who);
    }

    /**
     * @throws Outdated when it is not any more what was seen
     * @throws Refusal  when the name is taken
     */
    @Transactional
    public void change(Keyholder seen, Keyholder keyholder, String who) {
        if (!one(seen.id()).equals(Optional.of(seen))) {
            throw new Outdated();
        }
        save(keyholder, new Fact.Changed(Fact.Thing.KEYHOLDER, keyholder.name()), who);
    }

    @Transactional
    public void remove(long id, String who) {
        Keyholder keyholder = one(id).orElseThrow();
        repository.delete(id);
        record(new Fact.Removed(Fact.Thing.KEYHOLDER, keyholder.name()), who);
    }

    private void save(Keyholder keyholder, Fact fact, String who) {
        if (all().stream().anyMatch(other -> other.id() != keyholder.id() && other.name().equalsIgnoreCase(keyholder.name()))) {
            throw new Refusal("%s is written down already.".formatted(keyholder.name()));
        }
        repository.save(keyholder);
        record(fact, who);
    }

    private void record(Fact fact, String who) {
        all.changed();
        events.record(who, About.NOTHING, fact);
    }
}
