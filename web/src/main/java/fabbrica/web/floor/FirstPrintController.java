package fabbrica.web.floor;

import fabbrica.core.estimate.Estimate;
import fabbrica.core.gcode.GcodeFile;
import fabbrica.core.judge.FirstPrint;
import fabbrica.core.recipe.Material;
import fabbrica.core.units.Spoken;
import fabbrica.web.plan.FirstPrints;
import fabbrica.web.platform.Attachment;
import fabbrica.web.platform.FormValues;
import fabbrica.web.platform.Refusal;
import fabbrica.web.platform.Seen;
import fabbrica.web.stores.Inventory;
import fabbrica.web.stores.Spools;
import fabbrica.web.stores.StockPrinter;
import jakarta.servlet.http.HttpServletResponse;
import java.io.IOException;
import java.security.Principal;
import java.util.Comparator;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import org.springframework.stereotype.Controller;
import org.springframework.ui.Model;
import org.springframework.util.MultiValueMap;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.servlet.mvc.support.RedirectAttributes;

/** A printer's first print after it came, was moved or repaired: the cube, what it should come to, and what it did. */
@Controller
@RequestMapping("/floor/printers/{id}/first-print")
class FirstPrintController {

    private final Inventory inventory;
    private final Spools spools;
    private final FirstPrints prints;

    FirstPrintController(Inventory inventory, Spools spools, FirstPrints prints) {
        this.inventory = inventory;
        this.spools = spools;
        this.prints = prints;
    }

    /** @param values of the form, as they were sent last */
    record FirstPrintPage(StockPrinter printer, Material material, Estimate estimate, double sideMm, Map<String, String> values) {
    }

    @GetMapping
    String show(@PathVariable String id, Model page) {
        return show(printer(id), Map.of(), List.of(), page);
    }

    private String show(StockPrinter printer, Map<String, String> values, List<String> problems, Model page) {
        Material material = material(printer);
        page.addAttribute("problems", problems);
        page.addAttribute("page", new FirstPrintPage(printer, material, prints.estimate(printer, material), FirstPrint.SIDE_MM, values));
        return "floor/first-print";
    }

    @GetMapping("/gcode")
    void file(@PathVariable String id, HttpServletResponse response) throws IOException {
        StockPrinter printer = printer(id);
        Attachment.head(response, "text/plain; charset=utf-8", GcodeFile.name("First print", "cube", printer.printer()));
        prints.file(printer, material(printer)).write(response.getOutputStream());
    }

    /** Judges the cube; the printer is in order again when nothing is off, else what is off is said. */
    @PostMapping
    String check(@PathVariable String id, @RequestParam MultiValueMap<String, String> values, Principal who, Model page, RedirectAttributes flash) {
        FormValues form = new FormValues(values);
        StockPrinter printer = Seen.unchanged(printer(id), form);
        double minutes = form.number("minutes", "The time it took"), x = form.number("x", "Its width"), y = form.number("y", "Its depth"), z = form.number("z", "Its height");
        Optional<FirstPrint> print = form.made(() -> new FirstPrint(minutes, x, y, z, form.flag("sound")));
        if (print.isEmpty() || !form.fine()) {
            return show(printer, values.toSingleValueMap(), form.problems(), page);
        }
        List<String> off = print.get().off(prints.estimate(printer, material(printer)).totalSeconds() / 60);
        inventory.checkFirstPrint(printer, print.get(), off, who.getName());
        if (!off.isEmpty()) {
            return show(printer(id), values.toSingleValueMap(), off, page);
        }
        flash.addFlashAttribute("told", "%s prints true: %s in %s min. It is %s.".formatted(printer.name(), Spoken.size(x, y, z), Spoken.number(minutes, 0),
                printer(id).condition().said()));
        return "redirect:/floor";
    }

    /** It prints for members without a check, for a reason. */
    @PostMapping("/trusted")
    String trust(@PathVariable String id, @RequestParam MultiValueMap<String, String> values, Principal who, Model page, RedirectAttributes flash) {
        FormValues form = new FormValues(values);
        StockPrinter printer = Seen.unchanged(printer(id), form);
        String why = form.required("why", "Why it needs no check");
        if (!form.fine()) {
            return show(printer, values.toSingleValueMap(), form.problems(), page);
        }
        inventory.trust(printer, why, who.getName());
        flash.addFlashAttribute("told", printer.name() + " is in order, without a check.");
        return "redirect:/floor";
    }

    private StockPrinter printer(String id) {
        return inventory.printer(id).orElseThrow();
    }

    /** What is loaded, else the coolest that the printer may print. */
    private Material material(StockPrinter printer) {
        return spools.shelf().stream().filter(spool -> printer.id().equals(spool.loadedIn())).findFirst().flatMap(spool -> inventory.material(spool.spool().materialId()))
                .or(() -> inventory.materials().stream().filter(material -> !material.abrasive() && printer.printer().materialIds().contains(material.id()))
                        .min(Comparator.comparing(Material::nozzleC)))
                .orElseThrow(() -> new Refusal("%s may print no material yet. Say in the Stores which it may.".formatted(printer.name())));
    }
}
