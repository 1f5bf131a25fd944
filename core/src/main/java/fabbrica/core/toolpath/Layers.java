package fabbrica.core.toolpath;

import fabbrica.core.units.Progress;
import java.util.concurrent.ForkJoinPool;
import java.util.concurrent.atomic.AtomicInteger;
import java.util.function.IntConsumer;
import java.util.stream.IntStream;

/** Work on layers that do not depend on one another: every processor takes the next as soon as it is free. */
final class Layers {

    private Layers() {
    }

    static void each(int count, Progress progress, IntConsumer work) {
        AtomicInteger next = new AtomicInteger(), done = new AtomicInteger();
        IntStream.rangeClosed(0, ForkJoinPool.getCommonPoolParallelism()).parallel().forEach(worker -> {
            for (int layer = next.getAndIncrement(); layer < count; layer = next.getAndIncrement()) {
                try {
                    progress.check();
                    work.accept(layer);
                } catch (RuntimeException e) {
                    next.set(count);
                    throw e;
                }
                progress.reached(done.incrementAndGet() / (double) count);
            }
        });
    }
}
