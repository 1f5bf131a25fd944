package fabbrica.core.schedule;

import java.time.Duration;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.List;
import java.util.concurrent.Callable;
import java.util.concurrent.ExecutionException;
import java.util.concurrent.ExecutorService;
import java.util.concurrent.Executors;
import java.util.concurrent.Future;
import java.util.stream.IntStream;

/**
 * The best plan that some coolings find, on all the cores that it is given. Each begins anew with what is needed first, as hot as a
 * print is dear that is late by its own length; a longer budget makes them longer, and more.
 */
public final class NeighbourhoodSearch implements Scheduler {

    private static final Duration SHORTEST = Duration.ofMillis(250);
    private static final Duration LONGEST = Duration.ofSeconds(10);
    private static final double COLD = 20;

    private final int threads;
    private final long seed;

    public NeighbourhoodSearch(int threads, long seed) {
        this.threads = threads;
        this.seed = seed;
    }

    @Override
    public Schedule plan(FloorView floor, Duration budget) {
        long until = System.nanoTime() + budget.toNanos();
        List<Callable<Annealing.Plan>> searches = IntStream.range(0, threads).<Callable<Annealing.Plan>>mapToObj(i -> () ->
                search(floor, seed * threads + i, until, budget)).toList();
        try (ExecutorService pool = Executors.newFixedThreadPool(threads)) {
            List<Annealing.Plan> found = new ArrayList<>();
            for (Future<Annealing.Plan> one : pool.invokeAll(searches)) {
                found.add(one.get());
            }
            return new Timing(floor).schedule(found.stream().min(Comparator.comparingLong(Annealing.Plan::cost)).orElseThrow());
        } catch (InterruptedException e) {
            Thread.currentThread().interrupt();
            throw new IllegalStateException("The search for a plan was stopped.", e);
        } catch (ExecutionException e) {
            throw new IllegalStateException(e.getCause());
        }
    }

    private static Annealing.Plan search(FloorView floor, long seed, long until, Duration budget) {
        Annealing annealing = new Annealing(new Timing(floor), seed);
        Annealing.Plan first = annealing.best();
        double hot = Math.max(COLD, lateByItsLength(floor));
        long each = Math.clamp(budget.toNanos() / 3, SHORTEST.toNanos(), LONGEST.toNanos());
        for (long left = until - System.nanoTime(); left > 0 && !Thread.currentThread().isInterrupted(); left = until - System.nanoTime()) {
            annealing.from(first);
            annealing.cool(hot, COLD, Math.min(each, left));
        }
        return annealing.best();
    }

    /** What a print costs that is late by its own length. */
    private static double lateByItsLength(FloorView floor) {
        return floor.waiting().stream().flatMap(plate -> plate.options().stream()).mapToLong(option -> floor.rules().lateness(1, 0,
                option.takes().toSeconds())).average().orElse(0);
    }
}
