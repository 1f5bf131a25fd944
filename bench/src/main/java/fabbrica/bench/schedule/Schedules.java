package fabbrica.bench.schedule;

import fabbrica.cli.ScheduleFile;
import fabbrica.core.schedule.Audit;
import fabbrica.core.schedule.FloorView;
import fabbrica.core.schedule.NeighbourhoodSearch;
import java.io.IOException;
import java.io.InputStream;
import java.time.Duration;
import java.util.ArrayList;
import java.util.List;
import java.util.OptionalLong;
import java.util.stream.LongStream;
import tools.jackson.databind.JsonNode;
import tools.jackson.databind.json.JsonMapper;

/**
 * How good plans are: floors with known bounds, by our own search and by a general planning solver, medians of three seeds; random
 * small ones against what a constraint solver proves; and how soon a large floor has its first plan.
 */
public final class Schedules {

    private static final int SEEDS = 3;
    private static final Duration LONG = Duration.ofSeconds(30);
    private static final Duration SHORT = Duration.ofSeconds(5);
    private static final int RANDOM_FLOORS = 50;
    private static final double PROOF_S = 120;
    private static final int THREADS = 2;

    private Schedules() {
    }

    /** @param arguments none for all, or some of {@code known}, {@code random} and {@code large} */
    public static void main(String[] arguments) throws IOException {
        List<String> what = arguments.length == 0 ? List.of("known", "random", "large") : List.of(arguments);
        if (what.contains("known")) {
            known();
        }
        if (what.contains("random")) {
            random();
        }
        if (what.contains("large")) {
            large();
        }
    }

    private static void known() throws IOException {
        System.out.printf("%-20s %10s %10s | %10s %8s %8s | %10s %8s%n", "floor", "reference", "bound", "search", "to ref.", "to bound", "solver", "to ref.");
        for (JsonNode row : new JsonMapper().readTree(resource("reference.json"))) {
            String name = row.get("instance").stringValue();
            FloorView floor;
            try (InputStream in = resource(name + ".json")) {
                floor = ScheduleFile.read(name, in).view();
            }
            Duration budget = floor.waiting().size() <= 8 ? SHORT : LONG;
            long reference = row.get("objective").longValue(), bound = row.get("bound").longValue();
            long search = median(LongStream.rangeClosed(1, SEEDS).map(seed -> search(floor, budget, seed)));
            long solver = median(LongStream.rangeClosed(1, SEEDS).map(seed -> Peer.objective(floor, budget, seed)));
            System.out.printf("%-20s %10d %10d | %10d %7.3f%% %7.3f%% | %10d %7.3f%%%n", name, reference, bound, search, percent(search, reference),
                    percent(search, bound), solver, percent(solver, reference));
        }
    }

    private static void random() {
        int proved = 0, equal = 0;
        double worst = 0;
        for (int number = 1; proved < RANDOM_FLOORS; number++) {
            FloorView floor = Floors.of(8, 3, 14, number);
            OptionalLong least = Exact.leastObjective(floor, PROOF_S, THREADS);
            if (least.isPresent()) {
                long found = search(floor, SHORT, 1);
                proved++;
                equal += found == least.getAsLong() ? 1 : 0;
                worst = Math.max(worst, percent(found, least.getAsLong()));
            }
        }
        System.out.printf("%d random floors of 8 plates and 3 machines with a proved least objective: %d reached within %d s, worst %.3f%% above%n", proved, equal,
                SHORT.toSeconds(), worst);
    }

    private static void large() {
        for (int[] size : new int[][] {{40, 5}, {1000, 50}}) {
            FloorView floor = Floors.of(size[0], size[1], 90, 7);
            for (Duration budget : List.of(Duration.ZERO, Duration.ofSeconds(1), SHORT)) {
                long begun = System.nanoTime();
                long objective = search(floor, budget, 1);
                System.out.printf("%4d plates, %2d machines, asked for in %d s: %d after %.2f s%n", size[0], size[1], budget.toSeconds(), objective,
                        (System.nanoTime() - begun) / 1e9);
            }
        }
    }

    private static InputStream resource(String name) throws IOException {
        InputStream in = Schedules.class.getResourceAsStream(name);
        if (in == null) {
            throw new IOException(name + " is missing.");
        }
        return in;
    }

    private static long search(FloorView floor, Duration budget, long seed) {
        Audit audit = Audit.of(floor, new NeighbourhoodSearch(THREADS, seed).plan(floor, budget), plate -> "Plate " + plate);
        if (!audit.broken().isEmpty()) {
            throw new IllegalStateException(audit.broken().getFirst());
        }
        return audit.objective();
    }

    private static long median(LongStream values) {
        List<Long> sorted = new ArrayList<>(values.boxed().toList());
        sorted.sort(null);
        return sorted.get(sorted.size() / 2);
    }

    private static double percent(long value, long against) {
        return 100.0 * (value - against) / against;
    }
}
