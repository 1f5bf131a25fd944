package fabbrica.web.ledger;

import fabbrica.core.ledger.Outlay;
import fabbrica.core.ledger.Upgrade;
import fabbrica.core.recipe.Kinematics;
import fabbrica.core.recipe.Nozzle;
import fabbrica.core.recipe.Printer;
import fabbrica.core.units.OutOfRange;
import fabbrica.web.floor.Run;
import fabbrica.web.floor.RunFilter;
import fabbrica.web.floor.Runs;
import fabbrica.web.plan.Upgrades;
import fabbrica.web.plan.Upgrades.Replayed;
import fabbrica.web.platform.FormValues;
import fabbrica.web.platform.Moments;
import fabbrica.web.platform.Standing;
import fabbrica.web.stores.Inventory;
import fabbrica.web.stores.StockPrinter;
import java.time.Duration;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.function.Function;
import java.util.stream.Collectors;
import java.util.stream.Stream;
import org.springframework.stereotype.Controller;
import org.springframework.ui.Model;
import org.springframework.util.MultiValueMap;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.RequestParam;

/** Is an upgrade worth it: the latest runs again, in thought, on another machine. */
@Controller
@RequestMapping("/ledger/upgrade")
class UpgradeController {

    private static final int USUAL_RUNS = 20;
    private static final int MOST_RUNS = 200;

    private final Runs runs;
    private final Upgrades upgrades;
    private final Inventory inventory;
    private final Moments moments;

    UpgradeController(Runs runs, Upgrades upgrades, Inventory inventory, Moments moments) {
        this.runs = runs;
        this.upgrades = upgrades;
        this.inventory = inventory;
        this.moments = moments;
    }

    /**
     * What is asked.
     *
     * @param printerId whose runs; empty for those of all
     * @param as        the machine on which they are replayed
     * @param price     of the upgrade; 0 when nobody has said
     */
    private record Asked(String printerId, int runs, StockPrinter as, double price) {
    }

    @GetMapping
    String upgrade(@RequestParam MultiValueMap<String, String> values, Model page) {
        return page(values, page, "ledger/upgrade");
    }

    /** What came of it, as long as it is being worked out. */
    @GetMapping("/outcome")
    String outcome(@RequestParam MultiValueMap<String, String> values, Model page) {
        return page(values, page, "ledger/upgrade :: outcome");
    }

    @PostMapping("/stop/{job}")
    String stop(@PathVariable long job) {
        upgrades.stop(job);
        return "plan/plan :: stopped";
    }

    private String page(MultiValueMap<String, String> values, Model page, String view) {
        FormValues form = new FormValues(values);
        Optional<Asked> asked = form.text("as").isEmpty() ? Optional.empty() : asked(form);
        page.addAttribute("v", values.toSingleValueMap());
        page.addAttribute("problems", form.problems());
        page.addAttribute("page", new UpgradePage(inventory.printers(), inventory.lab().currency(), LedgerController.query(values), asked.map(this::outcome).orElse(null)));
        return view;
    }

    private Optional<Asked> asked(FormValues form) {
        int count = form.text("runs").isEmpty() ? USUAL_RUNS : form.count("runs", "Runs");
        double bore = said(form, "bore", "Bore"), flow = said(form, "flow", "Flow"), acceleration = said(form, "acceleration", "Acceleration"), speed = said(form, "speed", "Top speed"),
                price = said(form, "price", "Price");
        return form.made(() -> {
            StockPrinter as = inventory.printer(form.text("as")).orElseThrow(() -> new OutOfRange("Choose a printer of the lab to begin from."));
            return new Asked(form.text("printer"), OutOfRange.check("Runs", count, 1, MOST_RUNS), as.with(with(as.printer(), bore, flow, acceleration, speed)),
                    OutOfRange.check("Price", price, 0, 1_000_000, ""));
        });
    }

    /** 0 when nothing is. */
    private static double said(FormValues form, String name, String label) {
        return form.text(name).isEmpty() ? 0 : form.number(name, label);
    }

    private static Printer with(Printer printer, double bore, double flow, double acceleration, double speed) {
        Kinematics kinematics = printer.kinematics();
        kinematics = flow == 0 ? kinematics : kinematics.withMaxFlow(flow);
        kinematics = acceleration == 0 ? kinematics : kinematics.withAcceleration(acceleration);
        kinematics = speed == 0 ? kinematics : kinematics.withMaxSpeed(speed);
        return (bore == 0 ? printer : printer.with(new Nozzle(bore, printer.nozzle().hardened()))).with(kinematics);
    }

    private Standing<UpgradePage.Outcome> outcome(Asked asked) {
        List<Run> latest = runs.runs(new RunFilter(asked.printerId(), Run.State.DONE, null, null, ""), null, asked.runs());
        return upgrades.of(latest.stream().map(Run::plateId).toList(), asked.as()).map(replayed -> outcome(asked, latest, replayed));
    }

    private UpgradePage.Outcome outcome(Asked asked, List<Run> latest, List<Replayed> replayed) {
        Map<Long, Replayed> byPlate = replayed.stream().collect(Collectors.toMap(Replayed::plate, Function.identity(), (one, again) -> one));
        List<UpgradePage.Row> rows = new ArrayList<>();
        List<UpgradePage.LeftOut> leftOut = new ArrayList<>();
        for (Run run : latest) {
            Replayed there = byPlate.get(run.plateId());
            if (there != null && there.was() != null && there.would() != null) {
                rows.add(new UpgradePage.Row(run, there.was(), there.would()));
            } else if (there != null) {
                leftOut.add(new UpgradePage.LeftOut(run, there.why()));
            }
        }
        double days = rows.isEmpty() ? 1 : Math.max(1, Duration.between(rows.getLast().run().startedAt(), moments.now()).toMinutes() / 1440.0);
        return new UpgradePage.Outcome(new Upgrade(sum(rows.stream().map(UpgradePage.Row::was)), sum(rows.stream().map(UpgradePage.Row::would)), days), rows, leftOut, inventory.lab().currency(), asked.price());
    }

    private static Outlay sum(Stream<Outlay> outlays) {
        return outlays.reduce(Outlay.NOTHING, Outlay::plus);
    }
}
