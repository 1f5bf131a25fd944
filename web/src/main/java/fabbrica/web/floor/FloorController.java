package fabbrica.web.floor;

import fabbrica.core.schedule.Schedule.Slot;
import fabbrica.web.plan.Forecasts;
import fabbrica.web.plan.LaidPlate;
import fabbrica.web.plan.Plates;
import fabbrica.web.platform.Moments;
import fabbrica.web.stores.Keyholder;
import fabbrica.web.stores.Keyholders;
import fabbrica.web.stores.StockPrinter;
import fabbrica.web.ticket.Ticket;
import fabbrica.web.ticket.TicketState;
import fabbrica.web.ticket.Tickets;
import java.time.Instant;
import java.util.List;
import java.util.Optional;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Controller;
import org.springframework.ui.Model;
import org.springframework.web.bind.annotation.GetMapping;

/** The Floor: every printer, what it prints and what waits. */
@Controller
class FloorController {

    private final Runs runs;
    private final Plates plates;
    private final Forecasts forecasts;
    private final Tickets tickets;
    private final Moments moments;
    private final Timeline timeline;
    private final Keyholders keyholders;

    FloorController(Runs runs, Plates plates, Forecasts forecasts, Tickets tickets, Moments moments, Timeline timeline, Keyholders keyholders) {
        this.runs = runs;
        this.plates = plates;
        this.forecasts = forecasts;
        this.tickets = tickets;
        this.moments = moments;
        this.timeline = timeline;
        this.keyholders = keyholders;
    }

    /** A plate that waits, and when it is expected to be printed; nothing when nobody knows. */
    record Waiting(LaidPlate plate, Optional<Slot> slot) {
    }

    /**
     * @param running  null while the printer is idle
     * @param canStart whether what waits may be started
     */
    record Queue(StockPrinter printer, @Nullable Run running, boolean canStart, List<Waiting> waiting) {
    }

    /**
     * The floor as it stands.
     *
     * @param onDuty those with a key who are there now
     */
    record FloorPage(List<Queue> queues, String timeline, List<LaidPlate> drafts, List<Ticket> failed, Instant now, List<Keyholder> onDuty) {
    }

    @GetMapping("/floor")
    String floor(Model page) {
        Forecasts.Floor floor = forecasts.floor();
        List<Run> running = runs.running();
        List<Queue> queues = floor.printers().stream().map(printer -> new Queue(printer,
                running.stream().filter(run -> run.printerId().equals(printer.id())).findFirst().orElse(null), floor.canStart(printer),
                floor.waiting().stream().filter(plate -> plate.plan().printerId().equals(printer.id()))
                        .map(plate -> new Waiting(plate, floor.of(plate))).toList())).toList();
        page.addAttribute("page", new FloorPage(queues, timeline.svg(queues),
                floor.open().stream().filter(LaidPlate::isDraft).toList(), tickets.inStates(TicketState.FAILED),
                moments.now(), keyholders.all().stream().filter(one -> one.hours().at(moments.now()).isPresent()).toList()));
        return "floor/floor";
    }
}
