package fabbrica.bench.peers;

import fabbrica.bench.Spheres;
import fabbrica.bench.peers.Command.Took;
import fabbrica.core.mesh.model.Mesh;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;

/**
 * Commands of Fabbrica and of their peers on the same files, in turn, so that a machine whose speed drifts is fair to both: medians, and
 * ratios pair by pair with the lowest and the highest, as rows for docs/performance.md.
 */
public final class Peers {

    private static final int ROUNDS = 5;

    private final Path folder;
    private final String fabbrica;
    private final Path peers;

    /** @param bar what the median of the ratios is to stay below */
    private record Pair(Command ours, Command peer, double bar) {
    }

    private Peers(Path folder, String fabbrica, Path peers) {
        this.folder = folder;
        this.fabbrica = fabbrica;
        this.peers = peers;
    }

    /** @param arguments the launcher of Fabbrica, and the folder in which the peers are built */
    public static void main(String[] arguments) throws IOException, InterruptedException {
        Path folder = Files.createTempDirectory("peers");
        try {
            Peers all = new Peers(folder, arguments[0], Path.of(arguments[1]));
            System.out.println("| command | file | wall time | peer | wall time | ratio, pair by pair | bar | peak memory | bytes a triangle |");
            System.out.println("| --- | --- | --- | --- | --- | --- | --- | --- | --- |");
            all.compare("even", Spheres.even(725), false);
            all.compare("knobbly", Spheres.knobbly(500), true);
        } finally {
            try (var files = Files.list(folder)) {
                for (Path file : files.toList()) {
                    Files.delete(file);
                }
            }
            Files.delete(folder);
        }
    }

    private void compare(String name, Mesh mesh, boolean laid) throws IOException, InterruptedException {
        Path file = folder.resolve(name + ".stl");
        Spheres.write(mesh, file);
        Command sound = Command.ours(fabbrica, "check --json --soundness", file), every = Command.ours(fabbrica, "check --json", file);
        Command edges = new Command("`admesh`, edges only", "", List.of("admesh", file.toString()));
        Command equal = new Command("`soundness.cpp`, equal work", "", List.of(peers.resolve("soundness").toString(), file.toString()));
        List<Pair> pairs = new ArrayList<>(List.of(new Pair(sound, edges, 2), new Pair(sound, equal, 0.2), new Pair(every, equal, 0.35)));
        if (laid) {
            pairs.add(new Pair(Command.ours(fabbrica, "estimate --json --printer standard --layer-height 0.2", file), new Command("`slice-offset.mjs`, cut and two insets",
                    "slice_offset_s", List.of("node", peers.resolve("slice-offset.mjs").toString(), file.toString(), "0.2")), 0.25));
        }
        Map<Command, List<Took>> took = new LinkedHashMap<>();
        for (Pair pair : pairs) {
            took.putIfAbsent(pair.ours, new ArrayList<>());
            took.putIfAbsent(pair.peer, new ArrayList<>());
        }
        for (int round = -1; round < ROUNDS; round++) {
            for (Map.Entry<Command, List<Took>> each : took.entrySet()) {
                Took once = each.getKey().run();
                if (round >= 0) {
                    each.getValue().add(once);
                }
            }
        }
        for (Pair pair : pairs) {
            System.out.println(row(name, mesh.triangleCount(), pair, took.getOrDefault(pair.ours, List.of()), took.getOrDefault(pair.peer, List.of())));
        }
    }

    private static String row(String name, int triangles, Pair pair, List<Took> ours, List<Took> peer) {
        List<Double> ratios = new ArrayList<>();
        for (int i = 0; i < ours.size(); i++) {
            ratios.add(ours.get(i).seconds() / peer.get(i).seconds());
        }
        long peak = ours.stream().mapToLong(Took::peakBytes).max().orElse(0);
        return String.format(Locale.ROOT, "| %s | %s, %,d triangles | %s s | %s | %s s | **%s** | %.2f | %.0f MiB | %d |", pair.ours.name(), name,
                triangles, spread(ours.stream().map(Took::seconds).toList()), pair.peer.name(), spread(peer.stream().map(Took::seconds).toList()),
                spread(ratios), pair.bar, peak / 1048576.0, peak / triangles);
    }

    /** The median, with the lowest and the highest. */
    private static String spread(List<Double> values) {
        List<Double> sorted = values.stream().sorted().toList();
        return String.format(Locale.ROOT, "%.2f (%.2f to %.2f)", sorted.get(sorted.size() / 2), sorted.getFirst(), sorted.getLast());
    }
}
