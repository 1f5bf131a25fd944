package fabbrica.web.floor;

import com.github.benmanes.caffeine.cache.Cache;
import fabbrica.core.judge.Obstacle;
import fabbrica.core.recipe.Material;
import fabbrica.core.recipe.Printer;
import fabbrica.core.recipe.Recipe;
import fabbrica.core.units.Apportion;
import fabbrica.core.units.Money;
import fabbrica.web.floor.RunEnd.CopyEnd;
import fabbrica.web.floor.RunEnd.Outcome;
import fabbrica.web.floor.Took.Source;
import fabbrica.web.machine.Began;
import fabbrica.web.machine.MachineBook;
import fabbrica.web.machine.MachineFile;
import fabbrica.web.machine.Machines;
import fabbrica.web.plan.Copies;
import fabbrica.web.plan.Judging;
import fabbrica.web.plan.LaidPlate;
import fabbrica.web.plan.LaidPlate.LaidCopy;
import fabbrica.web.plan.Laying;
import fabbrica.web.plan.PlateFiles;
import fabbrica.web.plan.PlanEntry;
import fabbrica.web.plan.Plates;
import fabbrica.web.plan.Promise;
import fabbrica.web.platform.Caches;
import fabbrica.web.platform.CoreVersion;
import fabbrica.web.platform.Outdated;
import fabbrica.web.platform.Refusal;
import fabbrica.web.platform.events.About;
import fabbrica.web.platform.events.Events;
import fabbrica.web.platform.events.Fact;
import fabbrica.web.platform.storage.Kept;
import fabbrica.web.stores.Inventory;
import fabbrica.web.stores.Movement;
import fabbrica.web.stores.Spools;
import fabbrica.web.stores.StockPrinter;
import fabbrica.web.stores.StockSpool;
import fabbrica.web.ticket.TicketState;
import fabbrica.web.ticket.Tickets;
import java.time.Clock;
import java.time.Duration;
import java.time.Instant;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.Collection;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.Optional;
import java.util.OptionalDouble;
import java.util.function.Consumer;
import java.util.function.Function;
import java.util.function.LongConsumer;
import java.util.stream.Collectors;
import org.jspecify.annotations.Nullable;
import org.springframework.context.event.EventListener;
import org.springframework.stereotype.Service;
import org.springframework.transaction.annotation.Transactional;

/** The life of runs: a plate is started, and somebody says how each of its copies ended. */
@Service
public class Runs {

    private static final int MOST_SUMS = 100;
    private static final String NOT_WAITING = "This plate is not waiting for its printer; it may have been started already.";

    private final RunRepository repository;
    private final Likenesses likenesses;
    private final Plates plates;
    private final Laying laying;
    private final Tickets tickets;
    private final Inventory inventory;
    private final Spools spools;
    private final RunUsage usage;
    private final PlateFiles files;
    private final Machines machines;
    private final MachineBook machineBook;
    private final Events events;
    private final Clock clock;
    private final Kept<Cache<RunFilter, RunSums>> sums = new Kept<>(() -> Caches.of(MOST_SUMS).build());

    Runs(RunRepository repository, Likenesses likenesses, Plates plates, Laying laying, Tickets tickets, Inventory inventory, Spools spools, RunUsage usage,
         PlateFiles files, Machines machines, MachineBook machineBook, Events events, Clock clock) {
        this.repository = repository;
        this.likenesses = likenesses;
        this.plates = plates;
        this.laying = laying;
        this.tickets = tickets;
        this.inventory = inventory;
        this.spools = spools;
        this.usage = usage;
        this.files = files;
        this.machines = machines;
        this.machineBook = machineBook;
        this.events = events;
        this.clock = clock;
    }

    /** @throws java.util.NoSuchElementException when there is none with that number */
    public Run run(long id) {
        return repository.run(id).orElseThrow();
    }

    /** In the order in which they were started. */
    public List<Run> ofTickets(Collection<Long> tickets) {
        return repository.ofTickets(tickets);
    }

    List<Run> runs(Collection<Long> some) {
        return repository.runs(some);
    }

    public List<Run> running() {
        return repository.running();
    }

    /** How the copies of some runs ended. */
    public List<RunCopy> copies(Collection<Long> runs) {
        return repository.copies(runs);
    }

    /**
     * The latest first.
     *
     * @param before only runs that started before this one did; null for the latest
     */
    public List<Run> runs(RunFilter filter, @Nullable Long before, int most) {
        return repository.runs(filter, before, most);
    }

    /** Hands over all runs that match, the latest first, one after another. */
    public void each(RunFilter filter, Consumer<Run> each) {
        repository.each(filter, each);
    }

    /** What the runs that match and have ended come to; added up once until a run ends or is put right. */
    public RunSums sums(RunFilter filter) {
        return sums.get().get(filter, repository::sums);
    }

    /** Whether a plate may be started now, and with what care. */
    public List<Obstacle> obstacles(LaidPlate plate) {
        StockPrinter printer = inventory.printer(plate.plan().printerId()).orElseThrow();
        StockSpool spool = spool(plate);
        Judging.Bench bench = plates.bench(plate);
        Printer asItIs = plate.plan().on(printer.printer());
        return bench.now(plate, laying.layout(plate.plate(), asItIs), printer, asItIs, bench.material(spool), spool,
                Objects.requireNonNull(plate.promise()).inAll());
    }

    private StockSpool spool(LaidPlate plate) {
        return spools.spool(Objects.requireNonNull(plate.plan().spoolId())).orElseThrow();
    }

    /**
     * Somebody has confirmed that all is ready for a plate: its machine begins. Not to be called within a transaction.
     *
     * @return the run, when it has begun at once; else it will begin when the machine does
     * @throws Refusal with the reasons when it may not be printed now
     */
    public Optional<Long> start(LaidPlate seen, String who) {
        requireReady(seen);
        return machines.order(seen.plan().printerId(), seen.id(), files.mark(seen), who);
    }

    private void requireReady(LaidPlate seen) {
        if (!plates.plate(seen.id()).equals(seen) || seen.state() != LaidPlate.State.QUEUED) {
            throw new Refusal(NOT_WAITING);
        }
        List<String> stops = obstacles(seen).stream().filter(Obstacle::stops).map(Obstacle::reason).toList();
        if (!stops.isEmpty()) {
            throw new Refusal(String.join(" ", stops));
        }
    }

    /** A machine has begun what was ordered. */
    @EventListener
    void began(Began began) {
        machineBook.begun(began.file(), begin(plates.plate(began.plateId()), began.by()));
    }

    private long begin(LaidPlate seen, String who) {
        plates.move(seen, LaidPlate.State.QUEUED, LaidPlate.State.RUNNING, NOT_WAITING);
        StockPrinter printer = inventory.printer(seen.plan().printerId()).orElseThrow();
        StockSpool spool = spool(seen);
        long run = repository.insert(seen, Objects.requireNonNull(seen.promise()).id(), spool.id(), printer.nozzleId(), CoreVersion.current(),
                clock.instant(), who);
        if (!printer.id().equals(spool.loadedIn())) {
            spools.load(spool, printer.id(), who);
        }
        likenesses.remember(run, seen);
        seen.tickets().forEach(ticket -> events.record(who, About.ticket(ticket).inRun(run).laidOn(seen.id()).on(printer.id()).from(spool.id()),
                new Fact.RunStarted()));
        plates.settle(seen.tickets());
        return run;
    }

    /** Somebody has looked at a run's first layer, and it lies flat. */
    @Transactional
    public void looked(Run seen, String who) {
        if (!run(seen.id()).equals(seen)) {
            throw new Outdated();
        }
        repository.looked(seen.id(), clock.instant());
        seen.tickets().forEach(ticket -> events.record(who, About.ticket(ticket).inRun(seen.id()).laidOn(seen.plateId()).on(seen.printerId()), new Fact.FirstLayerSeen()));
    }

    /** Writes down how a run ended; what it took is shared out to its copies, and the spool goes down by it. */
    @Transactional
    public void end(long runId, RunEnd end, String who) {
        Run run = run(runId);
        if (machines.holdsOn(run.printerId(), runId)) {
            throw new Refusal("%s is still at it. End it at the machine first.".formatted(run.printerName()));
        }
        LaidPlate plate = plates.plate(run.plateId());
        requireEveryCopy(plate, end);
        Money cost = spools.spool(run.spoolId()).orElseThrow().spool().price(end.took().grams());
        sums.changed();
        usage.changed();
        if (!repository.end(runId, state(end), end, endedAt(run, end), cost)) {
            throw new Refusal("This run has already been marked as ended.");
        }
        List<RunCopy> copies = shared(run, plate, end, cost);
        copies.forEach(repository::insert);
        book(run, plate, copies, end.took().grams(), who);
        plates.move(plate, LaidPlate.State.RUNNING, LaidPlate.State.ENDED, "This run has already been marked as ended.");
        tell(run, plate, copies, end, who);
        plates.settle(plate.tickets());
    }

    /** When it ended by the minutes it took, whenever somebody came by to say so. */
    private Instant endedAt(Run run, RunEnd end) {
        Instant ended = run.startedAt().plus(Duration.ofSeconds(Math.round(end.took().minutes() * 60))), now = clock.instant();
        return ended.isBefore(now) ? ended : now;
    }

    /** Writes down that all copies of a run came out well, in the time and with the plastic that its machine told, or else that were promised. */
    @Transactional
    public void endWell(Run seen, String who) {
        if (!run(seen.id()).equals(seen)) {
            throw new Outdated();
        }
        if (machineBook.ofRun(seen.id()).map(MachineFile::over).filter(over -> !over.whole()).isPresent()) {
            throw new Refusal("%s broke off before its end: say how each copy came out.".formatted(seen.printerName()));
        }
        Took took = took(seen);
        end(seen.id(), new RunEnd(took.told() ? took : new Took(promisedMinutes(seen), Source.ESTIMATE, took.grams(), took.gramsFrom()),
                plates.plate(seen.plateId()).copies().stream().map(copy -> new CopyEnd(copy.id(), Outcome.WELL, "", null)).toList(), List.of(), "", "", null, null), who);
    }

    /**
     * What a run took, as far as anybody knows: what its machine has told; else the minutes are those until it should have ended, or until now, and the
     * grams the promise's.
     */
    Took took(Run run) {
        Optional<MachineFile> file = machineBook.ofRun(run.id());
        MachineFile.Over over = file.map(MachineFile::over).orElse(null);
        if (over != null) {
            boolean told = file.orElseThrow().filamentMm() > 0;
            return new Took(Math.round(over.seconds() / 6) / 10.0, Source.MACHINE, grams(run, file.orElseThrow(), over.whole()), told ? Source.MACHINE : Source.ESTIMATE);
        }
        return new Took(run.isOverdue(clock.instant()) ? promisedMinutes(run)
                : Math.max(1, Math.round(Duration.between(run.startedAt(), clock.instant()).toSeconds() / 60.0)), Source.ESTIMATE, run.promisedG(), Source.ESTIMATE);
    }

    /** How high it was laid, mm, when its machine ended it before the file's end. */
    OptionalDouble brokeOffAtMm(Run run) {
        Recipe recipe = plates.plate(run.plateId()).plan().recipe();
        return machineBook.ofRun(run.id()).filter(file -> file.over() != null && !file.over().whole() && file.layer() > 0).stream()
                .mapToDouble(file -> recipe.firstLayerHeightMm() + (file.layer() - 1) * recipe.layerHeightMm()).findFirst();
    }

    /** Of the filament that was pushed forward; where the machine has not told that, of the promise as far as its layers went. */
    private double grams(Run run, MachineFile file, boolean whole) {
        if (file.filamentMm() == 0) {
            return whole ? run.promisedG() : run.promisedG() * file.layer() / Math.max(1, file.layers());
        }
        Material material = inventory.material(spools.spool(run.spoolId()).orElseThrow().spool().materialId()).orElseThrow();
        double mm3 = file.filamentMm() * inventory.printer(run.printerId()).orElseThrow().printer().filamentAreaMm2();
        return material.grams(mm3);
    }

    private static double promisedMinutes(Run run) {
        return Math.max(1, Math.round(run.promisedS() / 60));
    }

    /**
     * Puts another outcome in the place of one that was written down wrongly.
     *
     * @throws Refusal while the run goes on, or when one of its tickets was handed out
     */
    @Transactional
    public void correct(Run seen, RunEnd end, String why, String who) {
        Run run = run(seen.id());
        if (!run.equals(seen)) {
            throw new Outdated();
        }
        if (run.state() == Run.State.RUNNING) {
            throw new Refusal("This run has not ended yet.");
        }
        if (why.isBlank()) {
            throw new Refusal("Say why the outcome is corrected.");
        }
        LaidPlate plate = plates.plate(run.plateId());
        requireEveryCopy(plate, end);
        for (long ticket : plate.tickets()) {
            if (tickets.ticket(ticket).state() == TicketState.HANDED_OUT) {
                throw new Refusal("Ticket no. %d was handed out. Take that back first.".formatted(ticket));
            }
        }
        Money cost = spools.spool(run.spoolId()).orElseThrow().spool().price(end.took().grams());
        sums.changed();
        usage.changed();
        repository.save(run.id(), state(end), end, cost);
        List<RunCopy> copies = shared(run, plate, end, cost);
        copies.forEach(repository::insert);
        double more = end.took().grams() - (run.realG() == null ? 0 : run.realG());
        if (more != 0) {
            spools.take(run.spoolId(), run.id(), Movement.Kind.CORRECTED, more, who);
        }
        plate.tickets().forEach(ticket -> events.record(who, About.ticket(ticket).inRun(run.id()).laidOn(plate.id()).on(run.printerId()),
                new Fact.OutcomeTakenBack(), why));
        tell(run, plate, copies, end, who);
        plates.settle(plate.tickets());
    }

    /** Whether a copy of a run that has ended is to be printed again: it did not come out well, and lies on no other plate. */
    boolean mayBeTriedAgain(Run run, Collection<RunCopy> ends) {
        return ends.stream().anyMatch(copy -> !copy.outcome().isGood()) && plates.copies(run.tickets()).values().stream().anyMatch(copies -> copies.missing() > 0);
    }

    /** Lays the copies of a run that failed or were cancelled on a plate anew, with everything kept, and puts it into the queue. */
    public long again(Run run, String who) {
        return again(run, plates.plate(run.plateId()).plan().entry(), plate -> { }, who);
    }

    /** The same by another plan for the same printer. */
    long again(Run run, PlanEntry entry, LongConsumer queued, String who) {
        LaidPlate plate = plates.plate(run.plateId());
        List<Long> bad = repository.copies(List.of(run.id())).stream().filter(copy -> !copy.outcome().isGood()).map(RunCopy::copyId).toList();
        List<LaidCopy> failed = plate.copies().stream().filter(copy -> bad.contains(copy.id())).toList();
        if (failed.isEmpty()) {
            throw new Refusal("No copy of this run failed.");
        }
        return plates.again(plate, failed, entry, queued, who);
    }

    private static Run.State state(RunEnd end) {
        return end.copies().stream().anyMatch(copy -> copy.outcome().isGood()) ? Run.State.DONE : Run.State.FAILED;
    }

    private static void requireEveryCopy(LaidPlate plate, RunEnd end) {
        if (!plate.copies().stream().map(LaidCopy::id).collect(Collectors.toSet()).equals(end.copies().stream().map(CopyEnd::copyId)
                .collect(Collectors.toSet()))) {
            throw new Refusal("Say how each copy ended.");
        }
    }

    /** What was weighed is a copy's own; the rest is shared by what was laid for each. */
    private static List<RunCopy> shared(Run run, LaidPlate plate, RunEnd end, Money cost) {
        Map<Long, CopyEnd> ends = end.copies().stream().collect(Collectors.toMap(CopyEnd::copyId, Function.identity()));
        Promise promise = Objects.requireNonNull(plate.promise());
        List<LaidCopy> copies = plate.copies();
        double[] plastic = doubles(promise.portions().plastic()), seconds = doubles(promise.portions().seconds());
        long all = Math.round(end.took().grams() * 1000), weighed = 0;
        for (int i = 0; i < copies.size(); i++) {
            Double grams = Objects.requireNonNull(ends.get(copies.get(i).id())).grams();
            if (grams != null) {
                weighed += Math.round(grams * 1000);
                plastic[i] = 0;
            }
        }
        if (weighed > all) {
            throw new Refusal("The copies that were weighed come to more than the run used in all.");
        }
        long[] milligrams = Apportion.of(all - weighed, plastic);
        for (int i = 0; i < copies.size(); i++) {
            Double grams = Objects.requireNonNull(ends.get(copies.get(i).id())).grams();
            if (grams != null) {
                milligrams[i] = Math.round(grams * 1000);
            }
        }
        long[] times = Apportion.of(Math.round(end.took().minutes() * 60), seconds);
        long[] coins = Apportion.of(cost.coins(), Arrays.stream(milligrams).asDoubleStream().toArray());
        List<RunCopy> shared = new ArrayList<>();
        for (int i = 0; i < copies.size(); i++) {
            CopyEnd copy = Objects.requireNonNull(ends.get(copies.get(i).id()));
            shared.add(new RunCopy(run.id(), copy.copyId(), copies.get(i).ticketId(), copy.outcome(), copy.reason(), milligrams[i] / 1000.0,
                    times[i], Money.ofCoins(coins[i], cost.currency())));
        }
        return shared;
    }

    private static double[] doubles(List<Double> values) {
        return values.stream().mapToDouble(Double::doubleValue).toArray();
    }

    /** What was purged is in no part; what copies took that failed is told apart from what came out well. */
    private void book(Run run, LaidPlate plate, List<RunCopy> copies, double grams, String who) {
        long all = Math.round(grams * 1000), purged = Math.min(all, Math.round(Objects.requireNonNull(plate.promise()).purgedG() * 1000));
        double good = copies.stream().filter(copy -> copy.outcome().isGood()).mapToDouble(RunCopy::grams).sum();
        long[] parts = Apportion.of(all - purged, good, Math.max(0, grams - good));
        take(run, Movement.Kind.PURGED, purged, who);
        take(run, Movement.Kind.USED, parts[0], who);
        take(run, Movement.Kind.FAILED, parts[1], who);
    }

    private void take(Run run, Movement.Kind kind, long milligrams, String who) {
        if (milligrams > 0) {
            spools.take(run.spoolId(), run.id(), kind, milligrams / 1000.0, who);
        }
    }

    private void tell(Run run, LaidPlate plate, List<RunCopy> copies, RunEnd end, String who) {
        Map<Long, Copies> standing = plates.copies(plate.tickets());
        copies.stream().collect(Collectors.groupingBy(RunCopy::ticketId)).forEach((ticket, own) -> events.record(who,
                About.ticket(ticket).inRun(run.id()).laidOn(plate.id()).on(run.printerId()).from(run.spoolId()),
                new Fact.RunEnded(count(own, Outcome.WELL) + count(own, Outcome.USABLE), count(own, Outcome.FAILED), count(own, Outcome.CANCELLED),
                        own.stream().mapToLong(RunCopy::seconds).sum(), own.stream().mapToDouble(RunCopy::grams).sum(), end.defects(),
                        Objects.requireNonNull(standing.get(ticket)).well(), Objects.requireNonNull(standing.get(ticket)).wanted()), end.cause()));
    }

    private static int count(List<RunCopy> copies, Outcome outcome) {
        return (int) copies.stream().filter(copy -> copy.outcome() == outcome).count();
    }
}
