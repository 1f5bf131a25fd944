package fabbrica.web.plan;

import fabbrica.core.judge.Obstacle;
import fabbrica.core.judge.Obstacle.Cause;
import fabbrica.core.recipe.Material;
import fabbrica.core.recipe.Plate;
import fabbrica.core.recipe.Printer;
import fabbrica.core.recipe.Recipe;
import fabbrica.core.schedule.Schedule.Slot;
import fabbrica.web.platform.Refusal;
import fabbrica.web.platform.Shop;
import fabbrica.web.stores.Inventory;
import fabbrica.web.stores.StockPrinter;
import fabbrica.web.stores.StockSpool;
import java.time.Instant;
import java.util.Comparator;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.Optional;
import java.util.stream.IntStream;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Service;

/** Where else a plate that waits could be printed: its copies laid anew there, its recipe fitted to the nozzle, from the same spool. */
@Service
public class Elsewhere {

    private final Plates plates;
    private final Planning planning;
    private final Laying laying;
    private final Inventory inventory;
    private final Expectations expectations;

    Elsewhere(Plates plates, Planning planning, Laying laying, Inventory inventory, Expectations expectations) {
        this.plates = plates;
        this.planning = planning;
        this.laying = laying;
        this.inventory = inventory;
        this.expectations = expectations;
    }

    /** Another printer on which nothing stops a plate, and when it would be printed there; nothing when nobody knows. */
    public record Choice(StockPrinter printer, Optional<Slot> slot) {

        private static final Comparator<Choice> SOONEST = Comparator.comparing(choice -> choice.slot().map(Slot::end).orElse(Instant.MAX));
    }

    /** The soonest first; as if it took as long there as where it waits, as long as nobody knows better. */
    public List<Choice> of(LaidPlate plate, Forecasts.Floor floor) {
        Promise promise = Objects.requireNonNull(plate.promise());
        return ways(plate, floor).stream().filter(way -> way.stopped().isEmpty() && !way.printer().outOfOrder() && !way.printer().id().equals(plate.plan().printerId()))
                .map(way -> new Choice(way.printer(), floor.after(way.printer().id(), List.of(way.way().map(Way::takes).orElse(promise.takes())),
                        plate.plan().spoolId(), List.of()).stream().findFirst())).sorted(Choice.SOONEST).toList();
    }

    /**
     * A printer for a plate that waits.
     *
     * @param stopped what stops it there; nothing when it can be printed there
     * @param way     how it would be printed there; nothing as long as it is being worked out, or when something stops it
     */
    public record Possible(StockPrinter printer, Optional<Obstacle> stopped, Optional<Way> way) {
    }

    /** Of each printer of the floor; what a printer's present condition stops is no obstacle, the plan waits until it is over. */
    public List<Possible> ways(LaidPlate plate, Forecasts.Floor floor) {
        return judged(plate, floor, floor.printers()).stream().map(judged -> new Possible(judged.printer(), judged.stopped(), judged.stopped().isPresent() ? Optional.empty()
                : Optional.ofNullable(judged.way()).or(() -> Planning.done(expectations.ask(judged.request())).map(expected -> Way.of(expected, judged.printer().id(),
                plate.plan().spoolId()))))).toList();
    }

    /**
     * A way to print a plate on a printer, worked out now if need be.
     *
     * @throws Refusal with the reason when it cannot be printed there
     */
    public Way way(LaidPlate plate, String printerId, Forecasts.Floor floor) {
        Judged judged = judged(plate, floor, floor.printers().stream().filter(printer -> printer.id().equals(printerId)).toList()).stream().findFirst()
                .orElseThrow(() -> new Refusal(
                "Its spool is no longer on the shelf, or that printer no longer in the stores. Look at the plate itself."));
        Planning.refuseIfStopped(judged.stopped().stream().toList());
        return judged.way() != null ? judged.way() : Way.of(expectations.await(judged.request()), printerId, plate.plan().spoolId());
    }

    /**
     * A printer as it was judged.
     *
     * @param way null where the plate does not wait for it
     */
    private record Judged(StockPrinter printer, Optional<Obstacle> stopped, Shop.Request request, @Nullable Way way) {
    }

    private List<Judged> judged(LaidPlate plate, Forecasts.Floor floor, List<StockPrinter> on) {
        Promise promise = Objects.requireNonNull(plate.promise());
        Long spoolId = plate.plan().spoolId();
        Optional<StockSpool> spool = floor.shelf().stream().filter(each -> Objects.equals(each.id(), spoolId)).findFirst();
        if (spool.isEmpty()) {
            return List.of();
        }
        Judging.Bench bench = plates.bench(plate);
        Material material = bench.material(spool.get());
        return on.stream().map(printer -> {
            boolean here = printer.id().equals(plate.plan().printerId());
            Carried carried = here ? new Carried(plate.plan().entry(), plate.plate()) : carried(plate, printer, floor.printers());
            Printer asItIs = carried.entry().on(printer.printer());
            Optional<Obstacle> stopped = bench.planned(carried.plate(), laying.layout(carried.plate(), asItIs), printer, asItIs, material, spool.get(), 0,
                    Optional.of(promise.inAll())).stream().filter(obstacle -> obstacle.stops() && obstacle.cause() != Cause.MACHINE).findFirst();
            return new Judged(printer, stopped, new Shop.Request(carried.plate(), asItIs, material), here ? Way.of(promise, printer.id(), spoolId) : null);
        }).toList();
    }

    /**
     * Moves a plate that waits into another printer's queue.
     *
     * @throws Refusal with the reasons when it cannot be printed there
     */
    public void move(LaidPlate seen, StockPrinter to, String why, String who) {
        prepare(seen, to, plates.promisedBut(seen)).keep(why, who);
    }

    /** A plate as it will wait for another printer: all is worked out, nothing is kept yet. */
    public final class Prepared {

        private final LaidPlate seen;
        private final Carried carried;
        private final Promise promise;

        private Prepared(LaidPlate seen, Carried carried, Promise promise) {
            this.seen = seen;
            this.carried = carried;
            this.promise = promise;
        }

        /** Moves it into that printer's queue. */
        public void keep(String why, String who) {
            plates.moved(seen, carried.entry(), carried.plate().copies().stream().map(Plate.Copy::place).toList(), promise, why, who);
        }
    }

    /**
     * Works out how a plate is printed on another printer.
     *
     * @param promised grams of each spool to other plates
     * @throws Refusal with the reasons when it cannot be printed there
     */
    public Prepared prepare(LaidPlate seen, StockPrinter to, Map<Long, Double> promised) {
        Carried carried = carried(seen, to, inventory.printers());
        StockSpool spool = planning.spool(carried.entry()).orElseThrow(() -> new Refusal(
                "The spool of this plate is no longer on the shelf. Put the plate back and choose another one."));
        return new Prepared(seen, carried, planning.settle(plates.bench(seen), new Plan(0, carried.entry()), to, spool, List.of(carried.plate()), promised)
                .promises().getFirst());
    }

    /** A plate as it would be printed on another printer. */
    private record Carried(PlanEntry entry, Plate plate) {
    }

    private Carried carried(LaidPlate plate, StockPrinter to, List<StockPrinter> all) {
        PlanEntry there = plate.plan().entry();
        Recipe recipe = all.stream().filter(printer -> printer.id().equals(there.printerId())).findFirst()
                .map(from -> there.refitted(from.printer(), to.printer())).orElse(there.recipe());
        PlanEntry entry = there.with(recipe, to.id());
        List<Plate.Place> places = plates.nested(plate, entry, to, plate.sequence());
        return new Carried(entry, new Plate(IntStream.range(0, places.size())
                .mapToObj(i -> new Plate.Copy(plate.copies().get(i).copy().part(), places.get(i))).toList(), plate.sequence(), recipe));
    }
}
