package fabbrica.core.schedule;

import fabbrica.core.schedule.FloorView.Handling;
import fabbrica.core.schedule.FloorView.Limit;
import fabbrica.core.schedule.FloorView.Machine;
import fabbrica.core.schedule.FloorView.Option;
import fabbrica.core.schedule.FloorView.Person;
import fabbrica.core.schedule.FloorView.Place;
import fabbrica.core.schedule.FloorView.Waiting;
import java.time.Duration;
import java.time.Instant;
import java.util.ArrayList;
import java.util.EnumSet;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Random;
import java.util.Set;
import java.util.stream.IntStream;

/** Made-up floors, the same for the same number. */
final class Floors {

    static final Instant NOW = Instant.parse("2026-03-02T08:00:00Z");
    static final Handling HANDLING = new Handling(Duration.ofMinutes(6), Duration.ofMinutes(12), Duration.ofMinutes(20), Duration.ofMinutes(5));

    private final Random random;

    private Floors(long number) {
        random = new Random(number);
    }

    static Instant minute(int minutes) {
        return NOW.plus(Duration.ofMinutes(minutes));
    }

    static Span span(int from, int to) {
        return new Span(minute(from), minute(to));
    }

    /** Up to six plates, two machines, three short days; every third has fewer people than machines, every fourth a pin, every fifth something owed to its machines. */
    static FloorView tiny(long number) {
        return new Floors(number).tinyFloor((int) number);
    }

    private FloorView tinyFloor(int number) {
        boolean few = number % 3 == 0;
        List<Span> staffed = IntStream.range(0, 3).mapToObj(day -> span(day * 300 + random.nextInt(40), day * 300 + 90 + random.nextInt(90))).toList();
        List<Machine> machines = IntStream.range(0, 2).mapToObj(i -> new Machine("M" + i, minute(random.nextInt(60)), random.nextInt(4) == 0, setup(),
                random.nextInt(3) == 0 ? List.of(down()) : List.of(), HANDLING, number % 5 == 0 ? List.of(chore()) : List.of())).toList();
        boolean[] unattended = {true, random.nextBoolean()};
        List<Waiting> waiting = new ArrayList<>();
        int count = few ? 2 + random.nextInt(4) : 2 + random.nextInt(5);
        for (int j = 0; j < count; j++) {
            Setup setup = setup();
            int minutes = 5 + random.nextInt(80);
            List<Option> options = IntStream.range(0, 2).filter(i -> i == 0 || random.nextInt(4) > 0).mapToObj(i -> new Option("M" + i, setup,
                    Duration.ofMinutes(minutes + i * random.nextInt(20)), Duration.ZERO, 0, unattended[i], 0)).toList();
            waiting.add(new Waiting(j, options, minute(random.nextInt(200) - 100), minute(random.nextInt(500)), 1 + random.nextInt(4), 0,
                    number % 4 == 0 && j == 0 ? new Place("M0", staffed.get(random.nextInt(3)).from().plus(Duration.ofMinutes(20 + random.nextInt(40)))) : null,
                    null));
        }
        List<Limit> limits = few ? List.of(new Limit(span(0, 900), 1)) : List.of();
        return new FloorView(NOW, staffed, List.of(), limits, Map.of(), machines, waiting, Rules.OF_THE_FILE);
    }

    /** Due before each start, after some printing, after some time, or after whichever comes first. */
    private Chore chore() {
        boolean byPrinting = random.nextBoolean();
        return new Chore("chore " + random.nextInt(3), Duration.ofMinutes(random.nextInt(15)), random.nextBoolean() ? Task.CLEAR : Task.CHANGE_NOZZLE,
                byPrinting ? Duration.ofMinutes(random.nextInt(3) * 60) : null, Duration.ofMinutes(random.nextInt(100)), byPrinting && random.nextBoolean() ? null
                : Duration.ofMinutes(1 + random.nextInt(300)), minute(-random.nextInt(200)));
    }

    private Span down() {
        int from = random.nextInt(600);
        return span(from, from + random.nextInt(120));
    }

    private Setup setup() {
        return new Setup(random.nextInt(3) == 0 ? "PETG" : "PLA", random.nextBoolean() ? "red" : "blue", "", 0);
    }

    /** Anything at all: nobody there, everything down, no minutes, needed in the past, pinned where nothing can be, spools that run out. */
    static FloorView odd(long number) {
        return new Floors(number).oddFloor();
    }

    private FloorView oddFloor() {
        int machineCount = random.nextInt(4), days = random.nextInt(6);
        List<Span> staffed = new ArrayList<>();
        for (int day = 0; day < days; day++) {
            int from = day * 720 - 200 + random.nextInt(400);
            staffed.add(span(from, from + random.nextInt(500) - 30));
        }
        List<String> reels = List.of("1", "2", "3");
        List<Machine> machines = IntStream.range(0, machineCount).mapToObj(i -> new Machine("M" + i, random.nextInt(6) == 0 ? null
                : minute(random.nextInt(600) - 300), random.nextBoolean(), random.nextBoolean() ? Setup.EMPTY : reel(Integer.toString(10 + i)),
                downs(), random.nextInt(5) == 0 ? new Handling(Duration.ZERO, Duration.ZERO, Duration.ZERO, Duration.ZERO) : HANDLING,
                IntStream.range(0, random.nextInt(3)).mapToObj(any -> chore()).toList())).toList();
        List<Waiting> waiting = new ArrayList<>();
        for (int j = 0, count = random.nextInt(12); j < count; j++) {
            List<Option> options = new ArrayList<>();
            for (int i = 0; i < machineCount + 1; i++) {
                if (random.nextInt(3) > 0) {
                    options.add(new Option("M" + i, random.nextBoolean() ? setup() : reel(reels.get(random.nextInt(3))),
                            Duration.ofMinutes(random.nextInt(4) == 0 ? 0 : random.nextInt(900)), Duration.ofMinutes(random.nextInt(3) * 10),
                            random.nextInt(200), random.nextBoolean(), random.nextDouble()));
                }
            }
            waiting.add(new Waiting(j, options, random.nextBoolean() ? null : minute(random.nextInt(900)), random.nextInt(3) == 0 ? null
                    : minute(random.nextInt(3000) - 1500), random.nextInt(4), random.nextDouble(), random.nextInt(4) == 0
                    ? new Place("M" + random.nextInt(4), minute(random.nextInt(2000) - 100)) : null, random.nextInt(3) == 0
                    ? new Place("M" + random.nextInt(4), minute(random.nextInt(2000))) : null));
        }
        Map<String, Double> stock = new HashMap<>();
        if (random.nextBoolean()) {
            reels.forEach(reel -> stock.put(reel, (double) random.nextInt(500)));
        }
        return new FloorView(NOW, staffed, random.nextBoolean() ? List.of() : people(staffed), random.nextBoolean() ? List.of()
                : List.of(new Limit(span(random.nextInt(800), random.nextInt(3000)), random.nextInt(3))), stock, machines, waiting, Rules.OF_A_LAB);
    }

    private List<Person> people(List<Span> staffed) {
        return IntStream.range(0, 1 + random.nextInt(3)).mapToObj(i -> {
            Set<Task> may = EnumSet.noneOf(Task.class);
            for (Task task : Task.values()) {
                if (i == 0 || random.nextBoolean()) {
                    may.add(task);
                }
            }
            return new Person("P" + i, may, staffed.stream().filter(any -> random.nextInt(4) > 0).toList());
        }).toList();
    }

    private List<Span> downs() {
        return switch (random.nextInt(4)) {
            case 0 -> List.of(down(), down());
            case 1 -> List.of(span(-10_000, 10_000));
            default -> List.of();
        };
    }

    private static Setup reel(String spool) {
        return new Setup("PLA", "red", spool, 0.4);
    }
}
