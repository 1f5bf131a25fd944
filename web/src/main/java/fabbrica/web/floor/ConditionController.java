package fabbrica.web.floor;

import fabbrica.core.schedule.Schedule.Slot;
import fabbrica.web.plan.Elsewhere;
import fabbrica.web.plan.Forecasts;
import fabbrica.web.plan.LaidPlate;
import fabbrica.web.plan.Plates;
import fabbrica.web.platform.Back;
import fabbrica.web.platform.FormValues;
import fabbrica.web.platform.Moments;
import fabbrica.web.platform.Refusal;
import fabbrica.web.platform.Seen;
import fabbrica.web.stores.Condition;
import fabbrica.web.stores.Inventory;
import fabbrica.web.stores.StockPrinter;
import java.security.Principal;
import java.time.Instant;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Controller;
import org.springframework.ui.Model;
import org.springframework.util.MultiValueMap;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.servlet.mvc.support.RedirectAttributes;

/** A printer that is out of order, or in order again: whom that hits, and what can be moved. */
@Controller
class ConditionController {

    private final Inventory inventory;
    private final Forecasts forecasts;
    private final Runs runs;
    private final Plates plates;
    private final Elsewhere elsewhere;
    private final Claims claims;
    private final Moments moments;

    ConditionController(Inventory inventory, Forecasts forecasts, Runs runs, Plates plates, Elsewhere elsewhere, Claims claims, Moments moments) {
        this.inventory = inventory;
        this.forecasts = forecasts;
        this.runs = runs;
        this.plates = plates;
        this.elsewhere = elsewhere;
        this.claims = claims;
        this.moments = moments;
    }

    /**
     * A plate that waits for the printer.
     *
     * @param expected when it is printed as things are; nothing when nobody knows
     * @param neededBy the earliest moment by which one of its tickets is needed; null when there is no hurry
     */
    record Hit(LaidPlate plate, Optional<Slot> expected, @Nullable Instant neededBy) {

        /** Whether it is too late for somebody, as far as anybody knows. */
        public boolean late() {
            return neededBy != null && expected.map(slot -> slot.handOut().isAfter(neededBy)).orElse(true);
        }
    }

    /** @param running null while it is idle */
    record ConditionPage(StockPrinter printer, @Nullable Run running, List<Hit> hits, Map<String, String> values) {
    }

    @GetMapping("/floor/printers/{id}")
    String condition(@PathVariable String id, Model page) {
        return condition(id, page, List.of());
    }

    private String condition(String id, Model page, List<String> problems) {
        Condition condition = inventory.printer(id).orElseThrow().condition();
        Map<String, String> values = new HashMap<>(Map.of("reason", condition.unproved() ? "" : condition.reason()));
        values.put("until", condition.until() == null ? "" : moments.forInput(condition.until()));
        return condition(id, values, problems, page);
    }

    private String condition(String id, Map<String, String> values, List<String> problems, Model page) {
        Forecasts.Floor floor = forecasts.floor();
        List<LaidPlate> waiting = floor.waiting().stream().filter(plate -> plate.plan().printerId().equals(id)).toList();
        Map<Long, Instant> needed = claims.needed(waiting);
        page.addAttribute("problems", problems);
        page.addAttribute("page", new ConditionPage(inventory.printer(id).orElseThrow(),
                runs.running().stream().filter(run -> run.printerId().equals(id)).findFirst().orElse(null),
                waiting.stream().map(plate -> new Hit(plate, floor.of(plate), needed.get(plate.id()))).toList(), values));
        return "floor/condition";
    }

    @PostMapping("/floor/printers/{id}")
    String change(@PathVariable String id, @RequestParam MultiValueMap<String, String> values, Principal who, Model page, RedirectAttributes flash) {
        FormValues form = new FormValues(values);
        boolean down = form.flag("down"), unproved = form.flag("unproved");
        Instant until = form.moment("until", "Expected back").map(moments::at).orElse(null);
        if (down && form.text("reason").isEmpty()) {
            form.problem("Say what is wrong with it: the next one on duty will want to know.");
        }
        if (down && until != null && until.isBefore(moments.now())) {
            form.problem("It cannot be expected back in the past.");
        }
        if (!form.fine()) {
            return condition(id, values.toSingleValueMap(), form.problems(), page);
        }
        StockPrinter printer = Seen.unchanged(inventory.printer(id).orElseThrow(), form);
        inventory.change(printer, printer.with(down ? Condition.down(form.text("reason"), until) : unproved ? Condition.unproved("it was repaired")
                : Condition.READY), who.getName());
        flash.addFlashAttribute("told", down ? printer.name() + " is out of order. What waits for it is listed below." : unproved
                ? "It was repaired. Once its first print is checked, it prints for members again." : printer.name() + " is in order again.");
        return Back.to(form, down ? "/floor/printers/" + id : unproved ? "/floor/printers/%s/first-print".formatted(id) : "/floor");
    }

    /** Where else one plate could be printed, asked for by itself. */
    record ElsewherePage(LaidPlate plate, List<Elsewhere.Choice> choices) {
    }

    @GetMapping("/floor/plates/{plate}/elsewhere")
    String elsewhere(@PathVariable long plate, Model page) {
        LaidPlate waiting = plates.plate(plate);
        page.addAttribute("page", new ElsewherePage(waiting, waiting.waits() ? elsewhere.of(waiting, forecasts.floor()) : List.of()));
        return "floor/condition :: elsewhere";
    }

    @PostMapping("/floor/plates/{plate}/move")
    String move(@PathVariable long plate, @RequestParam MultiValueMap<String, String> values, Principal who, Model page, RedirectAttributes flash) {
        FormValues form = new FormValues(values);
        LaidPlate seen = plates.plate(plate);
        StockPrinter from = inventory.printer(seen.plan().printerId()).orElseThrow();
        StockPrinter to = inventory.printer(form.text("printer")).orElseThrow(() -> new Refusal("Choose a printer."));
        try {
            String why = from.outOfOrder() ? "%s is %s".formatted(from.name(), from.condition().said()) : "to make room on " + from.name();
            elsewhere.move(Seen.unchanged(seen, form), to, why, who.getName());
        } catch (Refusal refusal) {
            return condition(from.id(), page, List.of(String.valueOf(refusal.getMessage())));
        }
        flash.addFlashAttribute("told", "%s waits for %s now.".formatted(seen.name(), to.name()));
        return "redirect:/floor/printers/" + from.id();
    }
}
