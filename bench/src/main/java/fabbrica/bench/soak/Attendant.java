package fabbrica.bench.soak;

import fabbrica.printsim.Fault;
import fabbrica.printsim.PrinterServer;
import java.io.IOException;
import java.util.Deque;
import java.util.List;
import java.util.Random;
import java.util.concurrent.CopyOnWriteArrayList;
import java.util.concurrent.Semaphore;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import java.util.stream.Collectors;
import java.util.stream.Stream;

/** What is done at a machine, by one of the few people of a lab at a time: begins its next plate, ends what broke off, says how it ended, until told to come to an end. */
final class Attendant {

    private static final Pattern TICK = Pattern.compile("name=\"checked\"[^>]*value=\"(\\d+)\""), COPY = Pattern.compile("name=\"copy-(\\d+)\""),
            RUN = Pattern.compile("It prints</span>.*?/floor/runs/(\\d+)/end", Pattern.DOTALL),
            OVER = Pattern.compile("<span class=\"state[^>]*>\\S+ (?:waiting to be cleared|cooling)");
    /** Power cuts, for each second that a machine prints. */
    private static final double CUTS = 0.001;
    /** At least so long between two looks, and at most twice as long. */
    private static final int LOOKS_MS = 2000;

    private final Site site;
    private final String name;
    private final String id;
    private final PrinterServer machine;
    private final Deque<String> plates;
    private final boolean prints;
    private final Random chance;
    private final Semaphore people;
    private final Thread thread;
    /** Whether the lab's books may have a run on its plate. */
    private boolean mayHold = true;
    private volatile boolean closing;
    private final List<String> refused = new CopyOnWriteArrayList<>();

    /**
     * @param plates that wait for the machine, by their numbers
     * @param people who share all machines: each of them does one thing at a time
     */
    Attendant(Site site, String id, String name, PrinterServer machine, Deque<String> plates, Semaphore people) {
        this.site = site;
        this.id = id;
        this.name = name;
        this.machine = machine;
        this.plates = plates;
        this.prints = !plates.isEmpty();
        this.people = people;
        this.chance = new Random(id.hashCode());
        this.thread = Thread.ofVirtual().start(this::attend);
    }

    /** Begins nothing any more. */
    void close() {
        closing = true;
    }

    /** Waits, once it is closed, until what it is at is over and said. */
    void await() throws InterruptedException {
        thread.join();
    }

    String name() {
        return name;
    }

    PrinterServer machine() {
        return machine;
    }

    /** Whether it has plates to print; otherwise it only ends what was begun by hand before. */
    boolean prints() {
        return prints;
    }

    /** What the server said to forms that it has not taken. */
    List<String> refused() {
        return refused;
    }

    private void attend() {
        try {
            while (!closing || mayHold || !machine.isIdle()) {
                Thread.sleep(LOOKS_MS + chance.nextInt(LOOKS_MS));
                people.acquire();
                try {
                    attendOnce();
                } catch (IOException away) {
                    // It is tried again once the server is back.
                    mayHold = true;
                } finally {
                    people.release();
                }
            }
        } catch (InterruptedException e) {
            Thread.currentThread().interrupt();
        }
    }

    private void attendOnce() throws IOException, InterruptedException {
        if (!machine.isIdle() || machine.isHalted()) {
            mayHold = true;
            standBy();
        } else if (mayHold) {
            mayHold = cleared();
        } else if (!closing && !plates.isEmpty()) {
            begin();
        }
    }

    /** Says how the run ended that lies on the plate, if there is one. */
    private boolean cleared() throws IOException, InterruptedException {
        Matcher ended = RUN.matcher(site.get("/floor/printers/" + id));
        if (!ended.find()) {
            return false;
        }
        if (!machine.isIdle()) {
            // It has begun since it was looked at.
            return true;
        }
        String end = "/floor/runs/" + ended.group(1) + "/end", page = site.get(end);
        if (prints && !OVER.matcher(page).find()) {
            // The lab has not heard yet that it is over; what the form proposes would not be what the machine tells.
            return true;
        }
        boolean whole = !prints || machine.finished().getLast().whole();
        String copies = COPY.matcher(page).results().map(copy -> copy.group(1)).distinct().map(copy -> "copy-%s=%s".formatted(copy, whole ? "WELL" : "FAILED")).collect(Collectors.joining("&"));
        String figures = Stream.of("minutes", "proposed-minutes", "grams", "proposed-grams").map(field -> field + "=" + Site.value(page, field)).collect(Collectors.joining("&"));
        send(end, "%s&cause=%s&%s&sure=on".formatted(copies, whole ? "" : "soak", figures), page);
        return true;
    }

    private void begin() throws IOException, InterruptedException {
        String start = "/floor/start/" + plates.peek(), page = site.get(start);
        if (page.contains("is not waiting for its printer")) {
            plates.poll();
        } else if (page.contains("Put the file on the machine")) {
            send(start + "/send", "", page);
        } else if (page.contains("The file is on the machine")) {
            send(start, TICK.matcher(page).results().map(tick -> "checked=" + tick.group(1)).collect(Collectors.joining("&")), page);
            mayHold = true;
        }
    }

    private void standBy() throws IOException, InterruptedException {
        if (machine.isPaused()) {
            send("/machines/" + id, "order=END", site.get("/members"));
        } else if (machine.isHalted()) {
            send("/machines/" + id, "order=RESTART", site.get("/members"));
        } else if (chance.nextDouble() < CUTS * 1.5 * LOOKS_MS / 1000) {
            machine.happen(Fault.POWER_CUT);
        }
    }

    private void send(String to, String fields, String page) throws IOException, InterruptedException {
        site.post(to, fields, page).ifPresent(refused::add);
    }
}
