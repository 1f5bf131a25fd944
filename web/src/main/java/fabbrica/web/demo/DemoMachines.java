package fabbrica.web.demo;

import fabbrica.core.recipe.Printer;
import fabbrica.core.run.MachineState.Kind;
import fabbrica.printsim.Identity;
import fabbrica.printsim.Odds;
import fabbrica.printsim.PrinterServer;
import fabbrica.printsim.Truth;
import fabbrica.web.floor.Runs;
import fabbrica.web.machine.MachineAddress;
import fabbrica.web.machine.Machines;
import fabbrica.web.plan.LaidPlate;
import fabbrica.web.plan.PlateFiles;
import fabbrica.web.plan.Plates;
import fabbrica.web.platform.storage.DataFolder;
import fabbrica.web.stores.Inventory;
import fabbrica.web.stores.StockPrinter;
import jakarta.annotation.PreDestroy;
import java.io.IOException;
import java.io.UncheckedIOException;
import java.nio.file.Path;
import java.time.Duration;
import java.util.ArrayList;
import java.util.List;
import java.util.function.BooleanSupplier;
import org.springframework.boot.autoconfigure.condition.ConditionalOnProperty;
import org.springframework.boot.context.event.ApplicationReadyEvent;
import org.springframework.context.annotation.Lazy;
import org.springframework.context.event.EventListener;
import org.springframework.core.annotation.Order;
import org.springframework.core.env.Environment;
import org.springframework.stereotype.Component;

/**
 * Simulated machines for the printers of the demo, on the same clock as the lab, each with a truth of its own. What was begun before the demo begins
 * is begun on them by the same steps as in the browser, at its time; the oldest printer is started by hand.
 */
@Component
@Lazy(false)
@ConditionalOnProperty("fabbrica.demo.machines")
class DemoMachines {

    private static final String BY_HAND = "old";
    private static final String WHO = "mira";
    private static final Duration PATIENCE = Duration.ofMinutes(1);
    private static final Duration STEP = Duration.ofMillis(20);

    private final DemoLab lab;
    private final DemoClock clock;
    private final Machines machines;
    private final Inventory inventory;
    private final Plates plates;
    private final PlateFiles files;
    private final Runs runs;
    private final Path cards;
    private final List<PrinterServer> servers = new ArrayList<>();

    DemoMachines(DemoLab lab, DemoClock clock, Machines machines, Inventory inventory, Plates plates, PlateFiles files, Runs runs, Environment environment) {
        this.lab = lab;
        this.clock = clock;
        this.machines = machines;
        this.inventory = inventory;
        this.plates = plates;
        this.files = files;
        this.runs = runs;
        this.cards = DataFolder.of(environment).resolve("cards");
    }

    /** Before the demo is announced. */
    @Order(1)
    @EventListener(ApplicationReadyEvent.class)
    void start() {
        List<DemoLab.Begun> begun = lab.begun();
        begun.stream().findFirst().ifPresent(first -> clock.put(first.at()));
        try {
            int number = 0;
            for (StockPrinter printer : inventory.printers()) {
                if (!printer.id().equals(BY_HAND)) {
                    connect(printer.printer(), ++number);
                }
            }
            for (DemoLab.Begun each : begun) {
                clock.put(each.at());
                begin(plates.plate(each.plate()));
            }
        } catch (IOException e) {
            throw new UncheckedIOException(e);
        } finally {
            clock.release();
        }
    }

    private void connect(Printer printer, int number) throws IOException {
        PrinterServer server = new PrinterServer(0, printer, new Identity("simulated-" + printer.id(), printer.name(), true),
                new Truth(1.1, 1, 1.02 + 0.02 * number, 0.99 + 0.01 * number, 0.03), Odds.USUAL, cards.resolve(printer.id()), clock, number);
        servers.add(server);
        machines.connect(new MachineAddress(printer.id(), "127.0.0.1", server.port(), server.cameraPort(), "", ""), WHO);
        await(() -> machines.of(printer.id()).orElseThrow().kind() == Kind.IDLE);
    }

    private void begin(LaidPlate plate) throws IOException {
        String printer = plate.plan().printerId(), mark = files.mark(plate);
        machines.load(printer, plate.id(), mark, files.of(plate).content());
        await(() -> machines.readied(printer, plate.id(), mark).file().isPresent());
        runs.start(plates.plate(plate.id()), WHO);
        await(() -> plates.plate(plate.id()).state() == LaidPlate.State.RUNNING);
    }

    private static void await(BooleanSupplier meant) {
        long end = System.nanoTime() + PATIENCE.toNanos();
        while (!meant.getAsBoolean()) {
            if (System.nanoTime() > end) {
                throw new IllegalStateException("a simulated machine does not answer");
            }
            try {
                Thread.sleep(STEP);
            } catch (InterruptedException e) {
                Thread.currentThread().interrupt();
                throw new IllegalStateException(e);
            }
        }
    }

    @PreDestroy
    void close() {
        for (PrinterServer server : servers) {
            try {
                server.close();
            } catch (IOException e) {
                throw new UncheckedIOException(e);
            }
        }
    }
}
