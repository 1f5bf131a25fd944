package fabbrica.web.platform;

import fabbrica.core.inspect.Inspection;
import fabbrica.core.recipe.Part;
import fabbrica.core.units.Progress;
import fabbrica.web.platform.storage.StorageException;
import jakarta.annotation.PreDestroy;
import java.util.Optional;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;
import org.springframework.stereotype.Component;
import org.springframework.transaction.support.TransactionTemplate;

/** What was measured on parts as they lie: measured once by each version of the core, then kept. */
@Component
public class Inspections {

    private static final Logger LOG = LoggerFactory.getLogger(Inspections.class);

    private final InspectionRepository repository;
    private final Meshes meshes;
    private final TransactionTemplate transaction;
    private final Works<Part, Inspection> works = new Works<>(Caches.of(500).build(),
            "The part could not be measured. The file is safe; hand it over again, or ask for another export.",
            this::measure);

    Inspections(InspectionRepository repository, Meshes meshes, TransactionTemplate transaction) {
        this.repository = repository;
        this.meshes = meshes;
        this.transaction = transaction;
    }

    /** The same when it is known or soon done; empty when it takes longer and is being worked on meanwhile. */
    public Optional<Inspection> ask(Part part) {
        return switch (works.askPatiently(part)) {
            case Standing.Done<Inspection>(Inspection inspection) -> Optional.of(inspection);
            case Standing.Working<Inspection> working -> Optional.empty();
            case Standing.Failed<Inspection>(String sentence) -> throw new Refusal(sentence);
        };
    }

    @PreDestroy
    void close() {
        works.close();
    }

    public Inspection of(Part part) {
        return works.await(part);
    }

    private Inspection measure(Part part, Progress progress) {
        return repository.find(part).orElseGet(() -> {
            Inspection measured = Inspection.of(meshes.mesh(part), progress);
            keep(part, measured);
            return measured;
        });
    }

    /** What cannot be kept is measured again another time. */
    private void keep(Part part, Inspection measured) {
        try {
            transaction.executeWithoutResult(status -> repository.save(part, measured));
        } catch (StorageException e) {
            LOG.warn("not kept: {}", e.sentence());
        }
    }
}
