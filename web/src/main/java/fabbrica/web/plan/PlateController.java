package fabbrica.web.plan;

import fabbrica.core.bed.Layout;
import fabbrica.core.estimate.Expected;
import fabbrica.core.judge.Obstacle;
import fabbrica.core.judge.Takes;
import fabbrica.core.mesh.io.threemf.ThreeMfWriter;
import fabbrica.core.mesh.model.Bounds;
import fabbrica.core.mesh.model.Mesh;
import fabbrica.core.mesh.model.Rotation;
import fabbrica.core.recipe.Material;
import fabbrica.core.recipe.Plate.Place;
import fabbrica.core.recipe.Plate.Sequence;
import fabbrica.core.recipe.Printer;
import fabbrica.core.recipe.Recipe;
import fabbrica.core.recipe.StartingPoint;
import fabbrica.core.schedule.Schedule.Slot;
import fabbrica.core.units.Money;
import fabbrica.web.account.Member;
import fabbrica.web.account.Members;
import fabbrica.web.plan.LaidPlate.LaidCopy;
import fabbrica.web.platform.Attachment;
import fabbrica.web.platform.FormTokens;
import fabbrica.web.platform.FormValues;
import fabbrica.web.platform.Meshes;
import fabbrica.web.platform.Refusal;
import fabbrica.web.platform.Seen;
import fabbrica.web.platform.Shop;
import fabbrica.web.platform.Standing;
import fabbrica.web.stores.Inventory;
import fabbrica.web.stores.Spools;
import fabbrica.web.stores.StockPrinter;
import fabbrica.web.stores.StockSpool;
import fabbrica.web.ticket.Ticket;
import fabbrica.web.ticket.TicketState;
import fabbrica.web.ticket.Tickets;
import jakarta.servlet.http.HttpServletResponse;
import java.io.IOException;
import java.io.OutputStream;
import java.security.Principal;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.Optional;
import java.util.stream.Collectors;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Controller;
import org.springframework.ui.Model;
import org.springframework.util.MultiValueMap;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.servlet.mvc.support.RedirectAttributes;

/** Plates: several tickets are laid on one, moved about by hand, judged, and put into the queue. */
@Controller
class PlateController {

    private static final int MOST_AT_ONCE = 60;

    private final Plates plates;
    private final Planning planning;
    private final Proposals proposals;
    private final Laying laying;
    private final Forecasts forecasts;
    private final Tickets tickets;
    private final Members members;
    private final Inventory inventory;
    private final Spools spools;
    private final PlateDrawing drawing;
    private final Meshes meshes;
    private final Expectations expectations;
    private final FormTokens tokens;

    PlateController(Plates plates, Planning planning, Proposals proposals, Laying laying, Forecasts forecasts, Tickets tickets, Members members, Inventory inventory,
                    Spools spools, PlateDrawing drawing, Meshes meshes, Expectations expectations, FormTokens tokens) {
        this.plates = plates;
        this.planning = planning;
        this.proposals = proposals;
        this.laying = laying;
        this.forecasts = forecasts;
        this.tickets = tickets;
        this.members = members;
        this.inventory = inventory;
        this.spools = spools;
        this.drawing = drawing;
        this.meshes = meshes;
        this.expectations = expectations;
        this.tokens = tokens;
    }

    /**
     * A ticket that could lie on a plate with others.
     *
     * @param missing copies that lie nowhere
     * @param loses   what it would lose; empty when nothing
     */
    record Candidate(Ticket ticket, String member, int missing, String loses, boolean ticked) {

        /** "key-tag.stl no. 43, Odo Karst, 12 copies; its purpose asks for “Looks”: …". */
        public String spoken() {
            return ticket.model().name() + " no. " + ticket.id() + (member.isEmpty() ? "" : ", " + member)
                    + (missing == 1 ? "" : ", %d copies".formatted(missing)) + (loses.isEmpty() ? "" : "; " + loses);
        }
    }

    /** Tickets with copies that lie nowhere yet, to be laid together. */
    @GetMapping("/plates/new")
    String together(@RequestParam MultiValueMap<String, String> values, Model page) {
        return together(values, List.of(), page);
    }

    @PostMapping("/plates/new")
    String lay(@RequestParam MultiValueMap<String, String> values, Principal who, Model page, RedirectAttributes flash) {
        FormValues form = new FormValues(values);
        List<Ticket> chosen = tickets.tickets(form.all("ticket").stream().map(Long::valueOf).toList());
        if (chosen.isEmpty()) {
            form.problem("Tick at least one ticket.");
        }
        Optional<StockPrinter> printer = inventory.printer(form.text("printer"));
        if (printer.isEmpty()) {
            form.problem("Choose a printer.");
        }
        if (!form.fine()) {
            return together(values, form.problems(), page);
        }
        StartingPoint start = StartingPoint.ofCode(form.text("start")).orElse(StartingPoint.DAILY_BREAD);
        Long spool = form.text("spool").isEmpty() ? null : Long.valueOf(form.text("spool"));
        PlanEntry entry = new PlanEntry(start, start.recipe(printer.get().printer().nozzle(), printer.get().printer().kinematics()),
                printer.get().id(), spool, false);
        List<Long> made = new ArrayList<>();
        try {
            tokens.once(form, () -> made.addAll(plates.draft(chosen, entry, Sequence.TOGETHER, who.getName())));
        } catch (Refusal refusal) {
            return together(values, List.of(refusal.getMessage()), page);
        }
        if (made.isEmpty()) {
            return "redirect:/counter";
        }
        if (made.size() > 1) {
            flash.addFlashAttribute("told", "They take %d plates; this is the first. The others wait on the Floor.".formatted(made.size()));
        }
        return "redirect:/plates/" + made.getFirst();
    }

    /** Tickets that can be laid together. */
    record TogetherPage(List<Candidate> candidates, List<StockPrinter> printers, List<StockSpool> shelf, List<Material> materials,
                        StartingPoint[] starts, StartingPoint start) {
    }

    private String together(MultiValueMap<String, String> values, List<String> problems, Model page) {
        FormValues form = new FormValues(values);
        StartingPoint start = StartingPoint.ofCode(form.text("start")).orElse(StartingPoint.DAILY_BREAD);
        page.addAttribute("v", values.toSingleValueMap());
        page.addAttribute("problems", problems);
        List<StockSpool> shelf = spools.shelf();
        StockSpool spool = shelf.stream().filter(each -> form.text("spool").equals(Long.toString(each.id()))).findFirst().orElse(null);
        page.addAttribute("page", new TogetherPage(candidates(start, spool, form.all("ticket")),
                inventory.printers().stream().filter(StockPrinter::canBePlanned).toList(), shelf, inventory.materials(),
                StartingPoint.values(), start));
        return "plan/together";
    }

    /** Tickets with copies that lie nowhere yet. */
    private List<Candidate> candidates(StartingPoint start, @Nullable StockSpool spool, List<String> ticked) {
        List<Ticket> all = tickets.inStates(TicketState.ACCEPTED, TicketState.FAILED, TicketState.QUEUED, TicketState.RUNNING).stream()
                .filter(ticket -> ticket.model().isKept() && !ticket.isSliced()).toList();
        Map<Long, Copies> copies = plates.copies(all.stream().map(Ticket::id).toList());
        Map<Long, Member> named = members.members(all.stream().map(ticket -> ticket.request().memberId()).toList());
        List<Candidate> candidates = new ArrayList<>();
        for (Ticket ticket : all) {
            int missing = Objects.requireNonNull(copies.get(ticket.id())).missing();
            if (missing > 0 && candidates.size() < MOST_AT_ONCE) {
                candidates.add(new Candidate(ticket, Optional.ofNullable(ticket.request().memberId()).map(named::get).map(Member::name).orElse(""),
                        missing, Losses.of(ticket, start, spool, inventory.materials()), ticked.contains(Long.toString(ticket.id()))));
            }
        }
        return candidates;
    }

    /**
     * A plate with all that it can be printed on; without a drawing when a model is no longer kept.
     *
     * @param fixed  whether it lies as its file says, which was sliced elsewhere
     * @param losses what tickets on it lose, by their numbers
     * @param others tickets that could lie on it as well, while it is being laid
     */
    record PlatePage(LaidPlate plate, boolean fixed, StockPrinter printer, @Nullable StockSpool spool, List<StockPrinter> printers, List<StockSpool> shelf,
                     List<Material> materials, StartingPoint[] starts, Sequence[] sequences, PlateDrawing.@Nullable Sheet sheet,
                     Map<Long, String> losses, List<Candidate> others) {
    }

    /** A plate with all that is known of it. */
    @GetMapping("/plates/{id}")
    String plate(@PathVariable long id, Model page) {
        LaidPlate plate = plates.plate(id);
        StockPrinter printer = inventory.printer(plate.plan().printerId()).orElseThrow();
        StockSpool spool = Optional.ofNullable(plate.plan().spoolId()).flatMap(spools::spool).orElse(null);
        boolean fixed = !plate.copies().isEmpty() && laying.isFixed(plate.plate());
        page.addAttribute("page", new PlatePage(plate, fixed, printer, spool,
                inventory.printers().stream().filter(StockPrinter::canBePlanned).toList(), spools.shelf(), inventory.materials(),
                StartingPoint.values(), Sequence.values(),
                drawing.ofKept(plate, printer.printer()),
                tickets.tickets(plate.tickets()).stream().collect(Collectors.toMap(Ticket::id,
                        ticket -> Losses.of(ticket, plate.plan().start(), spool, inventory.materials()))),
                plate.isDraft() && !fixed ? candidates(plate.plan().start(), spool, List.of()) : List.of()));
        return "plan/plate";
    }

    /** What a plate takes and what stands in its way, as far as it is worked out. */
    record JudgedPage(LaidPlate plate, Layout layout, @Nullable Expected expected, Standing.@Nullable Working<Expected> working,
                      @Nullable String failed, @Nullable Money cost, List<Obstacle> obstacles, @Nullable Slot slot) {

        /** Between the nearest two copies, 0 when they overlap; null when there are no two. */
        public @Nullable Double apartMm() {
            return Double.isFinite(layout.nearestMm()) ? Double.valueOf(Math.max(0, layout.nearestMm())) : null;
        }
    }

    /** What a plate takes and what stands in its way, asked for again while it is worked out. */
    @GetMapping("/plates/{id}/judged")
    String judged(@PathVariable long id, Model page) {
        LaidPlate plate = plates.plate(id);
        StockPrinter printer = inventory.printer(plate.plan().printerId()).orElseThrow();
        StockSpool spool = planning.spool(plate.plan().entry()).orElse(null);
        Printer asItIs = plate.plan().on(printer.printer());
        Judging.Bench bench = plates.bench(plate);
        Material material = material(plate, spool);
        Layout layout = laying.layout(plate.plate(), asItIs);
        Standing<Expected> standing = layout.troubles().isEmpty() ? expectations.ask(new Shop.Request(plate.plate(), asItIs, material), "plate " + id) : null;
        Optional<Expected> expected = standing == null ? Optional.empty() : Planning.done(standing);
        double promised = spool == null ? 0 : plates.promisedBut(plate).getOrDefault(spool.id(), 0.0);
        List<Obstacle> obstacles = new ArrayList<>(bench.planned(plate.plate(), layout, printer, asItIs, material, spool, promised, expected.map(Takes::of)));
        if (spool == null) {
            obstacles.addFirst(new Obstacle.Stops(Obstacle.Cause.SPOOL, "Choose a spool.", ""));
        }
        page.addAttribute("page", new JudgedPage(plate, layout, expected.orElse(null),
                standing instanceof Standing.Working<Expected> working ? working : null,
                standing instanceof Standing.Failed<Expected>(String sentence) ? sentence : null,
                expected.isPresent() && spool != null ? spool.spool().price(expected.get().grams()) : null, obstacles,
                expected.flatMap(known -> slot(plate, known)).orElse(null)));
        return "plan/plate :: judged";
    }

    /** When a plate is printed that waits, or would be if it did; nothing when nobody knows. */
    private Optional<Slot> slot(LaidPlate plate, Expected expected) {
        Forecasts.Floor floor = forecasts.floor();
        return plate.waits() ? floor.of(plate) : floor.after(plate.plan().printerId(), List.of(Planning.takes(expected)), plate.plan().spoolId(),
                List.of()).stream().findFirst();
    }

    private Material material(LaidPlate plate, @Nullable StockSpool spool) {
        return spool == null ? proposals.wished(tickets.ticket(plate.tickets().getFirst())) : inventory.material(spool.spool().materialId()).orElseThrow();
    }

    /** Another plan, other places, or both. */
    @PostMapping("/plates/{id}")
    String rearrange(@PathVariable long id, @RequestParam MultiValueMap<String, String> values, RedirectAttributes flash) {
        FormValues form = new FormValues(values);
        LaidPlate seen = Seen.unchanged(plates.plate(id), form);
        StockPrinter printer = inventory.printer(form.text("printer")).orElseThrow(() -> new Refusal("Choose a printer."));
        StartingPoint start = StartingPoint.ofCode(form.text("start")).orElse(seen.plan().start());
        Sequence sequence = form.text("sequence").equals(Sequence.ONE_BY_ONE.name()) ? Sequence.ONE_BY_ONE : Sequence.TOGETHER;
        Long spool = form.text("spool").isEmpty() ? null : Long.valueOf(form.count("spool", "Spool"));
        boolean same = start == seen.plan().start() && printer.id().equals(seen.plan().printerId());
        Recipe recipe = same || laying.isFixed(seen.plate()) ? seen.plan().recipe() : start.recipe(printer.printer().nozzle(), printer.printer().kinematics());
        PlanEntry entry = new PlanEntry(start, recipe, printer.id(), spool, form.flag("fresh"));
        List<Place> places = form.flag("nest") || !printer.id().equals(seen.plan().printerId()) || sequence != seen.sequence()
                ? plates.nested(seen, entry, sequence) : places(seen, form);
        form.refuseIfWrong();
        plates.rearrange(seen, entry, sequence, places);
        return "redirect:/plates/" + id;
    }

    private static List<Place> places(LaidPlate seen, FormValues form) {
        List<Place> places = new ArrayList<>();
        for (LaidCopy copy : seen.copies()) {
            String field = "place-" + copy.id();
            if (form.text(field + "-x").isEmpty()) {
                places.add(copy.copy().place());
            } else {
                places.add(new Place(form.number(field + "-x", "Left to right"), form.number(field + "-y", "Front to back"),
                        form.number(field + "-turn", "Turn")));
            }
        }
        return places;
    }

    @PostMapping("/plates/{id}/add")
    String add(@PathVariable long id, @RequestParam MultiValueMap<String, String> values, Principal who, RedirectAttributes flash) {
        FormValues form = new FormValues(values);
        LaidPlate seen = Seen.unchanged(plates.plate(id), form);
        Ticket more = tickets.ticket(form.count("ticket", "Ticket"));
        form.refuseIfWrong();
        int laid = plates.add(seen, more, who.getName()), left = plates.copies(more.id()).missing();
        flash.addFlashAttribute("told", left == 0 ? "Laid on it; all of them were laid out anew."
                : "There was room for %d; %d still lie nowhere.".formatted(laid, left));
        return "redirect:/plates/" + id;
    }

    @PostMapping("/plates/{id}/take-off")
    String takeOff(@PathVariable long id, @RequestParam long copy, @RequestParam MultiValueMap<String, String> values) {
        LaidPlate seen = Seen.unchanged(plates.plate(id), new FormValues(values));
        plates.takeOff(seen, List.of(copy));
        return seen.copies().size() == 1 ? "redirect:/counter" : "redirect:/plates/" + id;
    }

    @PostMapping("/plates/{id}/queue")
    String queue(@PathVariable long id, @RequestParam MultiValueMap<String, String> values, Principal who, RedirectAttributes flash) {
        plates.enqueue(Seen.unchanged(plates.plate(id), new FormValues(values)), who.getName());
        flash.addFlashAttribute("told", "It waits for its printer now. Start it on the Floor.");
        return "redirect:/plates/" + id;
    }

    @PostMapping("/plates/{id}/put-back")
    String putBack(@PathVariable long id, @RequestParam MultiValueMap<String, String> values, Principal who, RedirectAttributes flash) {
        FormValues form = new FormValues(values);
        plates.putBack(Seen.unchanged(plates.plate(id), form), form.text("why"), who.getName());
        flash.addFlashAttribute("told", "It no longer waits; lay it anew when it is time.");
        return "redirect:/plates/" + id;
    }

    @PostMapping("/plates/{id}/dissolve")
    String dissolve(@PathVariable long id, @RequestParam MultiValueMap<String, String> values, Principal who, RedirectAttributes flash) {
        plates.dissolve(Seen.unchanged(plates.plate(id), new FormValues(values)), who.getName());
        flash.addFlashAttribute("told", "Taken apart. Its copies lie nowhere and can be planned anew.");
        return "redirect:/counter";
    }

    /** A plate as 3MF, its copies where they lie. */
    @GetMapping("/plates/{id}.3mf")
    void file(@PathVariable long id, HttpServletResponse response) throws IOException {
        LaidPlate plate = plates.plate(id);
        List<ThreeMfWriter.Placed> placed = new ArrayList<>();
        for (LaidCopy first : plate.copies().stream().filter(copy -> plate.copies().stream().noneMatch(other -> other.nth() < copy.nth()
                && other.copy().part().equals(copy.copy().part()))).toList()) {
            Mesh mesh = meshes.mesh(first.copy().part());
            placed.add(new ThreeMfWriter.Placed(mesh, first.model(), plate.copies().stream()
                    .filter(copy -> copy.copy().part().equals(first.copy().part())).map(copy -> moved(mesh, copy.copy().place())).toList()));
        }
        Attachment.head(response, "model/3mf", "plate-%d.3mf".formatted(id));
        try (OutputStream out = response.getOutputStream()) {
            ThreeMfWriter.write(placed, "plate-" + id, out);
        }
    }

    private static ThreeMfWriter.Copy moved(Mesh mesh, Place place) {
        Bounds box = mesh.turned(place.turnDeg()).bounds();
        double half = Math.toRadians(place.turnDeg()) / 2;
        return new ThreeMfWriter.Copy(new Rotation(Math.cos(half), 0, 0, Math.sin(half)), place.xMm() - (box.minX() + box.maxX()) / 2,
                place.yMm() - (box.minY() + box.maxY()) / 2, -box.minZ());
    }
}
