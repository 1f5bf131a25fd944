package fabbrica.web.stores;

import fabbrica.core.bed.Bed;
import fabbrica.core.judge.UsedBy;
import fabbrica.core.recipe.Material;
import fabbrica.core.recipe.Nozzle;
import fabbrica.core.recipe.Printer;
import fabbrica.web.platform.Back;
import fabbrica.web.platform.FormValues;
import java.security.Principal;
import java.util.Arrays;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.stream.Collectors;
import org.springframework.stereotype.Controller;
import org.springframework.ui.Model;
import org.springframework.util.LinkedMultiValueMap;
import org.springframework.util.MultiValueMap;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.servlet.mvc.support.RedirectAttributes;

/** A first printer and what is in it, from what somebody can measure, read off or see who stands beside it. */
@Controller
@RequestMapping("/stores/first")
class FirstController {

    /** A full reel (common practice, no source). */
    private static final double FULL_G = 1000;
    private static final List<Double> BORES = List.of(0.25, 0.4, 0.6, 0.8);
    private static final List<Double> FILAMENTS = List.of(1.75, 2.85);

    private final Inventory inventory;
    private final Spools spools;
    private final StoresForms forms;

    FirstController(Inventory inventory, Spools spools, StoresForms forms) {
        this.inventory = inventory;
        this.spools = spools;
        this.forms = forms;
    }

    /** What can be chosen. */
    record FirstPage(List<Double> bores, List<Double> filaments, Manner[] manners, UsedBy[] usedBy, List<Material> materials, String currency) {
    }

    @GetMapping
    String first(Model page) {
        MultiValueMap<String, String> values = new LinkedMultiValueMap<>();
        values.setAll(Map.of("width", "220", "depth", "220", "height", "250", "bore", "0.4", "filament", "1.75", "manner", Manner.STEADY.name(), "usedBy",
                UsedBy.EVERYBODY.name(), "materialId", "pla", "remainingG", "1000", "pricePerKg", "25"));
        values.setAll(Map.of("maxNozzleC", "260", "maxBedC", "100"));
        return form(values, List.of(), page);
    }

    @PostMapping
    String save(@RequestParam MultiValueMap<String, String> values, Principal who, Model page, RedirectAttributes flash) {
        FormValues form = new FormValues(values);
        Optional<Material> material = inventory.material(form.text("materialId"));
        if (material.isEmpty()) {
            form.problem("Choose what the filament is made of.");
        }
        String colour = form.required("colour", "The colour of the filament");
        double left = form.number("remainingG", "What is left on the reel"), price = form.number("pricePerKg", "The price");
        Optional<Printer> printer = printer(form);
        Optional<SpoolEntry> spool = form.made(() -> new SpoolEntry(null, material.orElseThrow().id(), colour, "", Math.max(left, FULL_G), null,
                form.number("filament", "Filament"), "", price, null, null, false));
        if (printer.isEmpty() || spool.isEmpty() || !form.fine()) {
            return form(values, form.problems(), page);
        }
        forms.once(form, () -> {
            StockPrinter stock = StockPrinter.usual(printer.get(), nozzle(printer.get().nozzle(), who.getName())).usedBy(StoresForms.usedBy(form));
            inventory.add(stock, who.getName());
            long id = spools.add(spool.get(), left, who.getName());
            spools.load(spools.spool(id).orElseThrow(), stock.id(), who.getName());
        });
        flash.addFlashAttribute("told", "%s can print now, with %s, %s. Next: what is to be printed.".formatted(printer.get().name(), material.orElseThrow().name(), colour));
        return Back.to(form, "/counter");
    }

    private Optional<Printer> printer(FormValues form) {
        String name = form.required("name", "What people call it");
        double width = form.number("width", "The width of the plate"), depth = form.number("depth", "The depth of the plate"),
                height = form.number("height", "How high it can print");
        double bore = form.number("bore", "The nozzle"), filament = form.number("filament", "The filament");
        int nozzleC = form.count("maxNozzleC", "How hot the nozzle may be"), bedC = form.count("maxBedC", "How hot the plate may be");
        boolean enclosed = form.flag("enclosed");
        Set<String> suits = inventory.materials().stream().filter(each -> each.nozzleC() <= nozzleC && each.bedC() <= bedC && !each.abrasive() && (enclosed || !each.enclosed()))
                .map(Material::id).collect(Collectors.toSet());
        Optional<Manner> manner = Arrays.stream(Manner.values()).filter(each -> each.name().equals(form.text("manner"))).findFirst();
        if (manner.isEmpty()) {
            form.problem("Choose how it goes about its work.");
        }
        String key = StoresForms.key(name, inventory.printers().stream().map(StockPrinter::id).toList());
        return form.made(() -> new Printer(key, name, Bed.of(width, depth, height), new Nozzle(bore, false), manner.orElseThrow().kinematics(),
                manner.orElseThrow().preparation(), filament,
                enclosed, nozzleC, bedC, suits));
    }

    /** One of that bore that lies in its drawer, or one more. */
    private long nozzle(Nozzle wanted, String who) {
        return inventory.nozzles().stream().filter(nozzle -> nozzle.mountedIn() == null && nozzle.nozzle().equals(wanted)).findFirst().map(StockNozzle::id)
                .orElseGet(() -> inventory.add(wanted, "", "", 0, who));
    }

    private String form(MultiValueMap<String, String> values, List<String> problems, Model page) {
        page.addAttribute("page", new FirstPage(BORES, FILAMENTS, Manner.values(), UsedBy.values(), inventory.materials(), inventory.lab().currency().getCurrencyCode()));
        return forms.page("first", StoresForms.NEW, values, problems, page);
    }
}
