package fabbrica.printsim;

import fabbrica.core.recipe.Printer;
import java.io.Closeable;
import java.io.IOException;
import java.io.OutputStream;
import java.io.UncheckedIOException;
import java.net.InetAddress;
import java.net.InetSocketAddress;
import java.net.ServerSocket;
import java.net.Socket;
import java.nio.charset.StandardCharsets;
import java.nio.file.Path;
import java.time.Clock;
import java.time.Duration;
import java.time.Instant;
import java.util.List;
import java.util.Optional;
import java.util.concurrent.LinkedBlockingQueue;
import java.util.concurrent.TimeUnit;
import java.util.random.RandomGenerator;
import java.util.random.RandomGeneratorFactory;
import org.jspecify.annotations.Nullable;

/**
 * A simulated printer on a line: one host at a time, as with a cable; a second one is told so and sent away. Everything that happens to the machine
 * happens under one lock, after it has caught up with the clock.
 */
public final class PrinterServer implements Closeable, Conversation.Shelf {

    /** How often it looks whether it has something to say by itself, really. */
    private static final Duration TICK = Duration.ofMillis(50);
    private static final long CARD_BYTES = 512L << 20;
    /** Answers that nobody reads, beyond which the host is taken to be gone. */
    private static final int MOST_UNREAD = 100_000;

    private static final String BUSY = "Error:busy, another host is at the line\n";

    private final SimulatedPrinter printer;
    private final Printer figures;
    private final Identity identity;
    private final Card card;
    private final Clock clock;
    private final Instant switchedOn;
    private final ServerSocket door;
    private final Camera camera;
    private @Nullable Host host;
    private volatile boolean closed;

    /** Whoever is at the other end of the line. */
    private final class Host {

        private final Socket socket;
        private final Conversation conversation;
        private final LinkedBlockingQueue<String> unread = new LinkedBlockingQueue<>(MOST_UNREAD);

        private Host(Socket socket) {
            this.socket = socket;
            this.conversation = new Conversation(printer, identity, PrinterServer.this, this::say);
        }

        private void say(String line) {
            if (!unread.offer(line)) {
                hangUp();
            }
        }

        private void hangUp() {
            try {
                socket.close();
            } catch (IOException e) {
                throw new UncheckedIOException(e);
            }
        }

        private void write() {
            try (OutputStream out = socket.getOutputStream()) {
                StringBuilder lines = new StringBuilder();
                while (!socket.isClosed()) {
                    String line = unread.poll(1, TimeUnit.SECONDS);
                    for (; line != null; line = lines.length() < 1 << 16 ? unread.poll() : null) {
                        lines.append(line).append('\n');
                    }
                    out.write(lines.toString().getBytes(StandardCharsets.ISO_8859_1));
                    lines.setLength(0);
                }
            } catch (IOException e) {
                // The host has gone.
            } catch (InterruptedException e) {
                Thread.currentThread().interrupt();
            }
        }

        private void read() {
            byte[] bytes = new byte[1 << 14];
            try (socket) {
                int count;
                while ((count = socket.getInputStream().read(bytes)) >= 0) {
                    synchronized (PrinterServer.this) {
                        catchUp();
                        conversation.accept(bytes, count);
                    }
                }
            } catch (IOException e) {
                // The host has gone.
            } finally {
                synchronized (PrinterServer.this) {
                    conversation.over();
                    host = host == this ? null : host;
                }
            }
        }
    }

    /**
     * @param port  0 for any that is free
     * @param card  the folder that is its card
     * @param clock its own time
     * @param seed  of what is left to chance
     */
    public PrinterServer(int port, Printer figures, Identity identity, Truth truth, Odds odds, Path card, Clock clock, long seed) throws IOException {
        RandomGenerator random = RandomGeneratorFactory.getDefault().create(seed);
        this.figures = figures;
        this.identity = identity;
        this.clock = clock;
        this.switchedOn = clock.instant();
        this.card = new Card(card, CARD_BYTES);
        this.printer = new SimulatedPrinter(figures, truth, odds, random, switchedOn);
        this.door = new ServerSocket();
        door.setReuseAddress(true);
        door.bind(new InetSocketAddress(InetAddress.getLoopbackAddress(), port));
        this.camera = new Camera(figures, this.card, this::standing);
        Thread.ofVirtual().name("printer " + identity.name()).start(this::receive);
        Thread.ofVirtual().name("time of " + identity.name()).start(this::tick);
    }

    public int port() {
        return door.getLocalPort();
    }

    /** Where its camera answers: {@code GET /picture.png}. */
    public int cameraPort() {
        return camera.port();
    }

    private synchronized SimulatedPrinter.Standing standing() {
        catchUp();
        return printer.standing();
    }

    @Override
    public Card card() {
        return card;
    }

    @Override
    public Program program(String name) throws IOException {
        byte[] file = card.read(name).orElseThrow(() -> new Refused("there is no file " + name));
        return Program.of(name, file, figures);
    }

    /** What shall happen as soon as a layer of the next run begins, from 1. */
    public synchronized void whenLayer(int layer, Fault fault) {
        printer.whenLayer(layer, fault);
    }

    /** What happens now. */
    public synchronized void happen(Fault fault) {
        catchUp();
        printer.happen(fault);
    }

    /**
     * A run that was over.
     *
     * @param whole      whether it came to the file's end
     * @param filamentMm pushed forward
     */
    public record Finished(String file, boolean whole, double filamentMm) {
    }

    /** All of them since it was made. */
    public synchronized List<Finished> finished() {
        catchUp();
        return printer.history().stream().map(ended -> new Finished(ended.file(), ended.whole(), ended.filamentMm())).toList();
    }

    /** Whether it is at no file. */
    public synchronized boolean isIdle() {
        catchUp();
        return printer.standing().file().isEmpty();
    }

    public boolean isPaused() {
        return standing().doing() == SimulatedPrinter.Doing.PAUSED;
    }

    /** Whether it has stopped everything. */
    public boolean isHalted() {
        return standing().doing() == SimulatedPrinter.Doing.HALTED;
    }

    /** How much filament is on the spool that it prints from, mm. */
    public synchronized void load(double filamentMm) {
        printer.load(filamentMm);
    }

    private void receive() {
        while (!closed) {
            try {
                admit(door.accept());
            } catch (IOException e) {
                // Closed, or the host has gone at once.
            }
        }
    }

    private void admit(Socket socket) throws IOException {
        socket.setTcpNoDelay(true);
        Host next = new Host(socket);
        boolean reachable, free;
        synchronized (this) {
            catchUp();
            reachable = printer.isReachable();
            free = host == null;
            host = reachable && free ? next : host;
        }
        if (!reachable || !free) {
            try (socket) {
                socket.getOutputStream().write((reachable ? BUSY : "").getBytes(StandardCharsets.ISO_8859_1));
            }
            return;
        }
        next.say("start");
        Thread.ofVirtual().start(next::write);
        Thread.ofVirtual().start(next::read);
    }

    private void tick() {
        try {
            while (!closed) {
                Thread.sleep(TICK);
                synchronized (this) {
                    catchUp();
                    if (host != null) {
                        host.conversation.report(Duration.between(switchedOn, clock.instant()).toMillis() / 1000.0);
                    }
                }
            }
        } catch (InterruptedException e) {
            Thread.currentThread().interrupt();
        }
    }

    private void catchUp() {
        printer.passTo(clock.instant());
        if (host != null && !printer.isReachable()) {
            host.hangUp();
            host = null;
        }
        // What it says while nobody listens is lost.
        List<String> said = printer.said();
        if (host != null) {
            said.forEach(host::say);
        }
    }

    @Override
    public void close() throws IOException {
        closed = true;
        door.close();
        camera.close();
        Host last;
        synchronized (this) {
            last = host;
        }
        Optional.ofNullable(last).ifPresent(Host::hangUp);
    }
}
