package fabbrica.web.platform;

import com.github.benmanes.caffeine.cache.Cache;
import com.github.benmanes.caffeine.cache.Caffeine;
import fabbrica.core.inspect.Inspection;
import org.springframework.stereotype.Component;

/** What was measured on parts as they lie: measured once by each version of the core, then kept. */
@Component
public class Inspections {

    private final InspectionRepository repository;
    private final Meshes meshes;
    private final Cache<Lying, Inspection> known = Caffeine.newBuilder().maximumSize(500).build();

    Inspections(InspectionRepository repository, Meshes meshes) {
        this.repository = repository;
        this.meshes = meshes;
    }

    public Inspection of(Lying part) {
        return known.get(part, key -> repository.find(key).orElseGet(() -> {
            Inspection measured = Inspection.of(meshes.mesh(key));
            repository.save(key, measured);
            return measured;
        }));
    }
}
