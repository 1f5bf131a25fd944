package fabbrica.web.stores;

import static fabbrica.web.stores.StoresForms.NEW;
import static fabbrica.web.stores.StoresForms.flag;
import static fabbrica.web.stores.StoresForms.number;
import static fabbrica.web.stores.StoresForms.optional;
import static fabbrica.web.stores.StoresForms.plain;

import fabbrica.core.recipe.Material;
import fabbrica.core.units.OutOfRange;
import fabbrica.core.units.Spoken;
import fabbrica.web.platform.Back;
import fabbrica.web.platform.FormValues;
import fabbrica.web.platform.Outdated;
import fabbrica.web.platform.QrCode;
import fabbrica.web.platform.Refusal;
import fabbrica.web.platform.Seen;
import java.security.Principal;
import java.time.LocalDate;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Controller;
import org.springframework.ui.Model;
import org.springframework.util.LinkedMultiValueMap;
import org.springframework.util.MultiValueMap;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.servlet.mvc.support.RedirectAttributes;

/** A spool's form, what came to it and went from it, the scales, and the printer it feeds. */
@Controller
@RequestMapping("/stores/spools/{id}")
class SpoolController {

    /** The largest in common use (common practice, no source). */
    private static final double LARGEST_SPOOL_G = 10_000;
    private static final int MOST_MOVEMENTS = 30;

    private final Spools spools;
    private final Inventory inventory;
    private final StoresForms forms;

    SpoolController(Spools spools, Inventory inventory, StoresForms forms) {
        this.spools = spools;
        this.inventory = inventory;
        this.forms = forms;
    }

    /** @param spool null when it is new */
    record SpoolPage(List<Material> materials, @Nullable StockSpool spool, List<StockPrinter> printers, List<Movement> movements) {
    }

    @GetMapping
    String spool(@PathVariable String id, Model page) {
        MultiValueMap<String, String> values = new LinkedMultiValueMap<>();
        if (id.equals(NEW)) {
            values.setAll(Map.of("netG", "1000", "remainingG", "", "pricePerKg", "25", "diameterMm", "1.75"));
        } else {
            StockSpool spool = spools.spool(number(id)).orElseThrow();
            values.setAll(Map.of("number", Integer.toString(spool.number()), "materialId", spool.spool().materialId(),
                    "colour", spool.spool().colour(), "place", spool.place(), "netG", plain(spool.netG()),
                    "remainingG", plain(spool.spool().remainingG()), "diameterMm", plain(spool.diameterMm()), "lot", spool.lot(),
                    "pricePerKg", plain(spool.spool().pricePerKg()), "openedOn", text(spool.openedOn())));
            values.set("driedOn", text(spool.driedOn()));
            values.set("tareG", spool.tareG() == null ? "" : plain(spool.tareG()));
            flag(values, "retired", spool.retired());
            values.set(Seen.FIELD, Seen.of(spool));
        }
        return form(id, values, List.of(), page);
    }

    /** The label that goes on the reel. */
    record LabelPage(StockSpool spool, String material, String qr) {
    }

    @GetMapping("/label")
    String label(@PathVariable long id, Model page) {
        StockSpool spool = spools.spool(id).orElseThrow();
        page.addAttribute("page", new LabelPage(spool, inventory.material(spool.spool().materialId()).map(Material::name).orElse(""), QrCode.of("/stores/spools/" + id)));
        return "stores/label";
    }

    @PostMapping
    String save(@PathVariable String id, @RequestParam MultiValueMap<String, String> values, Principal who, Model page) {
        FormValues form = new FormValues(values);
        Optional<SpoolEntry> entry = entry(form);
        double remaining = form.text("remainingG").isEmpty() && id.equals(NEW) ? entry.map(SpoolEntry::netG).orElse(1.0)
                : form.number("remainingG", "Grams left");
        form.made(() -> OutOfRange.check("Grams left", remaining, id.equals(NEW) ? 1 : -100_000, 100_000, "g"));
        if (inventory.material(form.text("materialId")).isEmpty()) {
            form.problem("Choose a material of the lab.");
        }
        double net = entry.map(SpoolEntry::netG).orElse(0.0);
        if (form.fine() && (remaining > net || net > LARGEST_SPOOL_G) && !form.flag("sure")) {
            form.problem("%s is more than %s. If it is so, tick “sure” and keep it again.".formatted(
                    Spoken.grams(Math.max(remaining, net)), remaining > net ? "the spool held when it was new" : "spools usually hold"));
            page.addAttribute("question", true);
        }
        if (!form.fine()) {
            return form(id, values, form.problems(), page);
        }
        try {
            return forms.kept(id, values, form, () -> spools.add(entry.orElseThrow(), remaining, who.getName()),
                    () -> spools.spool(number(id)).orElseThrow(),
                    seen -> spools.change(seen, entry.orElseThrow(), remaining, form.text("reason"), who.getName()),
                    problems -> {
                        String holds = plain(spools.spool(number(id)).orElseThrow().spool().remainingG());
                        values.set("remainingG", holds);
                        return form(id, values, List.of(problems.getFirst() + " It holds " + holds + " g now."), page);
                    });
        } catch (Outdated outdated) {
            throw outdated;
        } catch (Refusal refusal) {
            return form(id, values, List.of(refusal.getMessage()), page);
        }
    }

    /** Books what the scales say. */
    @PostMapping("/weigh")
    String weigh(@PathVariable long id, @RequestParam MultiValueMap<String, String> values, Principal who, RedirectAttributes flash) {
        FormValues form = new FormValues(values);
        double gross = form.number("grossG", "What the scales show");
        form.refuseIfWrong();
        spools.weigh(Seen.unchanged(spools.spool(id).orElseThrow(), form), gross, who.getName());
        flash.addFlashAttribute("told", "Weighed: %s left.".formatted(Spoken.grams(spools.spool(id).orElseThrow().spool().remainingG())));
        return Back.to(form, "/stores/spools/" + id);
    }

    /** Puts it into a printer, or back on the shelf. */
    @PostMapping("/load")
    String load(@PathVariable long id, @RequestParam MultiValueMap<String, String> values, Principal who, RedirectAttributes flash) {
        FormValues form = new FormValues(values);
        String printer = form.text("printer");
        spools.load(Seen.unchanged(spools.spool(id).orElseThrow(), form), printer.isEmpty() ? null
                : inventory.printer(printer).orElseThrow().id(), who.getName());
        flash.addFlashAttribute("told", printer.isEmpty() ? "It lies on the shelf." : "It feeds that printer now.");
        return back(id);
    }

    private static String back(long id) {
        return "redirect:/stores/spools/" + id;
    }

    private static Optional<SpoolEntry> entry(FormValues form) {
        Integer number = form.text("number").isEmpty() ? null : Integer.valueOf(form.count("number", "Number"));
        String material = form.required("materialId", "Material");
        String colour = form.required("colour", "Colour");
        double net = form.number("netG", "Plastic when new");
        Double tare = optional(form, "tareG", "Empty reel");
        double diameter = form.number("diameterMm", "Filament diameter");
        double price = form.number("pricePerKg", "Price per kg");
        LocalDate opened = form.day("openedOn", "Opened on").orElse(null);
        LocalDate dried = form.day("driedOn", "Dried on").orElse(null);
        return form.made(() -> new SpoolEntry(number, material, colour, form.text("place"), net, tare, diameter, form.text("lot"),
                price, opened, dried, form.flag("retired")));
    }

    private String form(String id, MultiValueMap<String, String> values, List<String> problems, Model page) {
        page.addAttribute("page", id.equals(NEW) ? new SpoolPage(inventory.materials(), null, List.of(), List.of()) : new SpoolPage(inventory.materials(),
                spools.spool(number(id)).orElseThrow(), inventory.printers(), spools.movements(number(id), MOST_MOVEMENTS)));
        return forms.page("spool", id, values, problems, page);
    }

    private static String text(@Nullable LocalDate day) {
        return day == null ? "" : day.toString();
    }
}
