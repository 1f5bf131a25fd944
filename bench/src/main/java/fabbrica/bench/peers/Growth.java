package fabbrica.bench.peers;

import fabbrica.bench.Spheres;
import fabbrica.core.mesh.model.Mesh;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;

/**
 * How long whole commands take for knobbly spheres of 10,000 to eight million triangles, each twice the one before: a table, and a plot
 * with both axes logarithmic, on which twice the triangles in twice the time is a slope of one.
 */
public final class Growth {

    private static final List<String> COMMANDS = List.of("check --json --soundness", "check --json", "estimate --json --printer standard --layer-height 0.2");
    private static final int LEAST = 10_000;
    private static final int MOST = 8_000_000;
    private static final int ROUNDS = 3;

    private Growth() {
    }

    /** @param arguments the launcher of Fabbrica, and the file for the plot */
    public static void main(String[] arguments) throws IOException, InterruptedException {
        Path file = Files.createTempFile("growth", ".stl");
        LogPlot plot = new LogPlot(COMMANDS.stream().map(command -> command.replaceAll(" --json| --printer.*", "")).toList());
        System.out.println("| triangles | " + String.join(" | ", COMMANDS) + " |\n| --- |" + " --- |".repeat(COMMANDS.size()));
        try {
            List<Double> before = List.of();
            for (int triangles = LEAST; triangles <= MOST; triangles = triangles == MOST ? MOST + 1 : Math.min(MOST, 2 * triangles)) {
                Mesh sphere = Spheres.knobbly((int) Math.round(Math.sqrt(triangles / 4.0)));
                int count = sphere.triangleCount();
                Spheres.write(sphere, file);
                List<Double> seconds = seconds(arguments[0], file);
                plot.add(count, seconds);
                StringBuilder row = new StringBuilder(String.format(Locale.ROOT, "| %,d |", count));
                for (int i = 0; i < seconds.size(); i++) {
                    row.append(String.format(Locale.ROOT, " %.2f s%s |", seconds.get(i),
                            before.isEmpty() ? "" : String.format(Locale.ROOT, " (× %.2f)", seconds.get(i) / before.get(i))));
                }
                System.out.println(row);
                before = seconds;
            }
        } finally {
            Files.delete(file);
        }
        Files.writeString(Path.of(arguments[1]), plot.svg());
    }

    /** The median of each command. */
    private static List<Double> seconds(String fabbrica, Path file) throws IOException, InterruptedException {
        List<List<Double>> took = COMMANDS.stream().map(command -> (List<Double>) new ArrayList<Double>()).toList();
        for (int round = 0; round < ROUNDS; round++) {
            for (int i = 0; i < COMMANDS.size(); i++) {
                took.get(i).add(Command.ours(fabbrica, COMMANDS.get(i) + " --limit-mb 1000", file).run().seconds());
            }
        }
        return took.stream().map(all -> all.stream().sorted().toList().get(ROUNDS / 2)).toList();
    }
}
