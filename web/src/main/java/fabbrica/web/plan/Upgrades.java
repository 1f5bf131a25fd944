package fabbrica.web.plan;

import fabbrica.core.ledger.Outlay;
import fabbrica.core.printing.Nester;
import fabbrica.core.printing.Nester.Wanted;
import fabbrica.core.recipe.Material;
import fabbrica.core.recipe.Part;
import fabbrica.core.recipe.Plate;
import fabbrica.core.recipe.Printer;
import fabbrica.core.recipe.Recipe;
import fabbrica.core.recipe.Spool;
import fabbrica.core.units.Progress;
import fabbrica.web.platform.Caches;
import fabbrica.web.platform.Meshes;
import fabbrica.web.platform.Shop;
import fabbrica.web.platform.Standing;
import fabbrica.web.platform.Works;
import fabbrica.web.stores.Inventory;
import fabbrica.web.stores.Spools;
import fabbrica.web.stores.StockPrinter;
import jakarta.annotation.PreDestroy;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.Optional;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Service;

/** Prints plates again, in thought, on another machine: the same parts, the recipe fitted to its nozzle, worked out anew on both. */
@Service
public class Upgrades {

    private final Plates plates;
    private final Laying laying;
    private final Inventory inventory;
    private final Spools spools;
    private final Meshes meshes;
    private final Shop shop;
    private final Expectations expectations;
    private final Works<Asked, List<Replayed>> works = new Works<>(Caches.of(20).build(), "It could not be worked out. Try fewer runs, or another machine.", this::work);

    Upgrades(Plates plates, Laying laying, Inventory inventory, Spools spools, Meshes meshes, Shop shop, Expectations expectations) {
        this.plates = plates;
        this.laying = laying;
        this.inventory = inventory;
        this.spools = spools;
        this.meshes = meshes;
        this.shop = shop;
        this.expectations = expectations;
    }

    private record Asked(List<Long> plates, StockPrinter as) {
    }

    /**
     * A plate on both machines.
     *
     * @param would null when it cannot be printed on the other, for the reason {@code why}
     */
    public record Replayed(long plate, @Nullable Outlay was, @Nullable Outlay would, String why) {

        private static Replayed not(long plate, String why) {
            return new Replayed(plate, null, null, why);
        }
    }

    /**
     * Where it stands; starts working on it when nobody has asked before.
     *
     * @param as the other machine, which need not be there
     */
    public Standing<List<Replayed>> of(List<Long> some, StockPrinter as) {
        return works.askPatiently(new Asked(List.copyOf(some), as));
    }

    public void stop(long jobNumber) {
        works.stop(jobNumber);
    }

    @PreDestroy
    void close() {
        works.close();
    }

    private List<Replayed> work(Asked asked, Progress progress) {
        List<Replayed> replayed = new ArrayList<>();
        for (long plate : asked.plates()) {
            progress.check();
            replayed.add(replayed(plates.plate(plate), asked.as()));
            progress.reached(replayed.size() / (double) asked.plates().size());
        }
        return replayed;
    }

    private Replayed replayed(LaidPlate plate, StockPrinter as) {
        PlanEntry entry = plate.plan().entry();
        StockPrinter from = inventory.printer(entry.printerId()).orElseThrow();
        Spool spool = spools.spool(Objects.requireNonNull(entry.spoolId())).orElseThrow().spool();
        Material material = inventory.material(spool.materialId()).orElseThrow();
        if (!meshes.isKept(plate.plate())) {
            return Replayed.not(plate.id(), "its model is no longer kept");
        }
        if (laying.isFixed(plate.plate())) {
            return Replayed.not(plate.id(), "it came sliced for its machine");
        }
        if (!as.printer().materialIds().contains(material.id())) {
            return Replayed.not(plate.id(), "%s is not printed there".formatted(material.name()));
        }
        List<Plate> there = laid(plate, entry.refitted(from.printer(), as.printer()), as.printer());
        if (there.isEmpty()) {
            return Replayed.not(plate.id(), "it does not fit on the bed");
        }
        return new Replayed(plate.id(), outlay(plate.plate(), entry.on(from.printer()), from, spool, material),
                there.stream().map(each -> outlay(each, as.printer(), as, spool, material)).reduce(Outlay.NOTHING, Outlay::plus), "");
    }

    private Outlay outlay(Plate plate, Printer asItIs, StockPrinter printer, Spool spool, Material material) {
        return Outlay.of(expectations.await(new Shop.Request(plate, asItIs, material)), spool, printer.cost(), inventory.lab().tariff());
    }

    /** On as many plates as it takes; on none when a copy fits on no plate. */
    private List<Plate> laid(LaidPlate plate, Recipe recipe, Printer printer) {
        Map<Part, Integer> wanted = new LinkedHashMap<>();
        plate.copies().forEach(copy -> wanted.merge(copy.copy().part(), 1, Integer::sum));
        Optional<Part> only = plate.copies().size() == 1 ? Optional.of(plate.copies().getFirst().copy().part()) : Optional.empty();
        Nester nester = only.map(part -> laying.lay(part, recipe, printer, 1))
                .orElseGet(() -> laying.lay(wanted.entrySet().stream().map(each -> new Wanted(each.getKey(), each.getValue())).toList(), recipe, printer, plate.sequence()));
        return nester.tooMany().stream().allMatch(left -> left == 0) ? nester.plates() : List.of();
    }
}
