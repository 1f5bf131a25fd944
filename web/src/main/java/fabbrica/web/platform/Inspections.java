package fabbrica.web.platform;

import com.github.benmanes.caffeine.cache.Cache;
import fabbrica.core.inspect.Inspection;
import jakarta.annotation.PreDestroy;
import java.util.Map;
import java.util.Optional;
import java.util.concurrent.ConcurrentHashMap;
import java.util.concurrent.ExecutionException;
import java.util.concurrent.ExecutorService;
import java.util.concurrent.Executors;
import java.util.concurrent.Future;
import java.util.concurrent.TimeUnit;
import java.util.concurrent.TimeoutException;
import org.springframework.stereotype.Component;

/** What was measured on parts as they lie: measured once by each version of the core, then kept. */
@Component
public class Inspections {

    private static final int THREADS = 2;
    private static final int SOON_MS = 700;

    private final InspectionRepository repository;
    private final Meshes meshes;
    private final Cache<Lying, Inspection> known = Caches.of(500).build();
    private final Map<Lying, Future<Inspection>> running = new ConcurrentHashMap<>();
    private final ExecutorService pool = Executors.newFixedThreadPool(THREADS,
            Thread.ofPlatform().name("inspect-", 0).daemon().factory());

    Inspections(InspectionRepository repository, Meshes meshes) {
        this.repository = repository;
        this.meshes = meshes;
    }

    /** The same when it is known or soon done; empty when it takes longer and is being worked on meanwhile. */
    public Optional<Inspection> ask(Lying part) {
        Inspection done = known.getIfPresent(part);
        if (done != null) {
            return Optional.of(done);
        }
        Future<Inspection> work = running.computeIfAbsent(part, key -> pool.submit(() -> of(key)));
        try {
            Inspection measured = work.get(SOON_MS, TimeUnit.MILLISECONDS);
            running.remove(part, work);
            return Optional.of(measured);
        } catch (TimeoutException e) {
            return Optional.empty();
        } catch (InterruptedException e) {
            Thread.currentThread().interrupt();
            return Optional.empty();
        } catch (ExecutionException e) {
            running.remove(part, work);
            throw new IllegalStateException("a part could not be measured", e.getCause());
        }
    }

    @PreDestroy
    void close() {
        pool.shutdownNow();
    }

    public Inspection of(Lying part) {
        return known.get(part, key -> repository.find(key).orElseGet(() -> {
            Inspection measured = Inspection.of(meshes.mesh(key));
            repository.save(key, measured);
            return measured;
        }));
    }
}
