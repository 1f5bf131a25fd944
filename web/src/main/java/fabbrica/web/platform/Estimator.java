package fabbrica.web.platform;

import com.github.benmanes.caffeine.cache.Cache;
import fabbrica.core.estimate.Estimate;
import fabbrica.core.recipe.Material;
import fabbrica.core.recipe.Printer;
import fabbrica.core.recipe.Recipe;
import fabbrica.core.toolpath.Progress;
import fabbrica.core.toolpath.Slices;
import fabbrica.core.toolpath.Toolpath;
import jakarta.annotation.PreDestroy;
import java.util.Map;
import java.util.Optional;
import java.util.concurrent.CancellationException;
import java.util.concurrent.ConcurrentHashMap;
import java.util.concurrent.ExecutorService;
import java.util.concurrent.Executors;
import java.util.concurrent.atomic.AtomicLong;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;
import org.springframework.stereotype.Component;

/**
 * Works out estimates on a bounded pool. What is asked for twice is worked out once; recipes with the same layers share
 * the part as it is cut, those that differ in speed alone and printers with the same recipe the toolpath; whatever runs
 * can be watched and stopped.
 */
@Component
public class Estimator {

    private static final Logger LOG = LoggerFactory.getLogger(Estimator.class);
    private static final int THREADS = 2;

    private final Meshes meshes;
    private final ExecutorService pool = Executors.newFixedThreadPool(THREADS,
            Thread.ofPlatform().name("estimate-", 0).daemon().factory());
    private final Cache<Request, Estimate> estimates = Caches.of(5000).build();
    private final Cache<Lay, Toolpath> toolpaths = Caches.of(8).softValues().build();
    private final Cache<Cut, Slices> cuts = Caches.of(6).softValues().build();
    private final Map<Request, Job> running = new ConcurrentHashMap<>();
    private final AtomicLong numbers = new AtomicLong();

    Estimator(Meshes meshes) {
        this.meshes = meshes;
    }

    /** @param turnedDeg about the vertical */
    public record Lay(Lying part, double turnedDeg, Recipe recipe) {
    }

    /** @param widthMm only where layers follow the slope, which the nozzle bounds */
    private record Cut(Lying part, double turnedDeg, double layerMm, double firstMm, double widthMm) {

        static Cut of(Lay lay) {
            Recipe recipe = lay.recipe();
            return new Cut(lay.part(), lay.turnedDeg(), recipe.layerHeightMm(), recipe.firstLayerHeightMm(),
                    recipe.lines().variableLayers() ? recipe.lineWidthMm() : 0);
        }
    }

    public record Request(Lay lay, Printer printer, Material material) {
    }

    /** Where a request stands. */
    public sealed interface Standing {

        record Done(Estimate estimate) implements Standing {
        }

        /** @param fraction 0 to 1 */
        record Working(long job, double fraction) implements Standing {
        }

        record Failed(String sentence) implements Standing {
        }
    }

    /** Where the request stands; starts working on it when nobody has asked before. */
    public Standing ask(Request request) {
        Estimate known = estimates.getIfPresent(request);
        if (known != null) {
            return new Standing.Done(known);
        }
        Job job = running.computeIfAbsent(request, this::start);
        if (job.problem != null) {
            running.remove(request, job);
            return new Standing.Failed(job.problem);
        }
        return new Standing.Working(job.number, job.fraction);
    }

    /** The estimate, worked out at once on the calling thread unless it is known. */
    public Estimate await(Request request) {
        return estimates.get(request, key -> work(key, Progress.IGNORED));
    }

    /** The estimate when it is known; nothing is started. */
    public Optional<Estimate> known(Request request) {
        return Optional.ofNullable(estimates.getIfPresent(request));
    }

    /** Stops working on a request. */
    public void stop(Request request) {
        Optional.ofNullable(running.get(request)).ifPresent(job -> job.cancelled = true);
    }

    public void stop(long jobNumber) {
        running.values().stream().filter(job -> job.number == jobNumber).forEach(job -> job.cancelled = true);
    }

    @PreDestroy
    void close() {
        running.values().forEach(job -> job.cancelled = true);
        pool.shutdownNow();
    }

    private Job start(Request request) {
        Job job = new Job(numbers.incrementAndGet());
        pool.execute(() -> {
            try {
                job.check();
                estimates.put(request, work(request, job));
                running.remove(request, job);
            } catch (CancellationException e) {
                running.remove(request, job);
            } catch (RuntimeException | OutOfMemoryError e) {
                LOG.error("estimate failed", e);
                job.problem = "The estimate could not be worked out for this part. The ticket is safe; try another "
                        + "recipe, or look at the findings first.";
            }
        });
        return job;
    }

    private Estimate work(Request request, Progress progress) {
        return Estimate.of(toolpath(request.lay(), progress), request.lay().recipe(), request.printer(),
                request.material(), progress);
    }

    /** The lines of a part, laid now unless they are known. */
    public Toolpath toolpath(Lay lay) {
        return toolpath(lay, Progress.IGNORED);
    }

    private Toolpath toolpath(Lay lay, Progress progress) {
        Recipe recipe = lay.recipe().lines().zones().isEmpty() ? lay.recipe()
                : lay.recipe().placed(meshes.mesh(lay.part()).bounds(), lay.turnedDeg());
        return toolpaths.get(new Lay(lay.part(), lay.turnedDeg(), recipe.geometry()), key -> {
            Slices slices = cuts.get(Cut.of(key), cut -> Slices.of(meshes.mesh(key.part()).turned(key.turnedDeg()), recipe,
                    progress.pass(0, 3)));
            return Toolpath.of(slices, recipe, progress.pass(1, 3));
        });
    }

    private static final class Job implements Progress {

        private final long number;
        private volatile double fraction;
        private volatile boolean cancelled;
        private volatile String problem;

        Job(long number) {
            this.number = number;
        }

        @Override
        public void reached(double part) {
            fraction = Math.max(fraction, part);
        }

        @Override
        public boolean cancelled() {
            return cancelled;
        }
    }
}
