package fabbrica.bench.soak;

import fabbrica.core.recipe.BuiltIn;
import fabbrica.core.recipe.Material;
import fabbrica.printsim.PrinterServer.Finished;
import java.io.IOException;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import java.util.Map;
import java.util.stream.Collectors;

/** What the lab has written down of the runs of some machines, against what those know. */
final class Books {

    private static final double FILAMENT_MM2 = Math.PI * 1.75 * 1.75 / 4;
    /** As the ledger rounds. */
    private static final double ROUNDED_G = 0.06;

    private final List<String> faults = new ArrayList<>();
    private int whole;
    private int broken;
    private double grams;
    private double bookedG;
    private double unknownG;

    /** Runs of each machine, one row of the ledger each. */
    Books(Site site, List<Attendant> attendants) throws IOException, InterruptedException {
        List<String> lines = site.get("/ledger.csv").lines().toList();
        List<String> head = List.of(lines.getFirst().replace("\uFEFF", "").split(","));
        Map<String, List<String[]>> rows = lines.stream().skip(1).map(line -> line.split(",(?=(?:[^\"]*\"[^\"]*\")*[^\"]*$)")).collect(Collectors.groupingBy(row -> row[head.indexOf("printer")]));
        attendants.stream().filter(Attendant::prints).forEach(one -> compare(one.name(), one.machine().finished(), rows.getOrDefault(one.name(), List.of()), head.indexOf("real_g")));
    }

    private void compare(String name, List<Finished> runs, List<String[]> rows, int gramsAt) {
        if (runs.size() != rows.size()) {
            faults.add("%s was at %d runs, the ledger has %d".formatted(name, runs.size(), rows.size()));
            return;
        }
        double[] really = runs.stream().mapToDouble(Books::grams).toArray(), booked = rows.reversed().stream().mapToDouble(row -> Double.parseDouble(row[gramsAt])).toArray();
        for (int i = 0; i < really.length; i++) {
            boolean one = runs.get(i).whole();
            whole += one ? 1 : 0;
            broken += one ? 0 : 1;
            unknownG += one ? 0 : really[i] - booked[i];
            if (one && Math.abs(really[i] - booked[i]) > ROUNDED_G) {
                faults.add("%s: run %d took %.2f g, the ledger has %.2f g".formatted(name, i, really[i], booked[i]));
            }
        }
        grams += Arrays.stream(really).sum();
        bookedG += Arrays.stream(booked).sum();
    }

    private static double grams(Finished run) {
        Material pla = BuiltIn.material("pla").orElseThrow();
        return pla.grams(run.filamentMm() * FILAMENT_MM2);
    }

    /** What does not agree; nothing when all does. */
    List<String> faults() {
        return faults;
    }

    @Override
    public String toString() {
        return "%d runs to their end, %d broken off; %.1f g went through the nozzles, %.1f g stand in the ledger (of what was broken off %.1f g were pushed after the last that was heard)"
                .formatted(whole, broken, grams, bookedG, unknownG);
    }
}
