package fabbrica.web.plan;

import fabbrica.core.schedule.Calendar;
import fabbrica.core.schedule.FirstCome;
import fabbrica.core.schedule.FloorView;
import fabbrica.core.schedule.FloorView.Waiting;
import fabbrica.core.schedule.Schedule;
import fabbrica.core.schedule.Schedule.Slot;
import fabbrica.core.schedule.Scheduler;
import fabbrica.web.stores.Inventory;
import fabbrica.web.stores.Spools;
import fabbrica.web.stores.StockPrinter;
import fabbrica.web.stores.StockSpool;
import java.time.Clock;
import java.time.Duration;
import java.util.ArrayList;
import java.util.List;
import java.util.Objects;
import java.util.Optional;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Service;

/** When plates that wait, or would wait, are printed: the one answer for tickets, plans, the trade table and the Floor. */
@Service
public class Forecasts {

    private static final Duration BUDGET = Duration.ofMillis(200);

    private final Inventory inventory;
    private final Spools spools;
    private final PlateRepository plates;
    private final Usage usage;
    private final Clock clock;
    private final Scheduler scheduler = new FirstCome();

    Forecasts(Inventory inventory, Spools spools, PlateRepository plates, Usage usage, Clock clock) {
        this.inventory = inventory;
        this.spools = spools;
        this.plates = plates;
        this.usage = usage;
        this.clock = clock;
    }

    /** The floor as it stands, with what waits; asked for once for a page. */
    public record Floor(List<StockPrinter> printers, List<StockSpool> shelf, List<Usage.Running> running, List<LaidPlate> waiting, Calendar calendar,
                        FloorView view, Schedule schedule, Scheduler scheduler) {

        /** When a plate that waits is printed; nothing when nobody knows. */
        public Optional<Slot> of(LaidPlate plate) {
            return schedule.of(plate.id());
        }

        public Optional<Usage.Running> on(String printerId) {
            return running.stream().filter(run -> run.printerId().equals(printerId)).findFirst();
        }

        /**
         * When plates that do not wait yet would be printed, after all that does.
         *
         * @param butFor tickets whose own plates that wait are left out: they would be planned anew
         * @return as many as there are plates; fewer when nobody knows
         */
        public List<Slot> after(String printerId, List<Duration> takes, @Nullable Long spool, List<Long> butFor) {
            List<Waiting> queue = new ArrayList<>();
            for (LaidPlate plate : waiting) {
                if (plate.plan().printerId().equals(printerId) && !butFor.containsAll(plate.tickets())) {
                    queue.add(Forecasts.waiting(plate));
                }
            }
            for (int i = 0; i < takes.size(); i++) {
                queue.add(new Waiting(-1 - i, printerId, takes.get(i), spool == null ? "" : spool.toString()));
            }
            Schedule then = scheduler.plan(new FloorView(view.now(), view.calendar(), view.machines(), queue), BUDGET);
            List<Slot> slots = new ArrayList<>();
            for (int i = 0; i < takes.size(); i++) {
                then.of(-1 - i).ifPresent(slots::add);
            }
            return slots;
        }
    }

    public Floor floor() {
        List<StockPrinter> printers = inventory.printers();
        List<Usage.Running> running = usage.running();
        List<LaidPlate> waiting = plates.inState(LaidPlate.State.QUEUED);
        Calendar calendar = inventory.calendar();
        List<StockSpool> shelf = spools.shelf();
        List<FloorView.Machine> machines = printers.stream().map(printer -> machine(printer, running, shelf)).toList();
        FloorView view = new FloorView(clock.instant(), calendar, machines, waiting.stream().map(Forecasts::waiting).toList());
        return new Floor(printers, shelf, running, waiting, calendar, view, scheduler.plan(view, BUDGET), scheduler);
    }

    private static FloorView.Machine machine(StockPrinter printer, List<Usage.Running> running, List<StockSpool> shelf) {
        Optional<Usage.Running> run = running.stream().filter(each -> each.printerId().equals(printer.id())).findFirst();
        String loaded = run.map(each -> Long.toString(each.spoolId())).orElseGet(() -> shelf.stream()
                .filter(spool -> printer.id().equals(spool.loadedIn())).findFirst().map(spool -> Long.toString(spool.id())).orElse(""));
        return new FloorView.Machine(printer.id(), run.map(Usage.Running::until).orElse(null), printer.condition().down(),
                printer.condition().until(), printer.unattended(), loaded,
                Duration.ofSeconds(Math.round(printer.printer().preparation().changeS())));
    }

    private static Waiting waiting(LaidPlate plate) {
        return new Waiting(plate.id(), plate.plan().printerId(), Objects.requireNonNull(plate.promise()).takes(),
                plate.plan().spoolId() == null ? "" : plate.plan().spoolId().toString());
    }
}
