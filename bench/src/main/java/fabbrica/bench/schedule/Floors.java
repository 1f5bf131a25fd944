package fabbrica.bench.schedule;

import fabbrica.core.schedule.FloorView;
import fabbrica.core.schedule.FloorView.Handling;
import fabbrica.core.schedule.FloorView.Machine;
import fabbrica.core.schedule.FloorView.Option;
import fabbrica.core.schedule.FloorView.Waiting;
import fabbrica.core.schedule.Rules;
import fabbrica.core.schedule.Setup;
import fabbrica.core.schedule.Span;
import java.time.Duration;
import java.time.Instant;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Random;
import java.util.stream.IntStream;

/** Made-up labs with a busy week or more before them, the same for the same number. */
final class Floors {

    private static final Instant MONDAY = Instant.parse("2026-03-02T08:00:00Z");
    private static final String[] MATERIALS = {"PLA", "PLA", "PLA", "PETG", "TPU"};
    private static final String[] COLOURS = {"black", "white", "red", "blue", "grey"};
    private static final int[] WEIGHTS = {1, 1, 1, 2, 3, 5};
    private static final int DAY = 24 * 60;

    private final Random random;

    private Floors(long number) {
        random = new Random(number);
    }

    static FloorView of(int plates, int machines, int days, long number) {
        return new Floors(number).floor(plates, machines, days);
    }

    private FloorView floor(int plates, int machineCount, int days) {
        List<Span> staffed = new ArrayList<>();
        for (int day = 0; day < days; day++) {
            if (day % 7 < 6) {
                staffed.add(span(day * DAY + 120, day * DAY + 120 + 8 * 60));
            }
        }
        Handling handling = new Handling(Duration.ofMinutes(6), Duration.ofMinutes(12), Duration.ofMinutes(20), Duration.ofMinutes(5));
        boolean[] unattended = new boolean[machineCount];
        double[] pace = new double[machineCount];
        List<Machine> machines = new ArrayList<>();
        for (int i = 0; i < machineCount; i++) {
            unattended[i] = i == 0 || random.nextInt(3) > 0;
            pace[i] = 0.8 + 0.4 * random.nextDouble();
            int from = random.nextInt(3 * DAY);
            machines.add(new Machine("P" + (i + 1), at(random.nextInt(3) > 0 ? 0 : random.nextInt(DAY)), false, setup(),
                    random.nextInt(3) > 0 ? List.of() : List.of(span(from, from + 90 + random.nextInt(300))), handling));
        }
        List<Waiting> waiting = new ArrayList<>();
        for (int j = 0; j < plates; j++) {
            Setup setup = setup();
            double minutes = Math.exp(3.4 + 2.2 * random.nextDouble()) * 2;
            List<Option> options = IntStream.range(0, machineCount).filter(i -> i == 0 || random.nextInt(4) > 0).mapToObj(i -> new Option("P" + (i + 1), setup,
                    Duration.ofMinutes(Math.round(minutes * pace[i])), Duration.ZERO, 0, unattended[i], 0)).toList();
            int release = random.nextBoolean() ? 0 : random.nextInt(2 * DAY);
            waiting.add(new Waiting(j, options, at(release), at(release + (int) (minutes * (1 + 3 * random.nextDouble())) + random.nextInt(DAY)),
                    WEIGHTS[random.nextInt(WEIGHTS.length)], 0, null, null));
        }
        return new FloorView(MONDAY, staffed, List.of(), List.of(), Map.of(), machines, waiting, Rules.OF_THE_FILE);
    }

    private Setup setup() {
        return new Setup(MATERIALS[random.nextInt(MATERIALS.length)], COLOURS[random.nextInt(COLOURS.length)], "", 0);
    }

    private static Instant at(int minute) {
        return MONDAY.plus(Duration.ofMinutes(minute));
    }

    private static Span span(int from, int to) {
        return new Span(at(from), at(to));
    }
}
