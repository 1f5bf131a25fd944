package fabbrica.web.platform;

import com.github.benmanes.caffeine.cache.Cache;
import fabbrica.core.units.Progress;
import java.time.Duration;
import java.util.Map;
import java.util.Optional;
import java.util.concurrent.CancellationException;
import java.util.concurrent.ConcurrentHashMap;
import java.util.concurrent.CountDownLatch;
import java.util.concurrent.TimeUnit;
import java.util.concurrent.atomic.AtomicInteger;
import java.util.concurrent.atomic.AtomicLong;
import java.util.function.BiFunction;
import org.jspecify.annotations.Nullable;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;
import org.springframework.security.core.Authentication;
import org.springframework.security.core.context.SecurityContextHolder;

/**
 * Works things out beside the pages, at a few places that are shared fairly between the people who ask; what somebody waits for
 * goes before what might be looked at. What is asked for
 * twice is worked out once and kept; whatever runs can be watched and stopped, is given up when nobody asks for it any more
 * or when it takes too long, and fails with a sentence.
 */
public final class Works<K, V> implements AutoCloseable {

    private static final Logger LOG = LoggerFactory.getLogger(Works.class);
    /** For all kinds of work together, some of which take hundreds of megabytes. */
    private static final Shares SHARES = new Shares(Math.max(2, Runtime.getRuntime().availableProcessors()), 6);
    private static final int MOST_SHOWN = 500;
    private static final int SOON_MS = 700;
    private static final Duration LONGEST = Duration.ofMinutes(10);
    /** Pages ask about once a second, hidden ones once a minute. */
    private static final Duration FORGOTTEN = Duration.ofSeconds(90);
    private static final String TOO_LONG = "This takes longer than %d minutes, more than is worked on here. The ticket and the file are "
            .formatted(LONGEST.toMinutes()) + "safe; try a coarser recipe or a simpler model.";
    private static final AtomicLong NUMBERS = new AtomicLong();
    private static final AtomicInteger UNDER_WAY = new AtomicInteger();
    private static final Duration LATELY = Duration.ofSeconds(1);
    private static volatile long lastOver = System.nanoTime() - LATELY.toNanos();

    private final BiFunction<K, Progress, V> work;
    private final String failure;
    private final Cache<K, V> known;
    private final Map<K, Job> running = new ConcurrentHashMap<>();
    /** What each place on somebody's page shows at the moment. */
    private final Map<Object, Object> shown = Caches.of(MOST_SHOWN).build().asMap();

    /**
     * @param failure what people are told when it cannot be worked out
     */
    public Works(Cache<K, V> known, String failure, BiFunction<K, Progress, V> work) {
        this.work = work;
        this.failure = failure;
        this.known = known;
    }

    /** Where it stands; begun when nobody has asked before. Nobody waits for it. */
    public Standing<V> ask(K key) {
        return ask(key, false);
    }

    private Standing<V> ask(K key, boolean waitedFor) {
        V value = known.getIfPresent(key);
        if (value != null) {
            return new Standing.Done<>(value);
        }
        Job job = running.computeIfAbsent(key, asked -> start(asked, waitedFor));
        job.asked = System.nanoTime();
        if (waitedFor) {
            SHARES.hurry(job.turn);
        }
        if (job.problem != null) {
            running.remove(key, job);
            return new Standing.Failed<>(job.problem);
        }
        return new Standing.Working<>(job.number, job.fraction);
    }

    /**
     * The same for a place on a page that shows one thing at a time, and where somebody waits for it: what this person saw
     * there before is no longer wanted.
     *
     * @param place such as the preview of a ticket
     */
    public Standing<V> ask(K key, String place) {
        Object before = shown.put(person() + " " + place, key);
        if (before != null && !before.equals(key) && !shown.containsValue(before)) {
            Optional.ofNullable(running.get(before)).ifPresent(job -> job.stopped = true);
        }
        return ask(key, true);
    }

    /** The same after a moment, so that nobody is shown a progress bar for what is done at once. */
    public Standing<V> askPatiently(K key) {
        Standing<V> standing = ask(key, true);
        Job job = running.get(key);
        try {
            return standing instanceof Standing.Working
                    && (job == null || job.over.await(SOON_MS, TimeUnit.MILLISECONDS)) ? ask(key, true) : standing;
        } catch (InterruptedException e) {
            Thread.currentThread().interrupt();
            return standing;
        }
    }

    /**
     * Worked out at once on the calling thread unless it is known.
     *
     * @throws Refusal when it takes too long
     */
    public V await(K key) {
        long until = System.nanoTime() + LONGEST.toNanos();
        try {
            return known.get(key, missing -> work.apply(missing, new Progress() {
                @Override
                public void reached(double fraction) {
                }

                @Override
                public boolean cancelled() {
                    return System.nanoTime() > until;
                }
            }));
        } catch (CancellationException e) {
            throw new Refusal(TOO_LONG);
        }
    }

    /** When it is known; nothing is started. */
    public Optional<V> known(K key) {
        return Optional.ofNullable(known.getIfPresent(key));
    }

    public void stop(K key) {
        Optional.ofNullable(running.get(key)).ifPresent(job -> job.stopped = true);
    }

    public void stop(long jobNumber) {
        running.values().stream().filter(job -> job.number == jobNumber).forEach(job -> job.stopped = true);
    }

    @Override
    public void close() {
        running.values().forEach(job -> job.stopped = true);
    }

    /** Whether anything is being worked out, or was a moment ago. */
    static boolean busyLately() {
        return UNDER_WAY.get() > 0 || System.nanoTime() - lastOver < LATELY.toNanos();
    }

    private static String person() {
        Authentication who = SecurityContextHolder.getContext().getAuthentication();
        return who == null ? "" : who.getName();
    }

    private Job start(K key, boolean waitedFor) {
        Job job = new Job();
        UNDER_WAY.incrementAndGet();
        job.turn = SHARES.work(person(), waitedFor, () -> {
            try {
                job.begin();
                known.put(key, work.apply(key, job));
                running.remove(key, job);
            } catch (CancellationException e) {
                if (job.tooLong()) {
                    job.problem = TOO_LONG;
                } else {
                    running.remove(key, job);
                }
            } catch (Refusal e) {
                job.problem = e.getMessage();
            } catch (RuntimeException | OutOfMemoryError e) {
                LOG.error("work failed", e);
                job.problem = failure;
            } finally {
                job.over.countDown();
                lastOver = System.nanoTime();
                UNDER_WAY.decrementAndGet();
            }
        });
        return job;
    }

    private static final class Job implements Progress {

        private final long number = NUMBERS.incrementAndGet();
        private final CountDownLatch over = new CountDownLatch(1);
        private volatile long asked = System.nanoTime();
        private volatile long begun = Long.MAX_VALUE;
        private volatile double fraction;
        private volatile boolean stopped;
        private volatile @Nullable String problem;
        /** Given before the job is known to anybody. */
        @SuppressWarnings("NullAway.Init")
        private volatile Shares.Turn turn;

        void begin() {
            check();
            begun = System.nanoTime();
        }

        boolean tooLong() {
            return begun != Long.MAX_VALUE && System.nanoTime() - begun > LONGEST.toNanos();
        }

        @Override
        public void reached(double part) {
            fraction = Math.max(fraction, part);
        }

        @Override
        public boolean cancelled() {
            return stopped || System.nanoTime() - asked > FORGOTTEN.toNanos() || tooLong();
        }
    }
}
