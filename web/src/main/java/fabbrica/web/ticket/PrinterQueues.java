package fabbrica.web.ticket;

import fabbrica.core.schedule.QueueForecast;
import fabbrica.core.schedule.QueueForecast.Slot;
import fabbrica.web.stores.Inventory;
import fabbrica.web.stores.StockPrinter;
import java.time.Clock;
import java.time.Duration;
import java.time.Instant;
import java.util.ArrayList;
import java.util.List;
import org.springframework.stereotype.Service;

/** What every printer prints, until when, and what waits for it. */
@Service
public class PrinterQueues {

    private final Tickets tickets;
    private final Inventory inventory;
    private final Clock clock;

    PrinterQueues(Tickets tickets, Inventory inventory, Clock clock) {
        this.tickets = tickets;
        this.inventory = inventory;
        this.clock = clock;
    }

    /** A copy that waits, and when it is expected to print. */
    public record Waiting(Ticket ticket, Slot slot) {
    }

    /**
     * @param running  null while the printer is idle
     * @param nextFree when the printer could start something new
     */
    public record PrinterQueue(StockPrinter printer, Run running, List<Waiting> waiting, Instant nextFree) {
    }

    public List<PrinterQueue> all() {
        List<Run> running = tickets.running();
        List<Ticket> queued = tickets.inStates(TicketState.QUEUED);
        return inventory.printers().stream().map(printer -> queue(printer, running, queued)).toList();
    }

    private PrinterQueue queue(StockPrinter printer, List<Run> allRunning, List<Ticket> allQueued) {
        Run running = allRunning.stream().filter(run -> run.printerId().equals(printer.id())).findFirst().orElse(null);
        List<Ticket> queued = allQueued.stream().filter(ticket -> printer.id().equals(ticket.printerId())).toList();
        List<Duration> lengths = new ArrayList<>(queued.stream()
                .map(ticket -> Duration.ofSeconds(Math.round(ticket.promisedS()))).toList());
        lengths.add(Duration.ZERO);
        List<Slot> slots = QueueForecast.of(clock.instant(), running == null ? null : running.promisedEnd(), lengths);
        List<Waiting> waiting = new ArrayList<>();
        for (int i = 0; i < queued.size(); i++) {
            waiting.add(new Waiting(queued.get(i), slots.get(i)));
        }
        return new PrinterQueue(printer, running, List.copyOf(waiting), slots.getLast().start());
    }
}
