package fabbrica.bench.soak;

import java.util.Map;
import java.util.concurrent.ConcurrentLinkedQueue;
import java.util.concurrent.ConcurrentSkipListMap;

/** How long answers took, by what was asked for. */
final class Answers {

    private final Map<String, ConcurrentLinkedQueue<Long>> took = new ConcurrentSkipListMap<>();

    void took(String path, long nanos) {
        took.computeIfAbsent(path, key -> new ConcurrentLinkedQueue<>()).add(nanos);
    }

    /** Prints them, and begins anew. */
    void tell(String head) {
        System.out.printf("%-26s %8s %8s %8s %8s%n", head, "times", "median", "p99", "worst");
        took.forEach((path, all) -> row(path, sorted(all)));
        row("all", took.values().stream().flatMap(ConcurrentLinkedQueue::stream).mapToDouble(nanos -> nanos / 1e6).sorted().toArray());
        took.clear();
    }

    private static double[] sorted(ConcurrentLinkedQueue<Long> all) {
        return all.stream().mapToDouble(nanos -> nanos / 1e6).sorted().toArray();
    }

    private static void row(String what, double[] ms) {
        System.out.printf("%-26s %8d %5.0f ms %5.0f ms %5.0f ms%n", what, ms.length, at(ms, 0.5), at(ms, 0.99), at(ms, 1));
    }

    /** By nearest rank, of what is in order; nothing at all took no time. */
    private static double at(double[] sorted, double share) {
        return sorted.length == 0 ? 0 : sorted[Math.max(0, (int) Math.ceil(share * sorted.length) - 1)];
    }
}
