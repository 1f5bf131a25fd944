package fabbrica.web.stores;

import static fabbrica.web.stores.StoresForms.NEW;
import static fabbrica.web.stores.StoresForms.flag;
import static fabbrica.web.stores.StoresForms.key;
import static fabbrica.web.stores.StoresForms.optional;
import static fabbrica.web.stores.StoresForms.plain;

import fabbrica.core.bed.Bed;
import fabbrica.core.estimate.MachineCost;
import fabbrica.core.gcode.OwnWayCheck;
import fabbrica.core.inspect.PrintLimits;
import fabbrica.core.judge.UsedBy;
import fabbrica.core.recipe.Board;
import fabbrica.core.recipe.BuiltIn;
import fabbrica.core.recipe.Kinematics;
import fabbrica.core.recipe.Material;
import fabbrica.core.recipe.OwnWay;
import fabbrica.core.recipe.Preparation;
import fabbrica.core.recipe.Printer;
import fabbrica.core.schedule.Task;
import fabbrica.core.units.OutOfRange;
import fabbrica.web.platform.Back;
import fabbrica.web.platform.FormValues;
import fabbrica.web.platform.Moments;
import fabbrica.web.platform.Seen;
import fabbrica.web.platform.events.Event;
import fabbrica.web.platform.events.Events;
import java.security.Principal;
import java.time.Duration;
import java.time.Instant;
import java.time.LocalDateTime;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.HashSet;
import java.util.List;
import java.util.Objects;
import java.util.Optional;
import java.util.OptionalDouble;
import java.util.Set;
import java.util.stream.Collectors;
import java.util.stream.Stream;
import org.springframework.stereotype.Controller;
import org.springframework.ui.Model;
import org.springframework.util.LinkedMultiValueMap;
import org.springframework.util.MultiValueMap;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.RequestParam;

/** A printer's form, and what is to be done on it. */
@Controller
@RequestMapping("/stores/printers/{id}")
class PrinterController {

    private static final int MOST_EVENTS = 20;
    private static final double USUAL_MIN = 15;

    private final Inventory inventory;
    private final Maintenance maintenance;
    private final StoresForms forms;
    private final Events events;
    private final Moments moments;

    PrinterController(Inventory inventory, Maintenance maintenance, StoresForms forms, Events events, Moments moments) {
        this.inventory = inventory;
        this.maintenance = maintenance;
        this.forms = forms;
        this.events = events;
        this.moments = moments;
    }

    @GetMapping
    String printer(@PathVariable String id, Model page) {
        return form(id, id.equals(NEW) ? printerDefaults() : values(inventory.printer(id).orElseThrow()), List.of(), page);
    }

    @PostMapping
    String save(@PathVariable String id, @RequestParam MultiValueMap<String, String> values, Principal who, Model page) {
        FormValues form = new FormValues(values);
        String key = id.equals(NEW) ? key(form.required("name", "Name"),
                inventory.printers().stream().map(StockPrinter::id).toList()) : id;
        Optional<StockPrinter> printer = read(form, key);
        if (printer.isEmpty()) {
            return form(id, values, form.problems(), page);
        }
        return forms.kept(id, values, form, () -> inventory.add(printer.get(), who.getName()),
                () -> inventory.printer(id).orElseThrow(), seen -> inventory.change(seen, printer.get(), who.getName()),
                problems -> form(id, values, problems, page));
    }

    /** Adds something that is to be done on it again and again, an own one or one of the usual. */
    @PostMapping("/maintenance")
    String addTask(@PathVariable String id, @RequestParam MultiValueMap<String, String> values, Principal who) {
        FormValues form = new FormValues(values);
        inventory.printer(id).orElseThrow();
        Routine routine = Routine.USUAL.stream().filter(usual -> usual.what().equals(form.text("usual"))).findFirst().or(() -> routine(form)).orElse(null);
        form.refuseIfWrong();
        forms.once(form, () -> maintenance.add(id, Objects.requireNonNull(routine), who.getName()));
        return "redirect:/stores/printers/" + id + "#maintenance";
    }

    private static Optional<Routine> routine(FormValues form) {
        String what = form.required("what", "What is to be done");
        Double hours = form.flag("beforeEach") ? Double.valueOf(0) : optional(form, "everyHours", "Hours of running");
        Double days = optional(form, "everyDays", "Days"), minutes = optional(form, "takesMin", "What it takes");
        Duration takes = Duration.ofSeconds(Math.round((minutes == null ? USUAL_MIN : minutes) * 60));
        return form.made(() -> new Routine(what, hours, days == null ? null : (int) Math.round(days), takes, form.flag("plate") ? Task.CLEAR : Task.CHANGE_NOZZLE));
    }

    @PostMapping("/maintenance/{task}/done")
    String done(@PathVariable String id, @PathVariable long task, @RequestParam MultiValueMap<String, String> values, Principal who) {
        FormValues form = new FormValues(values);
        forms.once(form, () -> maintenance.done(task, who.getName()));
        return Back.to(form, "/stores/printers/" + id + "#maintenance");
    }

    @PostMapping("/maintenance/{task}/remove")
    String removeTask(@PathVariable String id, @PathVariable long task, Principal who) {
        maintenance.remove(task, who.getName());
        return "redirect:/stores/printers/" + id + "#maintenance";
    }

    /** What a printer's form offers, and what became of the printer. */
    record PrinterPage(List<StockNozzle> nozzles, List<Material> materials, List<PrinterFields.Field<Kinematics>> kinematics,
                       List<PrinterFields.Field<Board>> board, List<PrinterFields.Field<Preparation>> preparation, UsedBy[] usedBy,
                       List<Maintenance.Due> tasks, List<Routine> usual, double hours, List<Event> events) {
    }

    private String form(String id, MultiValueMap<String, String> values, List<String> problems, Model page) {
        List<Maintenance.Due> due = maintenance.due(id);
        Set<String> kept = due.stream().map(each -> each.task().what()).collect(Collectors.toSet());
        page.addAttribute("page", new PrinterPage(
                inventory.nozzles().stream().filter(nozzle -> nozzle.mountedIn() == null || nozzle.mountedIn().equals(id)).toList(),
                inventory.materials(), PrinterFields.KINEMATICS, PrinterFields.BOARD, PrinterFields.PREPARATION, UsedBy.values(),
                due, Routine.USUAL.stream().filter(usual -> !kept.contains(usual.what())).toList(), maintenance.hours().getOrDefault(id, 0.0), events.ofPrinter(id, MOST_EVENTS)));
        return forms.page("printer", id, values, problems, page);
    }

    private Optional<StockPrinter> read(FormValues form, String key) {
        String name = form.required("name", "Name");
        double width = form.number("width", "Bed width");
        double depth = form.number("depth", "Bed depth");
        double height = form.number("height", "Print height");
        List<Bed.Zone> keepOut = zones(form);
        int nozzleId = form.count("nozzleId", "Nozzle");
        double[] k = numbers(form, PrinterFields.KINEMATICS);
        double[] b = numbers(form, PrinterFields.BOARD);
        double[] p = numbers(form, PrinterFields.PREPARATION);
        double filament = form.number("filamentMm", "Filament diameter");
        int maxNozzle = form.count("maxNozzleC", "Hottest nozzle");
        int maxBed = form.count("maxBedC", "Hottest bed");
        double gap = form.number("narrowestGap", "Narrowest gap");
        double bridge = form.number("longestBridge", "Longest bridge");
        double before = form.text("hoursBefore").isEmpty() ? 0 : form.number("hoursBefore", "Hours run before");
        Optional<MachineCost> cost = cost(form);
        Condition condition = condition(form);
        UsedBy usedBy = StoresForms.usedBy(form);
        Optional<StockNozzle> nozzle = inventory.nozzle(nozzleId);
        if (nozzle.isEmpty()) {
            form.problem("Choose one of the lab's nozzles.");
        } else if (!nozzle.get().fits(form.text("fitting"))) {
            form.problem("That nozzle has the fitting “%s”; this printer takes “%s”.".formatted(nozzle.get().fitting(), form.text("fitting")));
        }
        form.made(() -> new PrintLimits(0.4, 0.2, gap, bridge));
        OwnWay ownWay = new OwnWay(form.text("ownStart"), form.text("ownEnd"));
        Optional<StockPrinter> stock = form.made(() -> new StockPrinter(new Printer(key, name, new Bed(width, depth, height, keepOut),
                nozzle.orElseThrow().nozzle(), PrinterFields.kinematics(k, b), PrinterFields.preparation(p), filament,
                form.flag("enclosed"), maxNozzle, maxBed, new HashSet<>(form.all("materialId")), ownWay), nozzleId, form.text("place"),
                form.text("fitting"), usedBy, form.flag("unattended"), condition, cost.orElseThrow(), before, gap, bridge,
                form.flag("raftAlways")));
        stock.ifPresent(made -> Stream.of(ownWay.start(), ownWay.end())
                .forEach(text -> OwnWayCheck.of(text, made.printer()).forEach(form::problem)));
        return form.fine() ? stock : Optional.empty();
    }

    private static Optional<MachineCost> cost(FormValues form) {
        double heating = form.number("wattsHeating", "Power while heating");
        double printing = form.number("wattsPrinting", "Power while printing");
        Double perHour = optional(form, "perHour", "Price of an hour");
        return form.made(() -> new MachineCost(heating, printing, perHour == null ? OptionalDouble.empty() : OptionalDouble.of(perHour)));
    }

    private Condition condition(FormValues form) {
        Optional<LocalDateTime> until = form.moment("downUntil", "Expected back");
        return form.flag("outOfOrder") ? Condition.down(form.text("downReason"), until.map(moments::at).orElse(null)) : form.flag("unproved")
                ? Condition.unproved(form.text("downReason")) : Condition.READY;
    }

    private static double[] numbers(FormValues form, List<? extends PrinterFields.Field<?>> fields) {
        return fields.stream().mapToDouble(field -> form.number(field.name(), field.label())).toArray();
    }

    /** One zone a line: left, front, right and back in millimetres. */
    private static List<Bed.Zone> zones(FormValues form) {
        List<Bed.Zone> zones = new ArrayList<>();
        for (String line : form.text("keepOut").lines().filter(text -> !text.isBlank()).toList()) {
            try {
                double[] sides = Arrays.stream(line.strip().split("[\\s,;]+"))
                        .mapToDouble(Double::parseDouble).toArray();
                zones.add(new Bed.Zone(sides[0], sides[1], sides[2], sides[3]));
            } catch (NumberFormatException | ArrayIndexOutOfBoundsException e) {
                form.problem("A keep-out zone takes four numbers: left, front, right, back. “" + line.strip()
                        + "” was given.");
            } catch (OutOfRange e) {
                form.problem(String.valueOf(e.getMessage()));
            }
        }
        return zones;
    }

    private MultiValueMap<String, String> printerDefaults() {
        MultiValueMap<String, String> values =
                values(StockPrinter.usual(BuiltIn.printer("standard").orElseThrow(), 0).with(Condition.unproved("it is new")));
        values.set("name", "");
        return values;
    }

    private MultiValueMap<String, String> values(StockPrinter stock) {
        Printer printer = stock.printer();
        MultiValueMap<String, String> values = new LinkedMultiValueMap<>();
        values.set("name", printer.name());
        values.set("width", plain(printer.bed().widthMm()));
        values.set("depth", plain(printer.bed().depthMm()));
        values.set("height", plain(printer.bed().heightMm()));
        values.set("nozzleId", Long.toString(stock.nozzleId()));
        values.set("filamentMm", plain(printer.filamentMm()));
        values.set("maxNozzleC", plain(printer.maxNozzleC()));
        values.set("maxBedC", plain(printer.maxBedC()));
        values.set("keepOut", String.join("\n", printer.bed().keepOut().stream().map(zone -> plain(zone.minX()) + " "
                + plain(zone.minY()) + " " + plain(zone.maxX()) + " " + plain(zone.maxY())).toList()));
        PrinterFields.KINEMATICS.forEach(field -> values.set(field.name(),
                plain(field.value().applyAsDouble(printer.kinematics()))));
        PrinterFields.BOARD.forEach(field -> values.set(field.name(),
                plain(field.value().applyAsDouble(printer.kinematics().board()))));
        PrinterFields.PREPARATION.forEach(field -> values.set(field.name(),
                plain(field.value().applyAsDouble(printer.preparation()))));
        flag(values, "enclosed", printer.enclosed());
        values.set("ownStart", printer.ownWay().start());
        values.set("ownEnd", printer.ownWay().end());
        values.set("narrowestGap", plain(stock.narrowestGapMm()));
        values.set("longestBridge", plain(stock.longestBridgeMm()));
        flag(values, "raftAlways", stock.raftAlways());
        values.set("place", stock.place());
        values.set("fitting", stock.fitting());
        values.set("usedBy", stock.usedBy().name());
        flag(values, "unattended", stock.unattended());
        values.set("hoursBefore", plain(stock.hoursBefore()));
        values.set("wattsHeating", plain(stock.cost().wattsHeating()));
        values.set("wattsPrinting", plain(stock.cost().wattsPrinting()));
        values.set("perHour", stock.cost().perHour().isEmpty() ? "" : plain(stock.cost().perHour().getAsDouble()));
        flag(values, "outOfOrder", stock.outOfOrder() && !stock.condition().unproved());
        flag(values, "unproved", stock.condition().unproved());
        values.set("downReason", stock.condition().reason());
        Instant until = stock.condition().until();
        values.set("downUntil", until == null ? "" : moments.forInput(until));
        values.put("materialId", new ArrayList<>(printer.materialIds()));
        values.set(Seen.FIELD, Seen.of(stock));
        return values;
    }
}
