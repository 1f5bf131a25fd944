package fabbrica.web.plan;

import fabbrica.core.judge.Policy;
import fabbrica.core.schedule.Chore;
import fabbrica.core.schedule.FirstCome;
import fabbrica.core.schedule.FloorView;
import fabbrica.core.schedule.FloorView.Handling;
import fabbrica.core.schedule.FloorView.Machine;
import fabbrica.core.schedule.FloorView.Option;
import fabbrica.core.schedule.FloorView.Place;
import fabbrica.core.schedule.FloorView.Waiting;
import fabbrica.core.schedule.Rules;
import fabbrica.core.schedule.Schedule;
import fabbrica.core.schedule.Schedule.Slot;
import fabbrica.core.schedule.Scheduler;
import fabbrica.core.schedule.Setup;
import fabbrica.core.schedule.Span;
import fabbrica.web.plan.LaidPlate.PublishedSlot;
import fabbrica.web.platform.storage.Snapshots;
import fabbrica.web.stores.Duty;
import fabbrica.web.stores.Inventory;
import fabbrica.web.stores.Keyholders;
import fabbrica.web.stores.Maintenance;
import fabbrica.web.stores.Spools;
import fabbrica.web.stores.StockPrinter;
import fabbrica.web.stores.StockSpool;
import java.time.Clock;
import java.time.Duration;
import java.time.Instant;
import java.time.temporal.ChronoUnit;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.Optional;
import java.util.Set;
import java.util.function.Supplier;
import java.util.stream.Collectors;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Service;

/** When plates that wait, or would wait, are printed: the one answer for tickets, plans, the trade table and the Floor. */
@Service
public class Forecasts {

    private static final Duration BUDGET = Duration.ofMillis(200);
    /** Farther ahead nothing is looked for. */
    private static final Duration HORIZON = Duration.ofDays(400);

    private final Inventory inventory;
    private final Keyholders keyholders;
    private final Spools spools;
    private final PlateRepository plates;
    private final Usage usage;
    private final Maintenance maintenance;
    private final Clock clock;
    private final Scheduler scheduler = new FirstCome();
    private final Supplier<Floor> floor;

    Forecasts(Inventory inventory, Keyholders keyholders, Spools spools, PlateRepository plates, Usage usage, Maintenance maintenance, Clock clock, Snapshots snapshots) {
        this.inventory = inventory;
        this.keyholders = keyholders;
        this.spools = spools;
        this.plates = plates;
        this.usage = usage;
        this.maintenance = maintenance;
        this.clock = clock;
        this.floor = snapshots.of(this::look);
    }

    /**
     * The floor as it stands; asked for once for a page.
     *
     * @param open    plates that are not over
     * @param waiting those of them that wait for their printers
     * @param unattended printers that may run while nobody is there, by the rules of the house as well
     * @param failing share of each printer's runs that fail
     */
    public record Floor(List<StockPrinter> printers, List<StockSpool> shelf, List<LaidPlate> open, List<LaidPlate> waiting, FloorView view, Schedule schedule, Scheduler scheduler,
                        Set<String> unattended, Map<String, Double> failing) {

        /** A way to print a plate as a scheduler sees it. */
        public Option option(Way way) {
            return Forecasts.option(way, unattended.contains(way.printerId()), failing.getOrDefault(way.printerId(), 0.0));
        }

        /** The same with others waiting, without a plan for them. */
        public Floor with(List<LaidPlate> others) {
            return new Floor(printers, shelf, open, others, view, new Schedule(List.of()), scheduler, unattended, failing);
        }

        /** When a plate that waits is printed; nothing when nobody knows. */
        public Optional<Slot> of(LaidPlate plate) {
            return schedule.of(plate.id());
        }

        /** When what waits is printed, were others there at other hours. */
        public Schedule with(Duty duty) {
            Instant now = view.now(), far = now.plus(HORIZON);
            return scheduler.plan(view.with(duty.staffed(now, far), duty.people(now, far)), BUDGET);
        }

        /** When what waits could be printed, if whoever is there had nothing else to do. */
        public Schedule ifAllHandsWereFree() {
            return scheduler.plan(view.with(view.staffed(), List.of()), BUDGET);
        }

        /** Grams of each spool that are promised to plates that wait, but for a ticket's own. */
        Map<Long, Double> promisedBut(long ticketId) {
            return waiting.stream().filter(plate -> plate.plan().spoolId() != null && !plate.isOwnOf(ticketId)).collect(Collectors.groupingBy(
                    plate -> Objects.requireNonNull(plate.plan().spoolId()), Collectors.summingDouble(plate -> Objects.requireNonNull(plate.promise()).grams())));
        }

        /** When all plates on which a ticket has copies are printed and can be handed out; nothing when one of them is not known, or there is none. */
        public Optional<Instant> handOut(long ticketId) {
            List<Optional<Instant>> all = openOf(ticketId).stream().map(plate -> plate.until() != null ? Optional.ofNullable(plate.until()) : of(plate).map(Slot::handOut))
                    .toList();
            return all.stream().anyMatch(Optional::isEmpty) ? Optional.empty() : all.stream().flatMap(Optional::stream).max(Comparator.naturalOrder());
        }

        /** Whether a printer is free and in order; what else stands in the way, the checklist says. */
        public boolean canStart(StockPrinter printer) {
            return !printer.outOfOrder() && open.stream().noneMatch(plate -> plate.state() == LaidPlate.State.RUNNING
                    && plate.plan().printerId().equals(printer.id()));
        }

        /** Plates that are not over, on which a ticket has copies. */
        List<LaidPlate> openOf(long ticketId) {
            return open.stream().filter(plate -> plate.tickets().contains(ticketId)).toList();
        }

        /** Plates of a ticket that wait, or are being laid, and are shared with no other. */
        List<LaidPlate> ownOpen(long ticketId) {
            return openOf(ticketId).stream().filter(plate -> plate.isOwnOf(ticketId)).toList();
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
                    queue.add(Forecasts.waiting(plate, unattended, view.now()));
                }
            }
            for (int i = 0; i < takes.size(); i++) {
                queue.add(Forecasts.waiting(-1 - i, printerId, spool, takes.get(i), unattended));
            }
            Schedule then = scheduler.plan(view.with(queue), BUDGET);
            List<Slot> slots = new ArrayList<>();
            for (int i = 0; i < takes.size(); i++) {
                then.of(-1 - i).ifPresent(slots::add);
            }
            return slots;
        }
    }

    public Floor floor() {
        return floor.get();
    }

    private Floor look() {
        List<StockPrinter> printers = inventory.printers();
        List<LaidPlate> open = plates.open();
        List<LaidPlate> waiting = open.stream().filter(LaidPlate::waits).toList();
        List<LaidPlate> running = open.stream().filter(plate -> plate.state() == LaidPlate.State.RUNNING).toList();
        List<StockSpool> shelf = spools.shelf();
        Instant now = clock.instant().truncatedTo(ChronoUnit.SECONDS);
        Map<String, List<Chore>> chores = maintenance.chores(running.stream().collect(Collectors.toMap(plate -> plate.plan().printerId(),
                plate -> plate.way().takes().toSeconds() / 3600.0)));
        List<Machine> machines = printers.stream().map(printer -> machine(printer, running, shelf, chores.getOrDefault(printer.id(), List.of()), now)).toList();
        Duty duty = keyholders.duty();
        Policy house = inventory.lab().policy();
        Set<String> unattended = house.unattended() ? printers.stream().filter(StockPrinter::unattended).map(StockPrinter::id).collect(Collectors.toSet())
                : Set.of();
        FloorView view = new FloorView(now, duty.staffed(now, now.plus(HORIZON)), duty.people(now, now.plus(HORIZON)), List.of(),
                stock(shelf, running, house.reserveG()), machines, waiting.stream().map(plate -> waiting(plate, unattended, now)).toList(), Rules.OF_A_LAB);
        return new Floor(printers, shelf, open, waiting, view, scheduler.plan(view, BUDGET), scheduler, unattended, printers.stream().collect(Collectors.toMap(StockPrinter::id,
                printer -> usage.failureShare(printer.id()))));
    }

    private static Machine machine(StockPrinter printer, List<LaidPlate> running, List<StockSpool> shelf, List<Chore> chores, Instant now) {
        Optional<LaidPlate> run = running.stream().filter(plate -> plate.plan().printerId().equals(printer.id())).findFirst();
        Setup loaded = run.map(plate -> setup(plate.plan().spoolId())).orElseGet(() -> shelf.stream()
                .filter(spool -> printer.id().equals(spool.loadedIn())).findFirst().map(spool -> setup(spool.id())).orElse(Setup.EMPTY));
        Duration change = Duration.ofSeconds(Math.round(printer.printer().preparation().changeS()));
        Instant until = run.map(LaidPlate::until).filter(end -> end.isAfter(now)).orElse(now), back = printer.condition().until();
        Instant ready = !printer.condition().down() || back != null && back.isBefore(until) ? until : back;
        return new Machine(printer.id(), ready, run.isPresent(), loaded, List.of(), new Handling(change, change, change, FirstCome.CLEARING), chores);
    }

    /** What may be taken from each spool once what prints is over; the reserve stays on it. */
    private static Map<String, Double> stock(List<StockSpool> shelf, List<LaidPlate> running, double reserve) {
        Map<Long, Double> printing = running.stream().filter(plate -> plate.plan().spoolId() != null).collect(Collectors.toMap(
                plate -> Objects.requireNonNull(plate.plan().spoolId()), plate -> Objects.requireNonNull(plate.promise()).grams(), Double::sum));
        return shelf.stream().collect(Collectors.toMap(spool -> Long.toString(spool.id()), spool -> Math.max(0, spool.spool().remainingG()
                - reserve - printing.getOrDefault(spool.id(), 0.0))));
    }

    private static Waiting waiting(LaidPlate plate, Set<String> unattended, Instant now) {
        Option option = option(plate.way(), unattended.contains(plate.plan().printerId()), 0);
        PublishedSlot slot = plate.published();
        return new Waiting(plate.id(), List.of(option), null, null, 1, 0, slot != null && slot.pinned() && !slot.start().isBefore(now)
                ? new Place(slot.printerId(), slot.start()) : null, slot == null ? null : new Place(slot.printerId(), slot.start()));
    }

    private static Waiting waiting(long plate, String printer, @Nullable Long spool, Duration takes, Set<String> unattended) {
        return Waiting.on(plate, new Option(printer, setup(spool), takes, Duration.ZERO, 0, unattended.contains(printer), 0));
    }

    /** @param failing share of that printer's runs that fail */
    static Option option(Way way, boolean unattended, double failing) {
        return new Option(way.printerId(), setup(way.spoolId()), way.takes(), Duration.ZERO, way.grams(), unattended, failing);
    }

    /** Spools are told apart, whatever is on them. */
    private static Setup setup(@Nullable Long spool) {
        return spool == null ? Setup.EMPTY : new Setup("", "", spool.toString(), 0);
    }
}
