package fabbrica.bench.soak;

import fabbrica.bench.Load;
import fabbrica.core.recipe.BuiltIn;
import fabbrica.core.recipe.Printer;
import fabbrica.printsim.FastClock;
import fabbrica.printsim.Identity;
import fabbrica.printsim.Odds;
import fabbrica.printsim.PrinterServer;
import fabbrica.printsim.Truth;
import java.io.IOException;
import java.nio.file.Path;
import java.time.Clock;
import java.time.Duration;
import java.util.ArrayDeque;
import java.util.ArrayList;
import java.util.Deque;
import java.util.List;
import java.util.Optional;
import java.util.TreeMap;
import java.util.concurrent.Semaphore;
import java.util.function.Function;
import java.util.regex.Pattern;
import java.util.stream.Collectors;
import java.util.stream.IntStream;
import java.util.stream.Stream;

/**
 * Fifty simulated machines, attended by six people, print on a clock that goes sixty times as fast while pages are open; then the server is killed in the middle of it again and
 * again, and all the while machines lose their power. In the end every run that a machine was at must stand in the ledger once, with its plastic.
 */
public final class Soak {

    private static final int SPEED = 60;
    private static final Duration LOOKS = Duration.ofSeconds(20), WARMS_UP = Duration.ofMinutes(1), BETWEEN_KILLS = Duration.ofSeconds(15);
    private static final Pattern QUEUE = Pattern.compile("id=\"printer-([\\w-]+)\"(.*?)</section>", Pattern.DOTALL), PLATE = Pattern.compile("/floor/plates/(\\d+)/elsewhere"),
            NAME = Pattern.compile("<h2[^>]*>(?:<[^>]*>)*([^<]+)");
    /** Who walk about among the machines, at the lab's speed: so many of them have no minute to spare. */
    private static final int PEOPLE = 6;
    private static final List<String> PAGES = List.of("/floor", "/now", "/counter", "/counter");

    private final Site site;
    private final List<Attendant> attendants = new ArrayList<>();
    private final Answers answers = new Answers();
    private final Semaphore people = new Semaphore(PEOPLE);

    private Soak(Site site) {
        this.site = site;
    }

    /** @param arguments port, minutes, kills, machines, pages, a folder for the data, and the server's command */
    public static void main(String[] arguments) throws Exception {
        double reference = Load.referenceSeconds();
        List<String> faults = run(Integer.parseInt(arguments[0]), Duration.ofMinutes(Integer.parseInt(arguments[1])), Integer.parseInt(arguments[2]), Integer.parseInt(arguments[3]),
                Integer.parseInt(arguments[4]), Path.of(arguments[5]), Stream.of(arguments).skip(6).toList());
        System.out.printf("admesh checks the knobbly sphere in %.2f s%n", reference);
        System.exit(faults.isEmpty() ? 0 : 1);
    }

    /** @return what does not agree in the end */
    static List<String> run(int port, Duration load, int kills, int machines, int pages, Path data, List<String> command) throws IOException, InterruptedException {
        try (Site site = new Site(port, data, SPEED, command)) {
            Soak soak = new Soak(site);
            soak.connect(machines, data.resolve("cards"));
            soak.load(load, pages);
            for (int kill = 1; kill <= kills; kill++) {
                Thread.sleep(BETWEEN_KILLS);
                site.killAndStart();
            }
            soak.attendants.forEach(Attendant::close);
            for (Attendant each : soak.attendants) {
                each.await();
            }
            Books books = new Books(site, soak.attendants);
            System.out.println(books);
            soak.attendants.stream().flatMap(one -> one.refused().stream()).collect(Collectors.groupingBy(Function.identity(), TreeMap::new, Collectors.counting()))
                    .forEach((said, times) -> System.out.printf("%d times not taken: %s%n", times, said));
            books.faults().forEach(System.out::println);
            return books.faults();
        }
    }

    private void connect(int count, Path cards) throws IOException, InterruptedException {
        Printer door = BuiltIn.printer("standard").orElseThrow();
        for (var queue : QUEUE.matcher(site.get("/floor")).results().limit(count).toList()) {
            String id = queue.group(1), name = NAME.matcher(queue.group(2)).results().findFirst().orElseThrow().group(1).strip();
            Deque<String> plates = id.startsWith("bench-") ? PLATE.matcher(site.get("/floor/printers/" + id)).results().map(plate -> plate.group(1)).distinct().collect(Collectors.toCollection(ArrayDeque::new))
                    : new ArrayDeque<>();
            Printer figures = new Printer(id, name, door.bed(), door.nozzle(), door.kinematics(), door.preparation(), door.filamentMm(), door.enclosed(), door.maxNozzleC(), door.maxBedC(),
                    door.materialIds());
            PrinterServer machine = new PrinterServer(0, figures, new Identity("soak-" + id, name, true), new Truth(1.05, 1, 1.04, 1, 0.03), Odds.USUAL, cards.resolve(id),
                    FastClock.of(Clock.systemUTC(), SPEED), id.hashCode());
            String page = "/stores/printers/" + id + "/machine";
            Optional<String> refused = site.post(page, "host=127.0.0.1&port=" + machine.port() + "&camera=", site.get(page));
            if (refused.isPresent()) {
                throw new IOException("%s could not be put on the line: %s".formatted(name, refused.get()));
            }
            attendants.add(new Attendant(site, id, name, machine, plates, people));
        }
    }

    /** Pages that are open for some time; of a server that was just started the first minute is told apart. */
    private void load(Duration time, int count) throws IOException, InterruptedException {
        List<OpenPage> open = IntStream.range(0, count).mapToObj(i -> new OpenPage(site, PAGES.get(i % PAGES.size()), answers)).toList();
        for (Duration passed = Duration.ZERO; passed.compareTo(time) < 0; passed = passed.plus(LOOKS)) {
            Thread.sleep(LOOKS);
            System.out.printf("after %d s: %d MB, %d runs over%n", passed.plus(LOOKS).toSeconds(), site.megabytes(), attendants.stream().mapToLong(one -> one.machine().finished().size()).sum());
            if (passed.plus(LOOKS).equals(WARMS_UP)) {
                answers.tell("while the server warms up");
            }
        }
        open.forEach(OpenPage::close);
        answers.tell("pages");
    }
}
