package fabbrica.web.machine;

import fabbrica.web.machine.MachineFile.Over;
import fabbrica.web.platform.Refusal;
import fabbrica.web.platform.events.About;
import fabbrica.web.platform.events.Events;
import fabbrica.web.platform.events.Fact;
import fabbrica.web.platform.events.Happened;
import fabbrica.web.platform.storage.FileStore;
import fabbrica.web.platform.storage.StorageException;
import fabbrica.web.platform.storage.StorageFault;
import fabbrica.web.platform.storage.WriterTransactions;
import java.io.ByteArrayInputStream;
import java.io.IOException;
import java.time.Clock;
import java.time.Instant;
import java.util.List;
import java.util.Optional;
import org.jspecify.annotations.Nullable;
import org.springframework.context.ApplicationEventPublisher;
import org.springframework.context.event.EventListener;
import org.springframework.stereotype.Service;
import org.springframework.transaction.annotation.Transactional;

/** What is kept of machines: where they are, which files are on them for which plates, and what became of those; so that a restart knows all of it. */
@Service
public class MachineBook {

    private final MachineRepository repository;
    private final FileStore files;
    private final Events events;
    private final ApplicationEventPublisher publisher;
    private final Clock clock;

    MachineBook(MachineRepository repository, FileStore files, Events events, ApplicationEventPublisher publisher, Clock clock) {
        this.repository = repository;
        this.files = files;
        this.events = events;
        this.publisher = publisher;
        this.clock = clock;
    }

    public Optional<MachineAddress> address(String printerId) {
        return repository.address(printerId);
    }

    @Transactional
    void save(MachineAddress address, String who) {
        repository.save(address);
        events.record(who, About.printer(address.printerId()), new Fact.MachineConnected());
    }

    @Transactional
    void remove(String printerId, String who) {
        repository.delete(printerId);
        events.record(who, About.printer(printerId), new Fact.MachineDisconnected());
    }

    /** What answered at an address for the first time. */
    @Transactional(label = WriterTransactions.ASIDE)
    void met(MachineAddress address) {
        repository.save(address);
    }

    List<MachineFile> open(String printerId) {
        return repository.open(printerId);
    }

    /** What a run was begun with, and what its machine said of it. */
    public Optional<MachineFile> ofRun(long runId) {
        return repository.ofRun(runId);
    }

    /**
     * A file is on its machine.
     *
     * @param before that was on it and gives way; null when there was none
     */
    @Transactional
    void loaded(MachineFile file, byte[] content, @Nullable MachineFile before) {
        if (before != null) {
            clear(before);
        }
        try (FileStore.Batch batch = files.batch()) {
            batch.store(new ByteArrayInputStream(content));
            repository.insert(file, clock.instant());
        } catch (IOException e) {
            throw new StorageException(StorageFault.of(e), e);
        }
        tell("", file, new Fact.FileSent(file.checked()));
    }

    /**
     * Somebody has carried a file to its printer.
     *
     * @param before that was there and gives way; null when there was none
     */
    @Transactional(label = WriterTransactions.ASIDE)
    void carried(MachineFile file, @Nullable MachineFile before) {
        if (before != null) {
            clear(before);
        }
        repository.insert(file, clock.instant());
    }

    boolean isCleared(MachineFile file) {
        return repository.isCleared(file.file());
    }

    /** Somebody has confirmed that the plate is clear, for this run and no other. */
    @Transactional(label = WriterTransactions.ASIDE)
    void order(MachineFile file, String who) {
        if (!repository.order(file.file(), clock.instant(), who)) {
            throw new Refusal("This plate is being started already.");
        }
    }

    @Transactional(label = WriterTransactions.ASIDE)
    void lapse(MachineFile file) {
        repository.lapse(file.file());
    }

    /**
     * The machine is at it: whoever keeps runs writes one down, and says which.
     *
     * @return the same with its run
     * @throws Refusal when its plate does not wait any more
     */
    @Transactional
    MachineFile begun(MachineFile file) {
        publisher.publishEvent(new Began(file.file(), file.plateId(), file.orderedBy()));
        return repository.file(file.file()).orElseThrow();
    }

    /** The run that began with a file. */
    @Transactional
    public void begun(String file, long runId) {
        repository.begun(file, runId);
    }

    @Transactional(label = WriterTransactions.ASIDE)
    void progress(MachineFile file) {
        repository.progress(file);
    }

    /** The floor moves when the end does. */
    @Transactional
    void expect(MachineFile file, long runId, Instant end, boolean late) {
        repository.expect(runId, end);
        if (late) {
            events.record("", About.printer(file.printerId()).inRun(runId).laidOn(file.plateId()), new Fact.RunDelayed(end));
        } else {
            events.moved();
        }
    }

    @Transactional
    void over(MachineFile file, Over over) {
        Long run = file.runId();
        if (repository.over(file, over) && run != null) {
            repository.expect(run, over.at());
            tell("", file, new Fact.MachineDone(over.whole(), file.layer(), file.layers()));
        }
    }

    /** Nobody needs it any more. */
    @Transactional
    void clear(MachineFile file) {
        repository.clear(file.file(), clock.instant());
    }

    /** Somebody has said how a run ended, and so cleared what it printed. */
    @EventListener
    void happened(Happened happened) {
        Long run = happened.about().run();
        if (happened.fact() instanceof Fact.RunEnded && run != null) {
            repository.ofRun(run).ifPresent(file -> repository.clear(file.file(), clock.instant()));
        }
    }

    /** Into the history of each ticket on the plate. */
    @Transactional
    void tell(String who, MachineFile file, Fact fact) {
        for (long ticket : repository.tickets(file.plateId())) {
            About about = About.ticket(ticket).laidOn(file.plateId()).on(file.printerId());
            @Nullable Long run = file.runId();
            events.record(who, run == null ? about : about.inRun(run), fact);
        }
    }

    /** Into the printer's history. */
    @Transactional
    void tell(String who, String printerId, Fact fact) {
        events.record(who, About.printer(printerId), fact);
    }
}
