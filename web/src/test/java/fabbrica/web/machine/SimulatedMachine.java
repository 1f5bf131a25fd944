package fabbrica.web.machine;

import fabbrica.core.recipe.Printer;
import fabbrica.printsim.FastClock;
import fabbrica.printsim.Fault;
import fabbrica.printsim.Identity;
import fabbrica.printsim.Odds;
import fabbrica.printsim.PrinterServer;
import fabbrica.printsim.Truth;
import java.io.Closeable;
import java.io.IOException;
import java.io.UncheckedIOException;
import java.net.BindException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Clock;
import java.util.List;
import java.util.Optional;
import java.util.stream.Stream;

/** A simulated machine for one of the lab's printers, as fast as it can go unless a clock is given. */
public final class SimulatedMachine implements Closeable {

    private final Printer figures;
    private final Path card;
    private final Clock clock;
    private PrinterServer server;

    public SimulatedMachine(Printer figures, Path card) {
        this(figures, card, FastClock.of(Clock.systemUTC(), FastClock.FASTEST));
    }

    public SimulatedMachine(Printer figures, Path card, Clock clock) {
        this.figures = figures;
        this.card = card;
        this.clock = clock;
        this.server = server(0, "uuid-of-" + figures.id()).orElseThrow();
    }

    /** Nothing as long as the port is still taken. */
    private Optional<PrinterServer> server(int port, String uuid) {
        try {
            return Optional.of(new PrinterServer(port, figures, new Identity(uuid, figures.name(), true), Truth.EXACT, Odds.NEVER, card, clock, 1));
        } catch (BindException e) {
            return Optional.empty();
        } catch (IOException e) {
            throw new UncheckedIOException(e);
        }
    }

    public MachineAddress address() {
        return new MachineAddress(figures.id(), "127.0.0.1", server.port(), server.cameraPort(), "", "");
    }

    /** In the next run. */
    public void whenLayer(int layer, Fault fault) {
        server.whenLayer(layer, fault);
    }

    public void happen(Fault fault) {
        server.happen(fault);
    }

    List<Path> files() {
        try (Stream<Path> all = Files.list(card)) {
            return all.toList();
        } catch (IOException e) {
            throw new UncheckedIOException(e);
        }
    }

    /** Whether it has nothing to do any more. */
    boolean isDone() {
        return server.isIdle();
    }

    /** Another machine answers at the same address from now on, or the same one after it was switched off and on. */
    void becomes(String uuid) {
        int port = server.port();
        close();
        server = Until.there("its port is free", () -> server(port, uuid));
    }

    @Override
    public void close() {
        try {
            server.close();
        } catch (IOException e) {
            throw new UncheckedIOException(e);
        }
    }
}
