package fabbrica.web.plan;

import fabbrica.core.bed.BedFit;
import fabbrica.core.bed.Layout;
import fabbrica.core.estimate.Expected;
import fabbrica.core.judge.Obstacle;
import fabbrica.core.judge.Obstacle.Cause;
import fabbrica.core.judge.Takes;
import fabbrica.core.printing.Nester;
import fabbrica.core.recipe.Material;
import fabbrica.core.recipe.Plate;
import fabbrica.core.recipe.Printer;
import fabbrica.core.recipe.Recipe;
import fabbrica.core.recipe.StartingPoint;
import fabbrica.core.schedule.Schedule.Slot;
import fabbrica.core.units.Money;
import fabbrica.web.platform.CoreVersion;
import fabbrica.web.platform.Refusal;
import fabbrica.web.platform.Shop;
import fabbrica.web.platform.Standing;
import fabbrica.web.stores.Inventory;
import fabbrica.web.stores.Spools;
import fabbrica.web.stores.StockPrinter;
import fabbrica.web.stores.StockSpool;
import fabbrica.web.ticket.Ticket;
import fabbrica.web.ticket.Verdicts;
import java.time.Duration;
import java.time.Instant;
import java.util.ArrayList;
import java.util.Collection;
import java.util.Comparator;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Objects;
import java.util.Optional;
import java.util.Set;
import java.util.function.Function;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Service;

/** Weighs what the lab has against what tickets ask for: which printer, which spool, how many plates, how long, how much. */
@Service
public class Planning {

    /** Long enough to tell printers apart before anything is worked out. */
    private static final Duration NOMINAL = Duration.ofHours(1);
    private static final Set<Cause> OF_THE_SPOOL = Set.of(Cause.SPOOL, Cause.GRAMS, Cause.MATERIAL, Cause.ABRASION, Cause.HEAT, Cause.ENCLOSURE);

    private final Inventory inventory;
    private final Spools spools;
    private final Verdicts verdicts;
    private final Proposals proposals;
    private final Plans plans;
    private final Laying laying;
    private final Judging judging;
    private final Forecasts forecasts;
    private final PlateRepository plates;
    private final Shop shop;
    private final Expectations expectations;
    private final Prices prices;

    Planning(Inventory inventory, Spools spools, Verdicts verdicts, Proposals proposals, Plans plans, Laying laying, Judging judging,
             Forecasts forecasts, PlateRepository plates, Shop shop, Expectations expectations, Prices prices) {
        this.inventory = inventory;
        this.spools = spools;
        this.verdicts = verdicts;
        this.proposals = proposals;
        this.plans = plans;
        this.laying = laying;
        this.judging = judging;
        this.forecasts = forecasts;
        this.plates = plates;
        this.shop = shop;
        this.expectations = expectations;
        this.prices = prices;
    }

    /** A printer for a ticket: how one copy lies on it, what stands in the way, and when it could start. */
    public record PrinterOption(StockPrinter printer, BedFit fit, List<Obstacle> obstacles, Optional<Slot> slot) {

        public boolean possible() {
            return obstacles.stream().noneMatch(Obstacle::stops);
        }

        /** What is to be told where printers are compared: what stops, who may use it, what is overdue. */
        public List<Obstacle> told() {
            return obstacles.stream().filter(obstacle -> obstacle.stops() || obstacle.cause() == Cause.BADGE || obstacle.cause() == Cause.MAINTENANCE).toList();
        }

        /** Those that members may use first, then by when it would be printed there. */
        static final Comparator<PrinterOption> SOONEST = Comparator.comparing((PrinterOption option) -> !option.isTheirs())
                .thenComparing(option -> option.slot().map(Slot::end).orElse(Instant.MAX));

        /** Whether members have what it takes to use it. */
        public boolean isTheirs() {
            return obstacles.stream().noneMatch(obstacle -> obstacle.cause() == Cause.BADGE);
        }
    }

    /** A spool for a ticket and what stands in its way. */
    public record SpoolOption(StockSpool spool, Material material, List<Obstacle> obstacles) {

        public boolean possible() {
            return obstacles.stream().noneMatch(Obstacle::stops);
        }

        /** Those that nothing stops first, then those of a colour that is wished for, then what is loaded already. */
        private static Comparator<SpoolOption> best(String colour, String printerId) {
            String wish = colour.strip().toLowerCase(Locale.ROOT);
            return Comparator.comparing((SpoolOption option) -> !option.possible())
                    .thenComparing(option -> !option.spool.spool().colour().toLowerCase(Locale.ROOT).contains(wish))
                    .thenComparing(option -> !printerId.equals(option.spool.loadedIn()));
        }
    }

    /**
     * One copy on one printer that fits.
     *
     * @param cost null until the estimate is done, or when no spool of the material is on the shelf
     */
    public record FirstEstimate(PrinterOption option, Material material, Recipe recipe, Standing<Expected> standing, @Nullable Money cost,
                                Optional<Slot> slot) {
    }

    /** A plate that would be printed, and where its estimate stands. */
    public record PlateEstimate(Plate plate, Standing<Expected> standing) {
    }

    /**
     * A plan of a ticket as it would be carried out.
     *
     * @param copies   that are still to be printed
     * @param problem  why there is nothing to work out; empty when there is
     * @param expected of all plates together; null until all are done
     * @param cost     null until that, and without a spool
     * @param first    of the first plate, last of the last one; nothing when nobody knows
     * @param advised  the spool that suits it best; null when there is none
     */
    public record Preview(Plan plan, List<PrinterOption> printers, List<SpoolOption> spools, @Nullable Long advised, int copies, List<PlateEstimate> plates, String problem,
                          @Nullable Expected expected, @Nullable Money cost, Optional<Slot> first, Optional<Slot> last,
                          List<Obstacle> obstacles) {

        public Optional<PrinterOption> chosen() {
            return printers.stream().filter(option -> option.printer().id().equals(plan.printerId())).findFirst();
        }

        /** Where it would be printed soonest, if anywhere. */
        public Optional<PrinterOption> soonest() {
            return printers.stream().filter(PrinterOption::possible).min(PrinterOption.SOONEST);
        }

        /** Whether it is handed out after it is needed. */
        public boolean lateFor(@Nullable Instant neededBy) {
            return neededBy != null && last.filter(slot -> slot.handOut().isAfter(neededBy)).isPresent();
        }

        /** Whether nothing but the member's yes to the price is missing. */
        public boolean asksPrice() {
            return cost != null && obstacles.stream().filter(Obstacle::stops).allMatch(obstacle -> obstacle.cause() == Cause.PRICE)
                    && obstacles.stream().anyMatch(obstacle -> obstacle.cause() == Cause.PRICE);
        }

        public boolean canQueue() {
            return expected != null && plan.spoolId() != null && obstacles.stream().noneMatch(Obstacle::stops);
        }

        /** Whether nobody is there to hand it out when it is printed. */
        public boolean handedOutLater() {
            return last.filter(slot -> slot.handOut().isAfter(slot.end())).isPresent();
        }

        /** The work that goes on, if any does. */
        public Standing.@Nullable Working<Expected> working() {
            return plates.stream().map(PlateEstimate::standing).filter(Standing.Working.class::isInstance).map(s -> (Standing.Working<Expected>) s)
                    .findFirst().orElse(null);
        }

        /** Why it could not be worked out; null when it could. */
        public @Nullable String failed() {
            return plates.stream().map(PlateEstimate::standing).filter(Standing.Failed.class::isInstance)
                    .map(s -> ((Standing.Failed<Expected>) s).sentence()).findFirst().orElse(null);
        }
    }

    /** A plan of a ticket carried out: its plates on its printer, as it is then. */
    record CarriedOut(Ticket ticket, Plan plan, StockPrinter stock, Printer printer, Material material, List<Plate> plates) {
    }

    /** Plates as they would be put into the queue, worked out. */
    public record Settled(List<Plate> plates, List<Promise> promises) {
    }

    /** Of a ticket lying one way and another, the everyday print without supports on the printer in mind, where the part fits; nothing is judged. */
    public List<Optional<Standing<Expected>>> everydayEstimates(List<Ticket> ways) {
        return ways.stream().map(ticket -> verdicts.inMind(ticket, verdicts.fits(ticket)).flatMap(printer -> {
            Recipe recipe = everyday(printer);
            BedFit fit = laying.fit(ticket.part(), recipe, printer.printer());
            return !fit.fits() ? Optional.empty() : Optional.of(expectations.ask(new Shop.Request(laying.one(ticket.part(), fit, recipe), printer.printer(),
                    proposals.wished(ticket))));
        })).toList();
    }

    /** As it is planned, on every printer of the lab. */
    public List<FirstEstimate> firstEstimates(Ticket ticket) {
        Desk desk = desk(ticket, forecasts.floor());
        Forecasts.Floor floor = desk.floor();
        PlanEntry entry = entry(desk);
        Material material = material(ticket, entry, floor);
        Optional<StockSpool> spool = spool(entry, floor);
        List<FirstEstimate> estimates = new ArrayList<>();
        for (StockPrinter printer : floor.printers()) {
            Recipe recipe = proposals.recipe(ticket, entry, floor.printers(), printer);
            BedFit fit = laying.fit(ticket.part(), recipe, printer.printer());
            if (fit.fits() && printer.canBePlanned()) {
                Plate plate = laying.one(ticket.part(), fit, recipe);
                Standing<Expected> standing = expectations.ask(new Shop.Request(plate, printer.printer(), material));
                Optional<Expected> done = done(standing);
                List<Obstacle> obstacles = desk.bench().planned(plate, Layout.of(fit), printer, printer.printer(), material, null, 0,
                        done.map(Takes::of));
                Optional<Slot> slot = floor.after(printer.id(), List.of(done.map(Planning::takes).orElse(NOMINAL)),
                        spool.map(StockSpool::id).orElse(null), List.of(ticket.id())).stream().findFirst();
                estimates.add(new FirstEstimate(new PrinterOption(printer, fit, obstacles, slot), material, recipe, standing,
                        done.flatMap(estimate -> spool.map(s -> prices.of(desk.bench(), ticket, List.of(estimate), recipe.layerHeightMm(), s, printer).total()))
                                .orElse(null), done.isPresent() ? slot : Optional.empty()));
            }
        }
        return estimates;
    }

    /** How a ticket is planned: as it was last, else as is proposed. */
    PlanEntry entry(Ticket ticket) {
        return planned(ticket).orElseGet(() -> proposed(ticket));
    }

    PlanEntry entry(Desk desk) {
        return planned(desk.ticket()).orElseGet(() -> proposed(desk));
    }

    private Optional<PlanEntry> planned(Ticket ticket) {
        return Optional.ofNullable(ticket.planId()).map(plans::plan).map(Plan::entry);
    }

    /** The plan a ticket starts with: from its purpose, on the printer that is really soonest of those its member may use. */
    public PlanEntry proposed(Ticket ticket) {
        return proposed(desk(ticket, forecasts.floor()));
    }

    PlanEntry proposed(Desk desk) {
        Ticket ticket = desk.ticket();
        StartingPoint start = Proposals.start(ticket);
        Material material = proposals.wished(ticket);
        StockPrinter printer = options(desk, each -> proposals.on(ticket, start, each).recipe(), material, null).stream()
                .filter(PrinterOption::possible).min(PrinterOption.SOONEST).map(PrinterOption::printer)
                .or(() -> desk.floor().printers().stream().findFirst())
                .orElseThrow(() -> new Refusal("There is no printer in the stores yet. Add one there first."));
        PlanEntry plan = new PlanEntry(start, proposals.on(ticket, start, printer).recipe(), printer.id(), null, false);
        Takes most = new Takes(desk.copies() * material.grams(proposals.mostMm3(ticket)), 0);
        Plate plate = laying.one(ticket.part(), laying.fit(ticket.part(), plan.recipe(), printer.printer()), plan.recipe());
        return plan.from(best(ticket, material, printer.id(), spools(desk, printer, plate, plan, material, most)).map(option -> option.spool().id())
                .orElse(null));
    }

    /** The spool of a material that suits a ticket best, though something may stop it; nothing when none is on the shelf. */
    private static Optional<SpoolOption> best(Ticket ticket, Material material, String printerId, List<SpoolOption> options) {
        return options.stream().filter(option -> option.material().equals(material))
                .min(SpoolOption.best(ticket.request().colourWish(), printerId));
    }

    /**
     * What is asked for once to plan a ticket.
     *
     * @param toBePlanned copies that a new plan would print
     * @param promised    grams of each spool to plates that wait, but for the ticket's own
     */
    record Desk(Ticket ticket, Forecasts.Floor floor, Judging.Bench bench, int toBePlanned, Map<Long, Double> promised) {

        /** That a plan is worked out for. */
        int copies() {
            return Math.max(1, toBePlanned);
        }
    }

    Desk desk(Ticket ticket, Forecasts.Floor floor) {
        return new Desk(ticket, floor, bench(ticket), toBePlanned(ticket, floor.ownOpen(ticket.id())), floor.promisedBut(ticket.id()));
    }

    /** Copies of a ticket that a new plan would print: those that lie nowhere, and those on plates of its own that wait. */
    public int toBePlanned(Ticket ticket) {
        return toBePlanned(ticket, ownOpen(ticket));
    }

    /** @param ownOpen plates of the ticket that wait and are shared with no other */
    int toBePlanned(Ticket ticket, List<LaidPlate> ownOpen) {
        return copies(ticket).missing() + ownOpen.stream().mapToInt(plate -> plate.copies().size()).sum();
    }

    /** Plates of a ticket that wait and are shared with no other. */
    List<LaidPlate> ownOpen(Ticket ticket) {
        return plates.openOf(ticket.id()).stream().filter(plate -> plate.isOwnOf(ticket.id())).toList();
    }

    private Map<Long, Double> promisedBut(List<LaidPlate> some) {
        return judging.promised(some.stream().map(LaidPlate::id).toList());
    }

    private Copies copies(Ticket ticket) {
        return Objects.requireNonNull(plates.copies(List.of(ticket.id())).get(ticket.id()));
    }

    public Preview preview(Ticket ticket, Plan plan, String place) {
        return preview(desk(ticket, forecasts.floor()), plan, place);
    }

    /** @param place on a page that shows one preview at a time */
    Preview preview(Desk desk, Plan plan, String place) {
        Ticket ticket = desk.ticket();
        Forecasts.Floor floor = desk.floor();
        Judging.Bench bench = desk.bench();
        int copies = desk.copies();
        Optional<StockSpool> spool = spool(plan.entry(), floor);
        Material material = material(ticket, spool);
        List<PrinterOption> options = options(desk, printer -> proposals.recipe(ticket, plan.entry(), floor.printers(), printer), material, spool.orElse(null));
        List<SpoolOption> shelf = floor.shelf().stream().map(each -> new SpoolOption(each, bench.material(each), List.of())).toList();
        Optional<PrinterOption> chosen = options.stream().filter(option -> option.printer().id().equals(plan.printerId())).findFirst();
        if (chosen.isEmpty() || !chosen.get().fit().fits()) {
            return new Preview(plan, options, shelf, null, copies, List.of(), chosen.isEmpty()
                    ? "Choose a printer to see what the print takes." : "%s: %s".formatted(chosen.get().printer().name(), chosen.get().fit().why()),
                    null, null, Optional.empty(), Optional.empty(), chosen.map(PrinterOption::obstacles).orElse(List.of()));
        }
        StockPrinter printer = chosen.get().printer();
        Printer asItIs = plan.on(printer.printer());
        List<Plate> laid = laying.lay(ticket.part(), plan.recipe(), printer.printer(), copies).plates();
        List<PlateEstimate> estimates = laid.stream().map(plate -> new PlateEstimate(plate, expectations.ask(new Shop.Request(plate, asItIs, material),
                place + " " + plate.copies().size()))).toList();
        List<Expected> done = estimates.stream().map(PlateEstimate::standing).map(Planning::done).flatMap(Optional::stream).toList();
        boolean all = done.size() == laid.size() && !laid.isEmpty();
        List<Obstacle> obstacles = new ArrayList<>(obstacles(bench, printer, asItIs, material, spool.orElse(null), laid, all ? done : List.of(),
                desk.promised()));
        int left = copies - laid.stream().mapToInt(plate -> plate.copies().size()).sum();
        if (left > 0) {
            obstacles.addFirst(new Obstacle.Stops(Cause.FIT, "%d of %d copies fit on no plate.".formatted(left, copies), "Take a larger bed or less around each."));
        }
        if (spool.isEmpty()) {
            obstacles.add(new Obstacle.Stops(Cause.SPOOL, "Choose a spool.", ""));
        }
        Expected expected = all ? Expected.together(done) : null;
        Money price = all && spool.isPresent() ? prices.of(bench, ticket, done, plan.recipe().layerHeightMm(), spool.get(), printer).total() : null;
        if (price != null) {
            prices.question(ticket, price).ifPresent(obstacles::add);
        }
        List<Slot> slots = all ? floor.after(printer.id(), done.stream().map(Planning::takes).toList(), plan.spoolId(), List.of(ticket.id())) : List.of();
        List<SpoolOption> spools = laid.isEmpty() ? shelf : spools(desk, printer, laid.getFirst(), plan.entry(), material,
                all ? Takes.of(Expected.together(done)) : null);
        Long advised = best(ticket, proposals.wished(ticket), printer.id(), spools).filter(SpoolOption::possible).map(option -> option.spool().id()).orElse(null);
        return new Preview(plan, options, spools, advised, copies, estimates, "", expected,
                price, slots.stream().findFirst(),
                slots.size() == laid.size() && !slots.isEmpty() ? Optional.of(slots.getLast()) : Optional.empty(), obstacles);
    }

    /** What stands in the way of plates that are printed one after another from one spool. */
    private List<Obstacle> obstacles(Judging.Bench bench, StockPrinter printer, Printer asItIs, Material material, @Nullable StockSpool spool,
                                     List<Plate> laid, List<Expected> estimates, Map<Long, Double> promisedBySpool) {
        List<Obstacle> obstacles = new ArrayList<>();
        double promised = spool == null ? 0 : promisedBySpool.getOrDefault(spool.id(), 0.0);
        double grams = estimates.stream().mapToDouble(Expected::grams).sum(), seconds = estimates.stream().mapToDouble(Expected::totalSeconds).sum();
        for (int i = 0; i < laid.size(); i++) {
            Optional<Takes> takes = estimates.isEmpty() ? Optional.empty() : Optional.of(new Takes(grams, seconds));
            bench.planned(laid.get(i), laying.layout(laid.get(i), asItIs), printer, asItIs, material, spool, promised, takes).stream()
                    .filter(obstacle -> !obstacles.contains(obstacle)).forEach(obstacles::add);
        }
        obstacles.sort(Comparator.comparing(obstacle -> !obstacle.stops()));
        return obstacles;
    }

    /** For any number of its copies. */
    private Judging.Bench bench(Ticket ticket) {
        return judging.bench(List.of(ticket), List.of(ticket.id()));
    }

    /** @throws Refusal when it fits on no plate */
    CarriedOut carriedOut(Ticket ticket, Plan plan) {
        StockPrinter stock = inventory.printer(plan.printerId()).orElseThrow();
        List<Plate> laid = laying.lay(ticket.part(), plan.recipe(), stock.printer(), Math.max(1, toBePlanned(ticket))).plates();
        if (laid.isEmpty()) {
            throw new Refusal("It does not fit on %s.".formatted(stock.name()));
        }
        return new CarriedOut(ticket, plan, stock, plan.on(stock.printer()), material(ticket, plan.entry()), laid);
    }

    /** What each of its plates takes, worked out now if need be. */
    List<Expected> expected(CarriedOut out) {
        return out.plates().stream().map(plate -> expectations.await(new Shop.Request(plate, out.printer(), out.material()))).toList();
    }

    /**
     * All plates of a plan, worked out now if need be.
     *
     * @throws Refusal with the reasons when it cannot be carried out
     */
    public Settled settle(Ticket ticket, Plan plan) {
        StockPrinter printer = inventory.printer(plan.printerId())
                .orElseThrow(() -> new Refusal("That printer is no longer in the stores. Choose another one."));
        StockSpool spool = spool(plan.entry()).orElseThrow(() -> new Refusal("That spool is no longer on the shelf. Choose another one."));
        List<LaidPlate> own = ownOpen(ticket);
        int copies = toBePlanned(ticket, own);
        if (copies == 0) {
            throw new Refusal("All copies of this ticket are printed, or lie on plates that are shared with others.");
        }
        BedFit fit = laying.fit(ticket.part(), plan.recipe(), printer.printer());
        Nester laid = laying.lay(ticket.part(), plan.recipe(), printer.printer(), copies);
        Judging.Bench bench = bench(ticket);
        if (!fit.fits()) {
            refuseIfStopped(bench.planned(laying.one(ticket.part(), fit, plan.recipe()), Layout.of(fit), printer, plan.on(printer.printer()),
                    bench.material(spool), spool, 0, Optional.empty()));
        }
        if (laid.tooMany().getFirst() > 0) {
            throw new Refusal("%d of %d copies fit on no plate.".formatted(laid.tooMany().getFirst(), copies));
        }
        return settle(bench, plan, printer, spool, laid.plates(), promisedBut(own));
    }

    /** @param promised of each spool to plates that wait */
    Settled settle(Judging.Bench bench, Plan plan, StockPrinter printer, StockSpool spool, List<Plate> laid, Map<Long, Double> promised) {
        Printer asItIs = plan.on(printer.printer());
        Material material = bench.material(spool);
        // What can be judged without working anything out is judged first.
        refuseIfStopped(obstacles(bench, printer, asItIs, material, spool, laid, List.of(), promised));
        List<Expected> estimates = laid.stream().map(plate -> expectations.await(new Shop.Request(plate, asItIs, material))).toList();
        refuseIfStopped(obstacles(bench, printer, asItIs, material, spool, laid, estimates, promised));
        List<Promise> promises = new ArrayList<>();
        for (int i = 0; i < laid.size(); i++) {
            promises.add(Promise.of(estimates.get(i), shop.portions(laid.get(i), asItIs), printer.id(), CoreVersion.current()));
        }
        return new Settled(laid, promises);
    }

    /** @throws Refusal with the first thing that stops it and what helps; the plan's page names all */
    static void refuseIfStopped(Collection<Obstacle> obstacles) {
        obstacles.stream().filter(Obstacle::stops).findFirst().ifPresent(obstacle -> {
            throw new Refusal((obstacle.reason() + " " + obstacle.remedy()).strip());
        });
    }

    /** The plan's spool, while it is on the shelf. */
    public Optional<StockSpool> spool(PlanEntry plan) {
        return Optional.ofNullable(plan.spoolId()).flatMap(spools::spool).filter(spool -> !spool.retired());
    }

    /** The material on the plan's spool, else the one wished for. */
    public Material material(Ticket ticket, PlanEntry plan) {
        return material(ticket, spool(plan));
    }

    Material material(Ticket ticket, PlanEntry plan, Forecasts.Floor floor) {
        return material(ticket, spool(plan, floor));
    }

    private static Optional<StockSpool> spool(PlanEntry plan, Forecasts.Floor floor) {
        return floor.shelf().stream().filter(spool -> Objects.equals(spool.id(), plan.spoolId())).findFirst();
    }

    private Material material(Ticket ticket, Optional<StockSpool> spool) {
        return spool.flatMap(each -> inventory.material(each.spool().materialId())).orElseGet(() -> proposals.wished(ticket));
    }

    /** One copy on a printer, with how long it takes there as far as that is known. */
    private record OnPrinter(StockPrinter printer, BedFit fit, Plate plate, Optional<Duration> takes) {
    }

    /**
     * Printers compared as if it took as long on one as on another, as far as nobody knows better.
     *
     * @param recipes for each printer
     */
    private List<PrinterOption> options(Desk desk, Function<StockPrinter, Recipe> recipes, Material material, @Nullable StockSpool spool) {
        Ticket ticket = desk.ticket();
        List<OnPrinter> all = desk.floor().printers().stream().map(printer -> {
            Recipe recipe = recipes.apply(printer);
            BedFit fit = laying.fit(ticket.part(), recipe, printer.printer());
            Plate plate = laying.one(ticket.part(), fit, recipe);
            return new OnPrinter(printer, fit, plate, expectations.known(new Shop.Request(plate, printer.printer(), material)).map(Planning::takes));
        }).toList();
        Duration usual = all.stream().map(OnPrinter::takes).flatMap(Optional::stream).max(Comparator.naturalOrder()).orElse(NOMINAL);
        return all.stream().map(on -> new PrinterOption(on.printer(), on.fit(), desk.bench().planned(on.plate(), Layout.of(on.fit()), on.printer(),
                on.printer().printer(), material, null, 0, Optional.empty()), desk.floor().after(on.printer().id(), List.of(on.takes().orElse(usual)),
                spool == null ? null : spool.id(), List.of(ticket.id())).stream().findFirst())).toList();
    }

    /** @param takes of all plates, of a material; null as long as nobody knows */
    private static List<SpoolOption> spools(Desk desk, StockPrinter printer, Plate plate, PlanEntry plan, Material of, @Nullable Takes takes) {
        List<SpoolOption> options = new ArrayList<>();
        for (StockSpool spool : desk.floor().shelf()) {
            Material material = desk.bench().material(spool);
            Optional<Takes> asMuch = Optional.ofNullable(takes).map(each -> new Takes(each.grams() * material.grams(1) / of.grams(1), each.seconds()));
            options.add(new SpoolOption(spool, material, desk.bench().planned(plate, new Layout(List.of(), Double.POSITIVE_INFINITY), printer,
                    plan.on(printer.printer()), material, spool, desk.promised().getOrDefault(spool.id(), 0.0), asMuch).stream()
                    .filter(obstacle -> OF_THE_SPOOL.contains(obstacle.cause())).toList()));
        }
        return options;
    }

    static Recipe everyday(StockPrinter printer) {
        return StartingPoint.DAILY_BREAD.recipe(printer.printer().nozzle(), printer.printer().kinematics());
    }

    static Duration takes(Expected expected) {
        return Duration.ofSeconds(Math.round(expected.totalSeconds()));
    }

    static Optional<Expected> done(Standing<Expected> standing) {
        return standing instanceof Standing.Done<Expected>(Expected expected) ? Optional.of(expected) : Optional.empty();
    }
}
