package fabbrica.web.floor;

import fabbrica.core.schedule.Schedule.Slot;
import fabbrica.core.units.Spoken;
import fabbrica.web.floor.FloorPlans.Desk;
import fabbrica.web.machine.Machines;
import fabbrica.web.machine.Watched;
import fabbrica.web.plan.LaidPlate;
import fabbrica.web.platform.Moments;
import fabbrica.web.stores.Keyholder;
import fabbrica.web.stores.Keyholders;
import fabbrica.web.stores.StockPrinter;
import fabbrica.web.ticket.Ticket;
import fabbrica.web.ticket.TicketState;
import fabbrica.web.ticket.Tickets;
import jakarta.servlet.http.HttpSession;
import java.time.Instant;
import java.util.Arrays;
import java.util.List;
import java.util.Objects;
import java.util.Optional;
import java.util.Set;
import java.util.stream.Collectors;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Controller;
import org.springframework.ui.Model;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.RequestParam;

/** The Floor: every printer, what it prints and what waits, by the plan that holds and by the draft of the next. */
@Controller
class FloorController {

    /** How much of time somebody looked at last, in their session. */
    private static final String SPAN = "floor.span";
    /** How much of all queues together, and of one, is listed; the plan shows all of it. */
    private static final int MOST_WAITING = 100, NEXT_IN_LINE = 6, SURELY_NEXT = 2;

    private final Runs runs;
    private final FloorPlans plans;
    private final Drafting drafting;
    private final Tickets tickets;
    private final Moments moments;
    private final Timeline timeline;
    private final Keyholders keyholders;
    private final Machines machines;

    FloorController(Runs runs, FloorPlans plans, Drafting drafting, Tickets tickets, Moments moments, Timeline timeline, Keyholders keyholders,
                    Machines machines) {
        this.runs = runs;
        this.plans = plans;
        this.drafting = drafting;
        this.tickets = tickets;
        this.moments = moments;
        this.timeline = timeline;
        this.keyholders = keyholders;
        this.machines = machines;
    }

    /** A plate that waits, in words; a crowded Floor has hundreds of them, and words are quicker said here than in a template. */
    record Waiting(long id, String name, String whose, String takes, String expected, boolean late) {
    }

    /**
     * @param running  null while the printer is idle
     * @param canStart whether what waits may be started
     * @param waiting  what is next in line
     * @param more     how many wait behind those
     */
    record Queue(StockPrinter printer, @Nullable Run running, Watched machine, boolean canStart, List<Waiting> waiting, int more) {
    }

    /**
     * What is being planned.
     *
     * @param draft   nothing when nothing is
     * @param moved   how many plates it puts elsewhere, or at another time
     * @param late    how many are printed too late by it
     * @param unknown how many wait that are in no plan yet
     * @param looking whether a plan is being looked for
     */
    record Planned(Optional<Draft> draft, String mark, int moved, long late, long unknown, boolean looking) {

        public boolean isEmpty() {
            return draft.isEmpty();
        }
    }

    /** How much of time is shown, to be chosen. */
    record Zooming(Zoom shown, List<Zoom> all) {
    }

    /**
     * The floor as it stands.
     *
     * @param onDuty those with a key who are there now
     */
    record FloorPage(List<Queue> queues, Planned planned, String timeline, Zooming zoom, List<LaidPlate> drafts, List<Ticket> failed, Instant now,
                     List<Keyholder> onDuty) {
    }

    @GetMapping("/floor")
    String floor(@RequestParam(required = false) @Nullable String span, HttpSession session, Model page) {
        Desk desk = plans.desk();
        List<Run> running = runs.running();
        FloorPlan queues = desk.queues(), plan = desk.plan();
        int next = Math.clamp(MOST_WAITING / Math.max(1, queues.floor().printers().size()), SURELY_NEXT, NEXT_IN_LINE);
        List<Queue> rows = queues.floor().printers().stream().map(printer -> new Queue(printer,
                running.stream().filter(run -> run.printerId().equals(printer.id())).findFirst().orElse(null),
                machines.of(printer.id()).orElseThrow(), queues.floor().canStart(printer),
                queues.row(printer.id()).stream().limit(next).map(one -> waiting(queues.plate(one.plate()), queues.slot(one.plate()), queues.late(one.plate()))).toList(),
                Math.max(0, queues.row(printer.id()).size() - next))).toList();
        Set<Long> moved = Moved.between(queues.floor().waiting(), queues.schedule(), plan.schedule(), plan.needed()).stream()
                .map(each -> each.plate().id()).collect(Collectors.toSet());
        if (span != null) {
            session.setAttribute(SPAN, span);
        }
        Zoom zoom = Zoom.of(Objects.toString(session.getAttribute(SPAN), ""));
        page.addAttribute("page", new FloorPage(rows, new Planned(desk.draft(), desk.stand().mark(), moved.size(),
                plan.placed().stream().filter(one -> plan.late(one.plate())).count(), queues.floor().waiting().stream().filter(plate -> plate.published() == null).count(),
                drafting.isLooking()), timeline.svg(plan, running, zoom, moved, true), new Zooming(zoom, Arrays.asList(Zoom.values())),
                queues.floor().open().stream().filter(LaidPlate::isDraft).toList(), tickets.inStates(TicketState.FAILED),
                moments.now(), keyholders.all().stream().filter(one -> one.hours().at(moments.now()).isPresent()).toList()));
        return "floor/floor";
    }

    private Waiting waiting(LaidPlate plate, Optional<Slot> slot, boolean late) {
        String number = plate.tickets().size() == 1 ? " no. " + plate.tickets().getFirst() : "";
        return new Waiting(plate.id(), plate.name(), plate.member() + number, Spoken.duration(Objects.requireNonNull(plate.promise()).totalS()),
                slot.map(known -> moments.say(known.start())).orElse("nobody knows"), late);
    }
}
