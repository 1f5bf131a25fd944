package fabbrica.web.stores;

import fabbrica.core.bed.Bed;
import fabbrica.core.estimate.Tariff;
import fabbrica.core.gcode.OwnWayCheck;
import fabbrica.core.inspect.PrintLimits;
import fabbrica.core.recipe.BuiltIn;
import fabbrica.core.recipe.Material;
import fabbrica.core.recipe.Nozzle;
import fabbrica.core.recipe.OwnWay;
import fabbrica.core.recipe.Printer;
import fabbrica.core.units.OutOfRange;
import fabbrica.core.units.Spoken;
import fabbrica.web.platform.FormTokens;
import fabbrica.web.platform.FormValues;
import fabbrica.web.platform.Outdated;
import fabbrica.web.platform.Seen;
import java.time.LocalDate;
import java.time.LocalTime;
import java.time.format.DateTimeParseException;
import java.util.ArrayList;
import java.util.Currency;
import java.util.HashSet;
import java.util.List;
import java.util.Locale;
import java.util.NoSuchElementException;
import java.util.Optional;
import java.util.function.Consumer;
import java.util.function.Function;
import java.util.function.Supplier;
import java.util.stream.Stream;
import org.springframework.stereotype.Controller;
import org.springframework.ui.Model;
import org.springframework.util.LinkedMultiValueMap;
import org.springframework.util.MultiValueMap;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestParam;

/** The Stores: what there is, and forms to change it. A form that cannot be used comes back as it was filled in. */
@Controller
class StoresController {

    private static final String NEW = "new";
    private static final String BACK = "redirect:/stores";
    /** The largest in common use (common practice, no source). */
    private static final double LARGEST_SPOOL_G = 10_000;

    private final Inventory inventory;
    private final FormTokens tokens;
    private final Disk disk;

    StoresController(Inventory inventory, FormTokens tokens, Disk disk) {
        this.inventory = inventory;
        this.tokens = tokens;
        this.disk = disk;
    }

    @GetMapping("/stores")
    String stores(Model page) {
        page.addAttribute("printers", inventory.printers());
        page.addAttribute("nozzles", inventory.nozzles());
        page.addAttribute("materials", inventory.materials());
        page.addAttribute("spools", inventory.spools());
        page.addAttribute("lab", inventory.lab());
        return "stores/stores";
    }

    /** Asked for by the page once it is shown; folders grow large. */
    @GetMapping("/stores/disk")
    String disk(Model page) {
        page.addAttribute("disk", disk.now());
        return "stores/disk";
    }

    @GetMapping("/stores/printers/{id}")
    String printer(@PathVariable String id, Model page) {
        return printerForm(id, id.equals(NEW) ? printerDefaults() : values(inventory.printer(id).orElseThrow()), List.of(), page);
    }

    @PostMapping("/stores/printers/{id}")
    String savePrinter(@PathVariable String id, @RequestParam MultiValueMap<String, String> values, Model page) {
        FormValues form = new FormValues(values);
        String key = id.equals(NEW) ? key(form.required("name", "Name"),
                inventory.printers().stream().map(StockPrinter::id).toList()) : id;
        Optional<StockPrinter> printer = read(form, key);
        if (printer.isEmpty()) {
            return printerForm(id, values, form.problems(), page);
        }
        return kept(id, values, form, () -> inventory.add(printer.get()), () -> inventory.printer(id).orElseThrow(),
                seen -> inventory.change(seen, printer.get()), problems -> printerForm(id, values, problems, page));
    }

    @GetMapping("/stores/spools/{id}")
    String spool(@PathVariable String id, Model page) {
        MultiValueMap<String, String> values = new LinkedMultiValueMap<>();
        if (id.equals(NEW)) {
            values.setAll(java.util.Map.of("remainingG", "1000", "pricePerKg", "25"));
        } else {
            StockSpool spool = inventory.spool(number(id)).orElseThrow();
            values.setAll(java.util.Map.of("materialId", spool.spool().materialId(), "colour", spool.spool().colour(),
                    "remainingG", plain(spool.spool().remainingG()), "pricePerKg", plain(spool.spool().pricePerKg()),
                    "openedOn", spool.openedOn() == null ? "" : spool.openedOn().toString()));
            flag(values, "retired", spool.retired());
            values.set(Seen.FIELD, Seen.of(spool));
        }
        return spoolForm(id, values, List.of(), page);
    }

    @PostMapping("/stores/spools/{id}")
    String saveSpool(@PathVariable String id, @RequestParam MultiValueMap<String, String> values, Model page) {
        FormValues form = new FormValues(values);
        String material = form.required("materialId", "Material");
        String colour = form.required("colour", "Colour");
        double remaining = form.number("remainingG", "Grams left");
        double price = form.number("pricePerKg", "Price per kg");
        LocalDate opened = date(form, "openedOn", "Opened on");
        form.made(() -> OutOfRange.check("Grams left", remaining, id.equals(NEW) ? 1 : -100_000, 100_000, "g")
                + OutOfRange.check("Price per kg", price, 0, 100_000, ""));
        if (inventory.material(material).isEmpty()) {
            form.problem("Choose a material of the lab.");
        }
        double most = id.equals(NEW) ? LARGEST_SPOOL_G : inventory.spool(number(id)).orElseThrow().initialG();
        if (form.fine() && remaining > most && !form.flag("sure")) {
            form.problem("%s is more than %s. If it is so, tick “sure” and keep it again.".formatted(Spoken.grams(remaining),
                    id.equals(NEW) ? "spools usually hold" : "the spool held when it was new"));
            page.addAttribute("question", true);
        }
        if (!form.fine()) {
            return spoolForm(id, values, form.problems(), page);
        }
        return kept(id, values, form, () -> inventory.addSpool(material, colour, remaining, price, opened),
                () -> inventory.spool(number(id)).orElseThrow(),
                seen -> inventory.changeSpool(seen, material, colour, remaining, price, opened, form.flag("retired")),
                problems -> {
                    String holds = plain(inventory.spool(number(id)).orElseThrow().spool().remainingG());
                    values.set("remainingG", holds);
                    return spoolForm(id, values, List.of(problems.getFirst() + " It holds " + holds + " g now."), page);
                });
    }

    @GetMapping("/stores/materials/{id}")
    String material(@PathVariable String id, Model page) {
        Material material = id.equals(NEW) ? BuiltIn.PLA : inventory.material(id).orElseThrow();
        MultiValueMap<String, String> values = new LinkedMultiValueMap<>();
        values.setAll(java.util.Map.of("name", id.equals(NEW) ? "" : material.name(),
                "density", plain(material.densityGPerCm3()), "nozzleC", plain(material.nozzleC()),
                "bedC", plain(material.bedC())));
        flag(values, "abrasive", material.abrasive());
        flag(values, "enclosed", material.enclosed());
        values.set(Seen.FIELD, Seen.of(material));
        return form("material", id, values, List.of(), page);
    }

    @PostMapping("/stores/materials/{id}")
    String saveMaterial(@PathVariable String id, @RequestParam MultiValueMap<String, String> values, Model page) {
        FormValues form = new FormValues(values);
        String name = form.required("name", "Name");
        double density = form.number("density", "Density");
        int nozzle = form.count("nozzleC", "Nozzle temperature");
        int bed = form.count("bedC", "Bed temperature");
        String key = id.equals(NEW) ? key(name, inventory.materials().stream().map(Material::id).toList()) : id;
        Optional<Material> material = form.made(() -> new Material(key, name, density, nozzle, bed,
                form.flag("abrasive"), form.flag("enclosed")));
        if (material.isEmpty()) {
            return form("material", id, values, form.problems(), page);
        }
        return kept(id, values, form, () -> inventory.add(material.get()), () -> inventory.material(id).orElseThrow(),
                seen -> inventory.change(seen, material.get()), problems -> form("material", id, values, problems, page));
    }

    @GetMapping("/stores/nozzles/{id}")
    String nozzle(@PathVariable String id, Model page) {
        StockNozzle nozzle = id.equals(NEW) ? new StockNozzle(0, new Nozzle(0.4, false), "")
                : inventory.nozzle(number(id)).orElseThrow();
        MultiValueMap<String, String> values = new LinkedMultiValueMap<>();
        values.setAll(java.util.Map.of("bore", plain(nozzle.nozzle().boreMm()), "note", nozzle.note()));
        flag(values, "hardened", nozzle.nozzle().hardened());
        values.set(Seen.FIELD, Seen.of(nozzle));
        return form("nozzle", id, values, List.of(), page);
    }

    @PostMapping("/stores/nozzles/{id}")
    String saveNozzle(@PathVariable String id, @RequestParam MultiValueMap<String, String> values, Model page) {
        FormValues form = new FormValues(values);
        double bore = form.number("bore", "Bore");
        Optional<Nozzle> nozzle = form.made(() -> new Nozzle(bore, form.flag("hardened")));
        if (nozzle.isEmpty()) {
            return form("nozzle", id, values, form.problems(), page);
        }
        return kept(id, values, form, () -> inventory.add(nozzle.get(), form.text("note")),
                () -> inventory.nozzle(number(id)).orElseThrow(),
                seen -> inventory.change(seen, new StockNozzle(seen.id(), nozzle.get(), form.text("note"))),
                problems -> form("nozzle", id, values, problems, page));
    }

    @GetMapping("/stores/lab/settings")
    String lab(Model page) {
        Lab lab = inventory.lab();
        MultiValueMap<String, String> values = new LinkedMultiValueMap<>();
        values.setAll(java.util.Map.of("name", lab.name(), "currency", lab.currency().getCurrencyCode(),
                "limitMb", plain(lab.limitMb()), "opens", lab.opens().toString(), "closes", lab.closes().toString()));
        TariffFields.values(lab.tariff()).forEach(values::set);
        values.set("keepModels", plain(lab.keeping().modelsDays()));
        values.set("keepPhotos", plain(lab.keeping().photosDays()));
        values.set("keepMembers", plain(lab.keeping().membersDays()));
        values.set(Seen.FIELD, Seen.of(lab));
        return form("lab", "settings", values, List.of(), page);
    }

    @PostMapping("/stores/lab/settings")
    String saveLab(@RequestParam MultiValueMap<String, String> values, Model page) {
        FormValues form = new FormValues(values);
        String name = form.required("name", "Name");
        int limit = form.count("limitMb", "File limit");
        String currency = form.required("currency", "Currency").toUpperCase(Locale.ROOT);
        if (Currency.getAvailableCurrencies().stream().noneMatch(c -> c.getCurrencyCode().equals(currency))) {
            form.problem("Currency takes a three-letter code such as EUR.");
        }
        LocalTime opens = time(form, "opens", "Opens");
        LocalTime closes = time(form, "closes", "Closes");
        form.made(() -> OutOfRange.check("File limit", limit, 1, 2000));
        if (form.fine() && !opens.isBefore(closes)) {
            form.problem("The lab has to open before it closes.");
        }
        Optional<Tariff> tariff = TariffFields.read(form);
        int models = form.count("keepModels", "Days that models are kept");
        int photos = form.count("keepPhotos", "Days that photos are kept");
        int members = form.count("keepMembers", "Days that members are kept");
        Optional<Keeping> keeping = form.made(() -> new Keeping(models, photos, members));
        if (!form.fine()) {
            return form("lab", "settings", values, form.problems(), page);
        }
        Lab lab = new Lab(name, Currency.getInstance(currency), limit, opens, closes, tariff.orElseThrow(),
                keeping.orElseThrow());
        return kept("settings", values, form, () -> { }, inventory::lab, seen -> inventory.change(seen, lab),
                problems -> form("lab", "settings", values, problems, page));
    }

    @PostMapping("/stores/{kind}/{id}/remove")
    String remove(@PathVariable String kind, @PathVariable String id) {
        switch (kind) {
            case "printers" -> inventory.removePrinter(id);
            case "nozzles" -> inventory.removeNozzle(number(id));
            case "materials" -> inventory.removeMaterial(id);
            case "spools" -> inventory.removeSpool(number(id));
            default -> throw new NoSuchElementException();
        }
        return BACK;
    }

    /**
     * Adds or changes something; a form that no longer shows what is comes back as it was filled in.
     *
     * @param again the form with what kept it from being kept
     */
    private <T> String kept(String id, MultiValueMap<String, String> values, FormValues form, Runnable add, Supplier<T> now,
                            Consumer<T> change, Function<List<String>, String> again) {
        if (id.equals(NEW)) {
            tokens.once(form, add);
            return BACK;
        }
        try {
            change.accept(Seen.unchanged(now.get(), form));
            return BACK;
        } catch (Outdated outdated) {
            values.set(Seen.FIELD, Seen.of(now.get()));
            return again.apply(List.of(outdated.getMessage()));
        }
    }

    private String printerForm(String id, MultiValueMap<String, String> values, List<String> problems, Model page) {
        page.addAttribute("nozzles", inventory.nozzles());
        page.addAttribute("materials", inventory.materials());
        page.addAttribute("kinematics", PrinterFields.KINEMATICS);
        page.addAttribute("board", PrinterFields.BOARD);
        page.addAttribute("preparation", PrinterFields.PREPARATION);
        return form("printer", id, values, problems, page);
    }

    private String spoolForm(String id, MultiValueMap<String, String> values, List<String> problems, Model page) {
        page.addAttribute("materials", inventory.materials());
        return form("spool", id, values, problems, page);
    }

    private static String form(String kind, String id, MultiValueMap<String, String> values, List<String> problems,
                               Model page) {
        page.addAttribute("id", id);
        page.addAttribute("tariff", TariffFields.ALL);
        page.addAttribute("isNew", id.equals(NEW));
        page.addAttribute("v", values.toSingleValueMap());
        page.addAttribute("all", values);
        page.addAttribute("problems", problems);
        return "stores/" + kind;
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
        Optional<StockNozzle> nozzle = inventory.nozzle(nozzleId);
        if (nozzle.isEmpty()) {
            form.problem("Choose one of the lab's nozzles.");
        }
        form.made(() -> new PrintLimits(0.4, 0.2, gap, bridge));
        OwnWay ownWay = new OwnWay(form.text("ownStart"), form.text("ownEnd"));
        Optional<StockPrinter> stock = form.made(() -> new StockPrinter(new Printer(key, name, new Bed(width, depth, height, keepOut),
                nozzle.orElseThrow().nozzle(), PrinterFields.kinematics(k, b), PrinterFields.preparation(p), filament,
                form.flag("enclosed"), maxNozzle, maxBed, new HashSet<>(form.all("materialId")), ownWay), nozzleId, gap, bridge, form.flag("raftAlways"),
                form.flag("outOfOrder")));
        stock.ifPresent(made -> Stream.of(ownWay.start(), ownWay.end())
                .forEach(text -> OwnWayCheck.of(text, made.printer()).forEach(form::problem)));
        return form.fine() ? stock : Optional.empty();
    }

    private static double[] numbers(FormValues form, List<? extends PrinterFields.Field<?>> fields) {
        return fields.stream().mapToDouble(field -> form.number(field.name(), field.label())).toArray();
    }

    /** One zone a line: left, front, right and back in millimetres. */
    private static List<Bed.Zone> zones(FormValues form) {
        List<Bed.Zone> zones = new ArrayList<>();
        for (String line : form.text("keepOut").lines().filter(text -> !text.isBlank()).toList()) {
            try {
                double[] sides = java.util.Arrays.stream(line.strip().split("[\\s,;]+"))
                        .mapToDouble(Double::parseDouble).toArray();
                zones.add(new Bed.Zone(sides[0], sides[1], sides[2], sides[3]));
            } catch (NumberFormatException | ArrayIndexOutOfBoundsException e) {
                form.problem("A keep-out zone takes four numbers: left, front, right, back. “" + line.strip()
                        + "” was given.");
            } catch (OutOfRange e) {
                form.problem(e.getMessage());
            }
        }
        return zones;
    }

    private static MultiValueMap<String, String> printerDefaults() {
        MultiValueMap<String, String> values =
                values(StockPrinter.usual(BuiltIn.printer("standard").orElseThrow(), 0, false));
        values.set("name", "");
        return values;
    }

    private static MultiValueMap<String, String> values(StockPrinter stock) {
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
        flag(values, "outOfOrder", stock.outOfOrder());
        values.put("materialId", new ArrayList<>(printer.materialIds()));
        values.set(Seen.FIELD, Seen.of(stock));
        return values;
    }

    private static void flag(MultiValueMap<String, String> values, String name, boolean set) {
        if (set) {
            values.set(name, "on");
        }
    }

    /** A new key from a name: lower case letters and digits, made unique. */
    private static String key(String name, List<String> taken) {
        String plain = name.toLowerCase(Locale.ROOT).replaceAll("[^a-z0-9]+", "-").replaceAll("^-|-$", "");
        String base = plain.isEmpty() || plain.equals(NEW) ? "item" : plain;
        String key = base;
        for (int i = 2; taken.contains(key); i++) {
            key = base + "-" + i;
        }
        return key;
    }

    private static long number(String id) {
        try {
            return Long.parseLong(id);
        } catch (NumberFormatException e) {
            throw new NoSuchElementException();
        }
    }

    private static String plain(double value) {
        return Spoken.number(value, 3);
    }

    private static LocalDate date(FormValues form, String name, String label) {
        try {
            return form.text(name).isEmpty() ? null : LocalDate.parse(form.text(name));
        } catch (DateTimeParseException e) {
            form.problem(label + " takes a date.");
            return null;
        }
    }

    private static LocalTime time(FormValues form, String name, String label) {
        try {
            return LocalTime.parse(form.text(name));
        } catch (DateTimeParseException e) {
            form.problem(label + " takes a time such as 09:30.");
            return null;
        }
    }
}
