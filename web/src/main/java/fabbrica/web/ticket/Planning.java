package fabbrica.web.ticket;

import fabbrica.core.bed.BedFit;
import fabbrica.core.bed.Footprint;
import fabbrica.core.estimate.Estimate;
import fabbrica.core.inspect.PrintLimits;
import fabbrica.core.inspect.Severity;
import fabbrica.core.judge.Suitability;
import fabbrica.core.judge.Verdict;
import fabbrica.core.recipe.Material;
import fabbrica.core.recipe.Printer;
import fabbrica.core.recipe.Recipe;
import fabbrica.core.recipe.StartingPoint;
import fabbrica.core.units.Money;
import fabbrica.web.account.Member;
import fabbrica.web.account.Members;
import fabbrica.web.platform.Estimator;
import fabbrica.web.platform.Inspections;
import fabbrica.web.platform.Meshes;
import fabbrica.web.platform.Refusal;
import fabbrica.web.platform.Standing;
import fabbrica.web.stores.Inventory;
import fabbrica.web.stores.Spools;
import fabbrica.web.stores.StockPrinter;
import fabbrica.web.stores.StockSpool;
import fabbrica.web.ticket.PrinterQueues.PrinterQueue;
import java.time.Duration;
import java.time.Instant;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import org.springframework.stereotype.Service;

/** Weighs what the lab has against what a ticket asks for: which printer, which spool, how long, how much. */
@Service
public class Planning {

    private final Inventory inventory;
    private final Spools spools;
    private final Members members;
    private final Meshes meshes;
    private final Inspections inspections;
    private final Estimator estimator;
    private final PrinterQueues queues;

    Planning(Inventory inventory, Spools spools, Members members, Meshes meshes, Inspections inspections, Estimator estimator,
             PrinterQueues queues) {
        this.inventory = inventory;
        this.spools = spools;
        this.members = members;
        this.meshes = meshes;
        this.inspections = inspections;
        this.estimator = estimator;
        this.queues = queues;
    }

    /** A printer for the ticket: how the part lies on it and what speaks against it. */
    public record PrinterOption(StockPrinter printer, BedFit fit, List<String> reasons, boolean badgeMissing,
                                Instant nextFree) {

        public boolean possible() {
            return reasons.isEmpty();
        }
    }

    /** A spool for the ticket and what speaks against it. */
    public record SpoolOption(StockSpool spool, Material material, List<String> reasons) {

        public boolean possible() {
            return reasons.isEmpty();
        }
    }

    /**
     * A first estimate on one printer that fits.
     *
     * @param cost null until the estimate is done, or when no spool of the material is on the shelf
     */
    public record FirstEstimate(PrinterOption option, Material material, Recipe recipe, Standing<Estimate> standing,
                                Money cost) {

        public Instant ready() {
            return standing instanceof Standing.Done<Estimate>(Estimate estimate)
                    ? option.nextFree().plus(Duration.ofSeconds(Math.round(estimate.totalSeconds()))) : null;
        }
    }

    /**
     * @param problem  why there is nothing to estimate, empty when there is
     * @param standing null without a printer
     * @param cost     null until a spool is chosen and the estimate is done
     */
    public record Preview(List<PrinterOption> printers, List<SpoolOption> spools, String problem, Standing<Estimate> standing,
                          Money cost, Instant start, Instant ready, List<String> obstacles) {

        public boolean canQueue() {
            return standing instanceof Standing.Done && problem.isEmpty() && obstacles.isEmpty();
        }
    }

    /** How the part, with room for a skirt, lies on each printer of the lab. */
    public Map<StockPrinter, BedFit> fits(Ticket ticket) {
        Map<StockPrinter, BedFit> fits = new LinkedHashMap<>();
        for (StockPrinter printer : inventory.printers()) {
            fits.put(printer, fit(ticket, printer.printer(), everyday(printer)));
        }
        return fits;
    }

    public Verdict verdict(Ticket ticket, Map<StockPrinter, BedFit> fits) {
        return Verdict.of(inspections.of(ticket.lying()), limits(ticket, fits), fits.values());
    }

    /** What the printer in mind holds: the planned one, else the first on which the part fits, else the first. */
    public PrintLimits limits(Ticket ticket, Map<StockPrinter, BedFit> fits) {
        return inMind(ticket, fits).map(StockPrinter::limits).orElse(PrintLimits.USUAL);
    }

    boolean raftAlways(Ticket ticket, Map<StockPrinter, BedFit> fits) {
        return inMind(ticket, fits).map(StockPrinter::raftAlways).orElse(false);
    }

    /** The first estimate, with the everyday recipe, on the printer in mind, when the part fits there. */
    public Optional<FirstEstimate> firstEstimate(Ticket ticket) {
        Material material = wished(ticket);
        Optional<StockPrinter> printer = inMind(ticket, fits(ticket));
        return options(ticket, null, material).stream()
                .filter(option -> printer.isPresent() && option.printer().id().equals(printer.get().id()))
                .filter(option -> option.fit().fits()).findFirst().map(option -> firstEstimate(ticket, option, material));
    }

    private static Optional<StockPrinter> inMind(Ticket ticket, Map<StockPrinter, BedFit> fits) {
        return fits.keySet().stream().filter(printer -> printer.id().equals(ticket.printerId())).findFirst()
                .or(() -> fits.entrySet().stream().filter(fit -> fit.getValue().fits()).map(Map.Entry::getKey).findFirst())
                .or(() -> fits.keySet().stream().findFirst());
    }

    public List<FirstEstimate> firstEstimates(Ticket ticket) {
        Material material = wished(ticket);
        List<FirstEstimate> estimates = new ArrayList<>();
        for (PrinterOption option : options(ticket, null, material)) {
            if (!option.fit().fits() || option.printer().outOfOrder()) {
                continue;
            }
            estimates.add(firstEstimate(ticket, option, material));
        }
        return estimates;
    }

    private FirstEstimate firstEstimate(Ticket ticket, PrinterOption option, Material material) {
        Recipe recipe = everyday(option.printer());
        Standing<Estimate> standing = estimator.ask(request(ticket, option.printer().printer(), recipe, option.fit(), material));
        return new FirstEstimate(option, material, recipe, standing, price(standing, material));
    }

    /** The material wished for by name, else the first that any printer takes. */
    public Material wished(Ticket ticket) {
        List<Material> materials = inventory.materials();
        String wish = ticket.request().materialWish().strip().toLowerCase();
        return materials.stream().filter(m -> !wish.isEmpty() && m.name().toLowerCase().equals(wish)).findFirst()
                .or(() -> materials.stream().filter(m -> m.id().equals("pla")).findFirst())
                .or(() -> materials.stream().findFirst())
                .orElseThrow(() -> new Refusal("There is no material in the stores yet. Add one there first."));
    }

    /** The plan a ticket starts with: its own when it has one, else one from its purpose on the first printer. */
    public Plan start(Ticket ticket) {
        if (ticket.isPlanned()) {
            return ticket.plan();
        }
        StartingPoint start = ticket.request().purpose() == null ? StartingPoint.DAILY_BREAD
                : ticket.request().purpose().startingPoint();
        Material material = wished(ticket);
        List<PrinterOption> options = options(ticket, null, material);
        StockPrinter printer = options.stream().filter(PrinterOption::possible).map(PrinterOption::printer).findFirst()
                .or(() -> inventory.printers().stream().findFirst())
                .orElseThrow(() -> new Refusal("There is no printer in the stores yet. Add one there first."));
        String colour = ticket.request().colourWish().toLowerCase();
        List<StockSpool> fitting = spools.shelf().stream()
                .filter(spool -> spool.spool().materialId().equals(material.id())).toList();
        Optional<StockSpool> spool = fitting.stream()
                .filter(s -> !colour.isBlank() && s.spool().colour().toLowerCase().contains(colour)).findFirst()
                .or(() -> fitting.stream().findFirst());
        return new Plan(start, start.recipe(printer.printer().nozzle(), printer.printer().kinematics()), printer.id(),
                spool.map(StockSpool::id).orElse(null), false);
    }

    /** The recipe a starting point gives on a printer. */
    Recipe recipe(StartingPoint start, String printerId) {
        Printer printer = inventory.printer(printerId).orElseThrow().printer();
        return start.recipe(printer.nozzle(), printer.kinematics());
    }

    public Preview preview(Ticket ticket, Plan plan) {
        Optional<StockSpool> spool = spool(plan);
        Material material = material(ticket, plan);
        List<PrinterOption> options = options(ticket, plan.recipe(), material);
        Optional<PrinterOption> chosen = options.stream()
                .filter(option -> option.printer().id().equals(plan.printerId())).findFirst();
        String problem = chosen.isEmpty() ? "Choose a printer to see what the print takes."
                : chosen.get().fit().fits() ? "" : chosen.get().printer().name() + ": "
                        + chosen.get().reasons().getFirst();
        Standing<Estimate> standing = problem.isEmpty() ? estimator.ask(request(ticket, plan.on(chosen.get().printer().printer()),
                plan.recipe(), chosen.get().fit(), material), "preview of ticket " + ticket.id()) : null;
        Optional<Estimate> done = standing instanceof Standing.Done<Estimate>(Estimate estimate) ? Optional.of(estimate)
                : Optional.empty();
        List<SpoolOption> shelf = spoolOptions(chosen.map(PrinterOption::printer).orElse(null), done);
        List<String> obstacles = new ArrayList<>(chosen.map(PrinterOption::reasons).orElse(List.of()));
        if (spool.isEmpty()) {
            obstacles.add("Choose a spool.");
        }
        shelf.stream().filter(option -> spool.isPresent() && option.spool().id() == spool.get().id())
                .forEach(option -> option.reasons().stream().filter(reason -> !obstacles.contains(reason))
                        .forEach(obstacles::add));
        if (verdict(ticket, fits(ticket)).has(Severity.BLOCK)) {
            obstacles.add("The model has a finding that stops the print; see the verdict.");
        }
        Instant start = chosen.map(PrinterOption::nextFree).orElse(null);
        return new Preview(options, shelf, problem, standing,
                spool.isPresent() && done.isPresent() ? spool.get().spool().price(done.get().grams()) : null, start,
                done.map(e -> start.plus(Duration.ofSeconds(Math.round(e.totalSeconds())))).orElse(null), obstacles);
    }

    /**
     * What would be asked of the estimator for a way of printing the ticket.
     *
     * @param reasons why that printer cannot do it; empty when it can
     */
    public record Question(Estimator.Request request, BedFit fit, List<String> reasons) {
    }

    public Question question(Ticket ticket, Printer printer, Recipe recipe, Material material) {
        BedFit fit = fit(ticket, printer, recipe);
        return new Question(request(ticket, printer, recipe, fit, material), fit,
                Suitability.against(printer, recipe, material, fit));
    }

    /** The plan's spool, while it is on the shelf. */
    public Optional<StockSpool> spool(Plan plan) {
        return Optional.ofNullable(plan.spoolId()).flatMap(spools::spool).filter(spool -> !spool.retired());
    }

    /** The material on the plan's spool, else the one wished for. */
    public Material material(Ticket ticket, Plan plan) {
        return spool(plan)
                .flatMap(spool -> inventory.material(spool.spool().materialId())).orElseGet(() -> wished(ticket));
    }

    /** When each printer could start something new. */
    public Map<String, Instant> nextFree() {
        Map<String, Instant> free = new LinkedHashMap<>();
        queues.all().forEach(queue -> free.put(queue.printer().id(), queue.nextFree()));
        return free;
    }

    /** The estimate of a plan, worked out now if need be; refuses a plan that cannot be carried out. */
    public Estimate settle(Ticket ticket, Plan plan) {
        Recipe recipe = plan.recipe();
        StockPrinter printer = inventory.printer(plan.printerId())
                .orElseThrow(() -> new Refusal("That printer is no longer in the stores. Choose another one."));
        StockSpool spool = spool(plan).orElseThrow(() -> new Refusal("That spool is no longer on the shelf. Choose another one."));
        Material material = inventory.material(spool.spool().materialId()).orElseThrow();
        BedFit fit = fit(ticket, printer.printer(), recipe);
        List<String> reasons = new ArrayList<>(against(printer, recipe, material, fit));
        if (verdict(ticket, fits(ticket)).has(Severity.BLOCK)) {
            reasons.add("The model has a finding that stops the print.");
        }
        if (!reasons.isEmpty()) {
            throw new Refusal(String.join(" ", reasons));
        }
        Estimate estimate = estimator.await(request(ticket, plan.on(printer.printer()), recipe, fit, material));
        List<String> shortage = Suitability.against(spool.spool(), estimate.grams());
        if (!shortage.isEmpty()) {
            throw new Refusal("Not enough on that spool: " + String.join(" ", shortage));
        }
        return estimate;
    }

    /** Seconds before the first line of a planned ticket. */
    public double prepareSeconds(Ticket ticket) {
        StockSpool spool = spools.spool(ticket.spoolId()).orElseThrow();
        Material material = inventory.material(spool.spool().materialId()).orElseThrow();
        Printer printer = ticket.plan().on(inventory.printer(ticket.printerId()).orElseThrow().printer());
        return estimator.await(request(ticket, printer, ticket.recipe(), fit(ticket, printer, ticket.recipe()),
                material)).prepareSeconds();
    }

    /** @param recipe the same on every printer, or null for each printer's everyday one */
    private List<PrinterOption> options(Ticket ticket, Recipe recipe, Material material) {
        Optional<Member> member = Optional.ofNullable(ticket.request().memberId()).flatMap(members::member);
        List<PrinterOption> options = new ArrayList<>();
        for (PrinterQueue queue : queues.all()) {
            StockPrinter printer = queue.printer();
            Recipe used = recipe == null ? everyday(printer) : recipe;
            BedFit fit = fit(ticket, printer.printer(), used);
            options.add(new PrinterOption(printer, fit, against(printer, used, material, fit),
                    member.isPresent() && !member.get().hasBadge(printer.id()), queue.nextFree()));
        }
        return options;
    }

    private static List<String> against(StockPrinter printer, Recipe recipe, Material material, BedFit fit) {
        List<String> reasons = new ArrayList<>(Suitability.against(printer.printer(), recipe, material, fit));
        if (printer.outOfOrder()) {
            reasons.addFirst("Out of order.");
        }
        return reasons;
    }

    private List<SpoolOption> spoolOptions(StockPrinter printer, Optional<Estimate> estimate) {
        List<SpoolOption> options = new ArrayList<>();
        for (StockSpool spool : spools.shelf()) {
            Material material = inventory.material(spool.spool().materialId()).orElseThrow();
            List<String> reasons = new ArrayList<>();
            if (printer != null && !printer.printer().materialIds().contains(material.id())) {
                reasons.add("%s is not allowed on this printer.".formatted(material.name()));
            } else if (printer != null && material.abrasive() && !printer.printer().nozzle().hardened()) {
                reasons.add("%s is abrasive and the nozzle is not hardened.".formatted(material.name()));
            }
            estimate.ifPresent(e -> reasons.addAll(Suitability.against(spool.spool(), e.grams())));
            options.add(new SpoolOption(spool, material, reasons));
        }
        return options;
    }

    private BedFit fit(Ticket ticket, Printer printer, Recipe recipe) {
        Footprint footprint = meshes.footprint(ticket.lying());
        return BedFit.of(footprint, printer.freeBed(), recipe.allowance());
    }

    private static Recipe everyday(StockPrinter printer) {
        return StartingPoint.DAILY_BREAD.recipe(printer.printer().nozzle(), printer.printer().kinematics());
    }

    private static Estimator.Request request(Ticket ticket, Printer printer, Recipe recipe, BedFit fit,
                                             Material material) {
        return new Estimator.Request(new Estimator.Lay(ticket.lying(), fit.rotationDeg(), recipe), printer, material);
    }

    private Money price(Standing<Estimate> standing, Material material) {
        return standing instanceof Standing.Done<Estimate>(Estimate estimate) ? spools.shelf().stream()
                .filter(spool -> spool.spool().materialId().equals(material.id())).findFirst()
                .map(spool -> spool.spool().price(estimate.grams())).orElse(null) : null;
    }
}
