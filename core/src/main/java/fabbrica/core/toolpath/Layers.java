package fabbrica.core.toolpath;

import java.util.concurrent.atomic.AtomicInteger;
import java.util.function.IntConsumer;
import java.util.stream.IntStream;

/** Work on layers that do not depend on one another, spread over the processors. */
final class Layers {

    private Layers() {
    }

    static void each(int count, Progress progress, IntConsumer work) {
        AtomicInteger done = new AtomicInteger();
        IntStream.range(0, count).parallel().forEach(layer -> {
            progress.check();
            work.accept(layer);
            progress.reached(done.incrementAndGet() / (double) count);
        });
    }
}
