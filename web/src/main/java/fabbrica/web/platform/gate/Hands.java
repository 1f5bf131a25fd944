package fabbrica.web.platform.gate;

import jakarta.annotation.PreDestroy;
import java.util.Map;
import java.util.concurrent.Callable;
import java.util.concurrent.ConcurrentHashMap;
import java.util.concurrent.ExecutionException;
import java.util.concurrent.LinkedBlockingQueue;
import java.util.concurrent.Semaphore;
import java.util.concurrent.ThreadPoolExecutor;
import java.util.concurrent.TimeUnit;
import org.springframework.stereotype.Component;

/**
 * The threads that do what requests ask for. There are so many for all, and one person has no more than a share of them at
 * a time; the rest of what that person asks waits its turn.
 */
@Component
class Hands {

    private static final int ALL = 48;
    private static final int SHARE = 8;
    private static final int IDLE_S = 30;

    private final ThreadPoolExecutor threads = new ThreadPoolExecutor(ALL, ALL, IDLE_S, TimeUnit.SECONDS,
            new LinkedBlockingQueue<>(), Thread.ofPlatform().name("hand-", 0).daemon().factory());
    private final Map<String, Person> people = new ConcurrentHashMap<>();

    Hands() {
        threads.allowCoreThreadTimeOut(true);
    }

    private static final class Person {

        private final Semaphore share = new Semaphore(SHARE, true);
        /** Requests that wait or are worked on; guarded by the map. */
        private int requests;
    }

    /** Does something on a thread of the pool for a person while the caller waits. */
    <T> T work(String person, Callable<T> task) throws Exception {
        Person who = people.compute(person, (name, known) -> {
            Person counted = known == null ? new Person() : known;
            counted.requests++;
            return counted;
        });
        try {
            who.share.acquire();
            try {
                return threads.submit(task).get();
            } catch (ExecutionException e) {
                if (e.getCause() instanceof Error error) {
                    throw error;
                }
                throw (Exception) e.getCause();
            } finally {
                who.share.release();
            }
        } finally {
            people.compute(person, (name, known) -> --who.requests == 0 ? null : known);
        }
    }

    @PreDestroy
    void close() {
        threads.shutdown();
    }
}
