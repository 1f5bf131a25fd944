package fabbrica.web.platform;

import com.github.benmanes.caffeine.cache.Caffeine;

/** Caches that tidy up on the threads that use them. */
public final class Caches {

    private Caches() {
    }

    /**
     * A cache of at most so many entries. By default tidying runs on the common pool; there it would wait for an entry
     * that is being worked out, while that work waits for the common pool, for ever.
     */
    public static Caffeine<Object, Object> of(int entries) {
        return Caffeine.newBuilder().maximumSize(entries).executor(Runnable::run);
    }
}
