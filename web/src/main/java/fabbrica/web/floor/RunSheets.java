package fabbrica.web.floor;

import fabbrica.core.inspect.Finding;
import fabbrica.core.inspect.Findings;
import fabbrica.core.recipe.Material;
import fabbrica.core.recipe.Plate;
import fabbrica.core.run.Remedy;
import fabbrica.core.run.RunSheet;
import fabbrica.core.schedule.Span;
import fabbrica.web.machine.Machines;
import fabbrica.web.plan.LaidPlate;
import fabbrica.web.plan.PlateFiles;
import fabbrica.web.plan.Promise;
import fabbrica.web.platform.Inspections;
import fabbrica.web.platform.Moments;
import fabbrica.web.stores.Inventory;
import fabbrica.web.stores.Keyholder;
import fabbrica.web.stores.Keyholders;
import fabbrica.web.stores.Spools;
import fabbrica.web.stores.StockPrinter;
import fabbrica.web.stores.StockSpool;
import java.time.Instant;
import java.util.Comparator;
import java.util.List;
import java.util.Objects;
import org.springframework.stereotype.Component;

/** The run sheets of plates: from what stands in the Stores, what was measured on their parts, and who is there. */
@Component
class RunSheets {

    private final Inventory inventory;
    private final Spools spools;
    private final Keyholders keyholders;
    private final Inspections inspections;
    private final Machines machines;
    private final PlateFiles files;
    private final Moments moments;
    private final RetryRepository retries;

    RunSheets(Inventory inventory, Spools spools, Keyholders keyholders, Inspections inspections, Machines machines, PlateFiles files, Moments moments, RetryRepository retries) {
        this.inventory = inventory;
        this.spools = spools;
        this.keyholders = keyholders;
        this.inspections = inspections;
        this.machines = machines;
        this.files = files;
        this.moments = moments;
        this.retries = retries;
    }

    /** Of a plate that waits or prints. */
    RunSheet of(LaidPlate plate) {
        StockPrinter printer = inventory.printer(plate.plan().printerId()).orElseThrow();
        StockSpool spool = spools.spool(Objects.requireNonNull(plate.plan().spoolId())).orElseThrow();
        Material material = inventory.material(spool.spool().materialId()).orElseThrow();
        Machines.Readied readied = machines.readied(printer.id(), plate.id(), files.mark(plate));
        Promise promise = Objects.requireNonNull(plate.promise());
        RunSheet sheet = RunSheet.of(new RunSheet.Start(printer.name(), plate.fileName(printer.printer()), !readied.carried(), printer.printer().nozzle(),
                inventory.nozzleHours().getOrDefault(printer.nozzleId(), 0.0), material, "%s (spool no. %d)".formatted(spool.spool().colour(), spool.number()),
                spool.spool().remainingG(), promise.grams(), inventory.lab().policy().bedCare(), promise.prepareS(), readied.firstLayerS(),
                stays(moments.now().plus(promise.takes()))), plate.plan().recipe(), findings(plate, printer));
        return retries.of(plate.id()).filter(remedy -> remedy.kind() == Remedy.Kind.BY_HAND).map(remedy -> sheet.first("Before this try: %s.".formatted(remedy.label()))).orElse(sheet);
    }

    /** Of its parts, as far as they are measured. */
    private List<Finding> findings(LaidPlate plate, StockPrinter printer) {
        return plate.plate().copies().stream().map(Plate.Copy::part).distinct().flatMap(part -> inspections.ask(part).stream())
                .flatMap(inspection -> Findings.of(inspection, printer.limits()).stream()).toList();
    }

    /** Who is there when it ends, if it is begun now. */
    private String stays(Instant ends) {
        String when = "It ends about %s".formatted(moments.say(ends));
        return keyholders.all().stream().flatMap(one -> one.hours().at(ends).map(there -> new Stays(one, there)).stream()).max(Comparator.comparing(stays -> stays.there().to()))
                .map(stays -> "%s; %s is there until %s.".formatted(when, stays.who().name(), moments.say(stays.there().to())))
                .orElse(when + ", when nobody is there: look whether it may.");
    }

    private record Stays(Keyholder who, Span there) {
    }
}
