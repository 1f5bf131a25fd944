package fabbrica.web.platform;

import com.github.benmanes.caffeine.cache.Cache;
import fabbrica.core.toolpath.Progress;
import java.util.Map;
import java.util.Optional;
import java.util.concurrent.CancellationException;
import java.util.concurrent.ConcurrentHashMap;
import java.util.concurrent.CountDownLatch;
import java.util.concurrent.ExecutorService;
import java.util.concurrent.Executors;
import java.util.concurrent.TimeUnit;
import java.util.concurrent.atomic.AtomicLong;
import java.util.function.BiFunction;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;

/**
 * Works things out on a bounded pool. What is asked for twice is worked out once and kept; whatever runs can be watched
 * and stopped, and fails with a sentence.
 */
public final class Works<K, V> implements AutoCloseable {

    private static final Logger LOG = LoggerFactory.getLogger(Works.class);
    private static final int THREADS = 2;
    private static final int SOON_MS = 700;
    private static final AtomicLong NUMBERS = new AtomicLong();

    private final BiFunction<K, Progress, V> work;
    private final String failure;
    private final Cache<K, V> known;
    private final Map<K, Job> running = new ConcurrentHashMap<>();
    private final ExecutorService pool;

    /**
     * @param name    of the threads
     * @param failure what people are told when it cannot be worked out
     */
    public Works(String name, Cache<K, V> known, String failure, BiFunction<K, Progress, V> work) {
        this.work = work;
        this.failure = failure;
        this.known = known;
        this.pool = Executors.newFixedThreadPool(THREADS, Thread.ofPlatform().name(name + "-", 0).daemon().factory());
    }

    /** Where it stands; begun when nobody has asked before. */
    public Standing<V> ask(K key) {
        V value = known.getIfPresent(key);
        if (value != null) {
            return new Standing.Done<>(value);
        }
        Job job = running.computeIfAbsent(key, this::start);
        if (job.problem != null) {
            running.remove(key, job);
            return new Standing.Failed<>(job.problem);
        }
        return new Standing.Working<>(job.number, job.fraction);
    }

    /** The same after a moment, so that nobody is shown a progress bar for what is done at once. */
    public Standing<V> askPatiently(K key) {
        Standing<V> standing = ask(key);
        Job job = running.get(key);
        try {
            return standing instanceof Standing.Working
                    && (job == null || job.over.await(SOON_MS, TimeUnit.MILLISECONDS)) ? ask(key) : standing;
        } catch (InterruptedException e) {
            Thread.currentThread().interrupt();
            return standing;
        }
    }

    /** Worked out at once on the calling thread unless it is known. */
    public V await(K key) {
        return known.get(key, missing -> work.apply(missing, Progress.IGNORED));
    }

    /** When it is known; nothing is started. */
    public Optional<V> known(K key) {
        return Optional.ofNullable(known.getIfPresent(key));
    }

    public void stop(K key) {
        Optional.ofNullable(running.get(key)).ifPresent(job -> job.cancelled = true);
    }

    public void stop(long jobNumber) {
        running.values().stream().filter(job -> job.number == jobNumber).forEach(job -> job.cancelled = true);
    }

    @Override
    public void close() {
        running.values().forEach(job -> job.cancelled = true);
        pool.shutdownNow();
    }

    private Job start(K key) {
        Job job = new Job(NUMBERS.incrementAndGet());
        pool.execute(() -> {
            try {
                job.check();
                known.put(key, work.apply(key, job));
                running.remove(key, job);
            } catch (CancellationException e) {
                running.remove(key, job);
            } catch (Refusal e) {
                job.problem = e.getMessage();
            } catch (RuntimeException | OutOfMemoryError e) {
                LOG.error("work failed", e);
                job.problem = failure;
            } finally {
                job.over.countDown();
            }
        });
        return job;
    }

    private static final class Job implements Progress {

        private final long number;
        private final CountDownLatch over = new CountDownLatch(1);
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
