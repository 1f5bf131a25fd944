package fabbrica.web.platform;

import static org.assertj.core.api.Assertions.assertThat;

import com.github.benmanes.caffeine.cache.Cache;
import java.util.Queue;
import java.util.concurrent.ConcurrentLinkedQueue;
import java.util.concurrent.ForkJoinPool;
import java.util.concurrent.TimeUnit;
import org.junit.jupiter.api.Test;

class CachesTest {

    @Test
    void old_entries_make_room_on_the_thread_that_asks_and_never_on_the_common_pool() {
        Queue<Thread> tidying = new ConcurrentLinkedQueue<>();
        Cache<Integer, Integer> cache = Caches.of(2).evictionListener((key, value, cause) ->
                tidying.add(Thread.currentThread())).build();
        for (int key = 0; key < 100; key++) {
            cache.get(key, k -> k);
        }
        ForkJoinPool.commonPool().awaitQuiescence(5, TimeUnit.SECONDS);
        assertThat(tidying).isNotEmpty().containsOnly(Thread.currentThread());
    }
}
