package fabbrica.web.plan;

import fabbrica.core.judge.Obstacle;
import fabbrica.core.recipe.Plate;
import fabbrica.core.recipe.Printer;
import fabbrica.core.recipe.Recipe;
import fabbrica.core.recipe.Refit;
import fabbrica.core.schedule.Schedule.Slot;
import fabbrica.web.platform.Refusal;
import fabbrica.web.stores.Inventory;
import fabbrica.web.stores.StockPrinter;
import fabbrica.web.stores.StockSpool;
import java.time.Instant;
import java.util.Comparator;
import java.util.List;
import java.util.Objects;
import java.util.Optional;
import java.util.stream.IntStream;
import org.springframework.stereotype.Service;

/** Where else a plate that waits could be printed: its copies laid anew there, its recipe fitted to the nozzle, from the same spool. */
@Service
public class Elsewhere {

    private final Plates plates;
    private final Planning planning;
    private final Laying laying;
    private final Inventory inventory;

    Elsewhere(Plates plates, Planning planning, Laying laying, Inventory inventory) {
        this.plates = plates;
        this.planning = planning;
        this.laying = laying;
        this.inventory = inventory;
    }

    /** Another printer on which nothing stops a plate, and when it would be printed there; nothing when nobody knows. */
    public record Choice(StockPrinter printer, Optional<Slot> slot) {

        private static final Comparator<Choice> SOONEST = Comparator.comparing(choice -> choice.slot().map(Slot::end).orElse(Instant.MAX));
    }

    /** The soonest first, as if it took as long there as where it waits. */
    public List<Choice> of(LaidPlate plate, Forecasts.Floor floor) {
        Promise promise = Objects.requireNonNull(plate.promise());
        Optional<StockSpool> spool = planning.spool(plate.plan().entry());
        if (spool.isEmpty()) {
            return List.of();
        }
        Judging.Bench bench = plates.bench(plate);
        return floor.printers().stream().filter(printer -> !printer.outOfOrder() && !printer.id().equals(plate.plan().printerId())).filter(printer -> {
            Carried carried = carried(plate, printer);
            Printer asItIs = carried.entry().on(printer.printer());
            return bench.planned(carried.plate(), laying.layout(carried.plate(), asItIs), printer, asItIs, bench.material(spool.get()), spool.get(), 0,
                    Optional.of(promise.inAll())).stream().noneMatch(Obstacle::stops);
        }).map(printer -> new Choice(printer, floor.after(printer.id(), List.of(promise.takes()), spool.get().id(), List.of()).stream().findFirst()))
                .sorted(Choice.SOONEST).toList();
    }

    /**
     * Moves a plate that waits into another printer's queue.
     *
     * @throws Refusal with the reasons when it cannot be printed there
     */
    public void move(LaidPlate seen, StockPrinter to, String why, String who) {
        Carried carried = carried(seen, to);
        StockSpool spool = planning.spool(carried.entry()).orElseThrow(() -> new Refusal(
                "The spool of this plate is no longer on the shelf. Put the plate back and choose another one."));
        Promise promise = planning.settle(plates.bench(seen), new Plan(0, carried.entry()), to, spool, List.of(carried.plate()), plates.promisedBut(seen))
                .promises().getFirst();
        plates.moved(seen, carried.entry(), carried.plate().copies().stream().map(Plate.Copy::place).toList(), promise, why, who);
    }

    /** A plate as it would be printed on another printer. */
    private record Carried(PlanEntry entry, Plate plate) {
    }

    private Carried carried(LaidPlate plate, StockPrinter to) {
        PlanEntry there = plate.plan().entry();
        Recipe recipe = inventory.printer(there.printerId()).map(from -> Refit.of(there.recipe(), usual(there, from), usual(there, to),
                to.printer().nozzle()).recipe()).orElse(there.recipe());
        PlanEntry entry = there.with(recipe, to.id());
        List<Plate.Place> places = plates.nested(plate, entry, plate.sequence());
        return new Carried(entry, new Plate(IntStream.range(0, places.size())
                .mapToObj(i -> new Plate.Copy(plate.copies().get(i).copy().part(), places.get(i))).toList(), plate.sequence(), recipe));
    }

    private static Recipe usual(PlanEntry entry, StockPrinter printer) {
        return entry.start().recipe(printer.printer().nozzle(), printer.printer().kinematics());
    }
}
