package fabbrica.web.floor;

import fabbrica.core.schedule.Schedule.Slot;
import fabbrica.core.units.Spoken;
import fabbrica.web.account.Member;
import fabbrica.web.account.Members;
import fabbrica.web.floor.Errand.Press;
import fabbrica.web.machine.Machines;
import fabbrica.web.plan.Forecasts;
import fabbrica.web.plan.LaidPlate;
import fabbrica.web.platform.Moments;
import fabbrica.web.stores.Inventory;
import fabbrica.web.stores.Keyholder;
import fabbrica.web.stores.Keyholders;
import fabbrica.web.stores.Maintenance;
import fabbrica.web.stores.MaintenanceTask;
import fabbrica.web.stores.Spools;
import fabbrica.web.stores.StockPrinter;
import fabbrica.web.stores.StockSpool;
import fabbrica.web.ticket.Ticket;
import fabbrica.web.ticket.TicketState;
import fabbrica.web.ticket.Tickets;
import fabbrica.web.ticket.Uncollected;
import java.time.Duration;
import java.time.Instant;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Objects;
import java.util.Optional;
import java.util.Set;
import java.util.function.Function;
import java.util.stream.Collectors;
import java.util.stream.Stream;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Component;

/**
 * A round through the room as it stands: what is to be handed out at the counter, then place by place what ended and is to be
 * cleared, what can be started, what is due on a printer, which spools are to be weighed.
 */
@Component
class Round {

    static final String COUNTER = "At the counter";
    /** What begins then is as good as now: a printer is made ready first (common practice, no source). */
    private static final Duration SOON = Duration.ofMinutes(15);
    private static final Duration FAR = Duration.ofHours(24);

    private final Forecasts forecasts;
    private final Runs runs;
    private final Tickets tickets;
    private final Uncollected uncollected;
    private final Members members;
    private final Maintenance maintenance;
    private final Spools spools;
    private final Inventory inventory;
    private final Keyholders keyholders;
    private final Machines machines;
    private final Moments moments;

    Round(Forecasts forecasts, Runs runs, Tickets tickets, Uncollected uncollected, Members members, Maintenance maintenance, Spools spools, Inventory inventory,
          Keyholders keyholders, Machines machines, Moments moments) {
        this.forecasts = forecasts;
        this.runs = runs;
        this.tickets = tickets;
        this.uncollected = uncollected;
        this.members = members;
        this.maintenance = maintenance;
        this.spools = spools;
        this.inventory = inventory;
        this.keyholders = keyholders;
        this.machines = machines;
        this.moments = moments;
    }

    /**
     * @param stops  of the round in their order
     * @param later  what comes after it, by when
     * @param onDuty who is there to do it
     */
    record NowPage(List<Stop> stops, List<Later> later, List<Keyholder> onDuty) {
    }

    /**
     * What is to be done later.
     *
     * @param who  is to do it; empty when that is open
     * @param ends the run that ends then; null for a plate that is to be started
     */
    record Later(Instant at, String place, String what, String who, @Nullable Run ends) {
    }

    /** A place in the room with all that is to be done there. */
    record Stop(String place, List<Errand> errands) {
    }

    NowPage now() {
        Forecasts.Floor floor = forecasts.floor();
        List<Run> running = runs.running();
        List<Maintenance.Due> due = maintenance.due();
        List<StockSpool> toWeigh = spools.toWeigh(floor.shelf());
        Set<Long> startable = startable(floor);
        List<Errand> errands = new ArrayList<>(handOuts());
        for (StockPrinter printer : floor.printers()) {
            running.stream().filter(run -> run.printerId().equals(printer.id())).filter(run -> run.isToBeLookedAt(moments.now())).forEach(run -> errands.add(look(printer, run)));
            running.stream().filter(run -> run.printerId().equals(printer.id())).filter(run -> run.isOverdue(moments.now())).forEach(run -> errands.add(ended(printer, run)));
            List<LaidPlate> waiting = floor.waiting().stream().filter(plate -> plate.plan().printerId().equals(printer.id())).toList();
            if (printer.outOfOrder()) {
                outOfOrder(printer, waiting).ifPresent(errands::add);
            } else if (floor.canStart(printer)) {
                waiting.stream().filter(plate -> startable.contains(plate.id())).findFirst()
                        .ifPresent(plate -> errands.add(start(printer, plate, floor.of(plate), floor.shelf())));
            }
            due.stream().filter(each -> each.task().printerId().equals(printer.id()) && each.standing() == MaintenanceTask.Standing.OVERDUE)
                    .forEach(each -> errands.add(keep(printer, each)));
            toWeigh.stream().filter(spool -> printer.id().equals(spool.loadedIn())).forEach(spool -> errands.add(weigh(spool, place(printer))));
        }
        toWeigh.stream().filter(spool -> spool.loadedIn() == null).forEach(spool -> errands.add(weigh(spool, spool.place().isEmpty() ? "On the shelf" : spool.place())));
        Map<String, List<Errand>> byPlace = errands.stream().collect(Collectors.groupingBy(Errand::place, LinkedHashMap::new, Collectors.toList()));
        return new NowPage(byPlace.entrySet().stream().map(stop -> new Stop(stop.getKey(), stop.getValue()))
                .sorted(Comparator.comparing((Stop stop) -> !stop.place().equals(COUNTER)).thenComparing(Stop::place, inventory.lab().onTheWay())).toList(),
                later(floor, running, startable), keyholders.all().stream().filter(one -> one.hours().at(moments.now()).isPresent()).toList());
    }

    /** Plates for which nothing but a free hand is wanting. */
    private Set<Long> startable(Forecasts.Floor floor) {
        Instant soon = moments.now().plus(SOON);
        return floor.ifAllHandsWereFree().slots().stream().filter(slot -> !slot.work().isAfter(soon)).map(Slot::plate).collect(Collectors.toSet());
    }

    private List<Later> later(Forecasts.Floor floor, List<Run> running, Set<Long> startable) {
        Map<String, StockPrinter> printers = floor.printers().stream().collect(Collectors.toMap(StockPrinter::id, Function.identity()));
        Instant now = moments.now(), far = now.plus(FAR);
        Stream<Later> ends = running.stream().filter(run -> !run.isOverdue(now) && run.expectedEnd().isBefore(far)).map(run -> new Later(run.expectedEnd(), run.printerName(),
                "%s ends%s".formatted(run.what(), run.members().isEmpty() ? "" : ", for " + run.members()), "", run));
        Stream<Later> starts = floor.waiting().stream().flatMap(plate -> floor.of(plate).filter(slot -> slot.work().isBefore(far))
                .filter(slot -> !startable.contains(plate.id()) || !floor.canStart(printer(printers, slot)))
                .map(slot -> new Later(slot.work(), printer(printers, slot).name(), "start %s%s".formatted(plate.name(),
                        plate.member().isEmpty() ? "" : ", for " + plate.member()), Objects.requireNonNullElse(slot.person(), ""), null)).stream());
        return Stream.concat(ends, starts).sorted(Comparator.comparing(Later::at)).toList();
    }

    private static StockPrinter printer(Map<String, StockPrinter> printers, Slot slot) {
        return Objects.requireNonNull(printers.get(slot.machine()));
    }

    private List<Errand> handOuts() {
        List<Ticket> printed = tickets.inStates(TicketState.PRINTED);
        Map<Long, Member> named = members.members(printed.stream().map(ticket -> ticket.request().memberId()).toList());
        Map<Long, String> codes = tickets.collectCodes(printed.stream().map(Ticket::id).toList());
        List<Run> theirs = runs.ofTickets(printed.stream().map(Ticket::id).toList());
        return printed.stream().map(ticket -> {
            String to = Optional.ofNullable(ticket.request().memberId()).map(named::get).map(Member::name).orElse("somebody not named");
            Instant since = theirs.stream().filter(run -> run.tickets().contains(ticket.id())).map(Run::endedAt).filter(Objects::nonNull)
                    .max(Comparator.naturalOrder()).orElse(null);
            String lies = ticket.shelf().isEmpty() ? "" : "It lies at %s. ".formatted(ticket.shelf());
            return new Errand(COUNTER, "Hand out %s (no. %d) to %s".formatted(ticket.model().name(), ticket.id(), to),
                    "%sWhoever collects it says %s.".formatted(lies, codes.get(ticket.id())), since, presses(ticket, since));
        }).toList();
    }

    private List<Press> presses(Ticket ticket, @Nullable Instant since) {
        String address = "/tickets/%d/".formatted(ticket.id());
        Press handedOut = Press.send(ticket.charge().isDue() ? "Handed out, to be paid" : "Handed out", address + "hand-out", ticket);
        if (since != null && uncollected.mayBePutAway(since)) {
            return List.of(Press.send("Nobody came: put away", address + "put-away", ticket), handedOut);
        }
        return ticket.charge().isDue() ? List.of(Press.send("%s paid, handed out".formatted(ticket.charge().price()), address + "hand-out", ticket).with("paid"), handedOut)
                : List.of(handedOut);
    }

    private static Errand look(StockPrinter printer, Run run) {
        return new Errand(place(printer), "Look at the first layer of %s on %s".formatted(run.what(), printer.name()), "It lies flat everywhere, or the run is ended.", null,
                List.of(Press.send("It lies flat", "/floor/runs/%d/first-layer".formatted(run.id()), run), Press.go("It does not…", "/floor/runs/%d/end".formatted(run.id()))));
    }

    private Errand ended(StockPrinter printer, Run run) {
        boolean brokeOff = machines.brokeOff(printer.id(), run.id());
        String end = "/floor/runs/%d/end".formatted(run.id());
        return new Errand(place(printer), "Clear %s: %s %s".formatted(printer.name(), run.what(), brokeOff ? "broke off" : machines.isOver(printer.id(), run.id()) ? "has ended" : "should have ended"),
                "Let it cool, lift it off, check that the plate is clear.", run.expectedEnd(), brokeOff ? List.of(Press.go("How did it end?", end))
                : List.of(Press.send("Came out well, cleared", "/floor/runs/%d/well".formatted(run.id()), run), Press.go("Not well, or other figures…", end)));
    }

    private Errand start(StockPrinter printer, LaidPlate plate, Optional<Slot> planned, List<StockSpool> shelf) {
        String change = shelf.stream().filter(spool -> Objects.equals(spool.id(), plate.plan().spoolId()) && !printer.id().equals(spool.loadedIn())).findFirst()
                .map(spool -> "Take spool no. %d, %s%s, along: it is not in the printer yet.".formatted(spool.number(), spool.spool().colour(),
                        spool.place().isEmpty() ? "" : " (" + spool.place() + ")")).orElse("");
        String when = planned.map(slot -> "Planned for %s%s. ".formatted(moments.say(slot.start()), slot.person() == null ? "" : ", by " + slot.person())).orElse("");
        return new Errand(place(printer), "Start %s on %s%s".formatted(plate.name(), printer.name(), plate.member().isEmpty() ? "" : ", for " + plate.member()),
                when + change + before(planned), null, List.of(Press.go("Start…", "/floor/start/%d".formatted(plate.id()))));
    }

    private static String before(Optional<Slot> planned) {
        return planned.map(Slot::chores).filter(chores -> !chores.isEmpty())
                .map(chores -> " Before it: %s.".formatted(String.join("; ", chores).toLowerCase(Locale.ROOT))).orElse("");
    }

    /** Of a printer that is out of order: when it should be back, and what waits for it. */
    private Optional<Errand> outOfOrder(StockPrinter printer, List<LaidPlate> waiting) {
        if (printer.condition().unproved()) {
            return Optional.of(new Errand(place(printer), "Check the first print of %s: %s".formatted(printer.name(), printer.condition().reason()), hit(waiting), null,
                    List.of(Press.go("Check it…", "/floor/printers/%s/first-print".formatted(printer.id())))));
        }
        Instant until = printer.condition().until();
        boolean back = until != null && !until.isAfter(moments.now());
        if (!back && waiting.isEmpty()) {
            return Optional.empty();
        }
        return Optional.of(new Errand(place(printer), back ? "%s should be in order again: is it?".formatted(printer.name())
                : "%s is %s".formatted(printer.name(), printer.condition().said()), hit(waiting),
                back ? until : null, Stream.of(back ? Press.send("It is", "/floor/printers/" + printer.id(), printer) : null,
                        Press.go(waiting.isEmpty() ? "Not yet…" : "Move what waits…", "/floor/printers/" + printer.id())).filter(Objects::nonNull).toList()));
    }

    private static String hit(List<LaidPlate> waiting) {
        return waiting.isEmpty() ? "" : waiting.size() == 1 ? "One plate waits for it." : waiting.size() + " plates wait for it.";
    }

    private static Errand keep(StockPrinter printer, Maintenance.Due due) {
        return new Errand(place(printer), "%s: %s".formatted(printer.name(), due.task().what().toLowerCase(Locale.ROOT)), "Due " + due.when() + ".", null,
                List.of(Press.send("Done", "/stores/printers/%s/maintenance/%d/done".formatted(printer.id(), due.task().id()), due.task())));
    }

    private static Errand weigh(StockSpool spool, String place) {
        return new Errand(place, "Weigh spool no. %d, %s".formatted(spool.number(), spool.spool().colour()),
                "More has gone from it since it was weighed than the %s it should still hold.".formatted(Spoken.grams(spool.spool().remainingG())), null,
                List.of(Press.send("Weighed", "/stores/spools/%d/weigh".formatted(spool.id()), spool).asking("grossG")));
    }

    private static String place(StockPrinter printer) {
        return printer.place().isEmpty() ? printer.name() : printer.place();
    }
}
