package fabbrica.web.plan;

import com.github.benmanes.caffeine.cache.Cache;
import fabbrica.core.bed.BedFit;
import fabbrica.core.bed.Layout;
import fabbrica.core.estimate.Expected;
import fabbrica.core.inspect.PrintLimits;
import fabbrica.core.inspect.Slopes;
import fabbrica.core.judge.Obstacle;
import fabbrica.core.judge.SupportAdvice;
import fabbrica.core.mesh.model.Rotation;
import fabbrica.core.recipe.Material;
import fabbrica.core.recipe.Nozzle;
import fabbrica.core.recipe.Part;
import fabbrica.core.recipe.Plate;
import fabbrica.core.recipe.Printer;
import fabbrica.core.schedule.Schedule.Slot;
import fabbrica.core.trade.TradeTable;
import fabbrica.core.trade.TradeTable.Row;
import fabbrica.core.trade.Way;
import fabbrica.core.trade.Ways;
import fabbrica.web.platform.Caches;
import fabbrica.web.platform.Inspections;
import fabbrica.web.platform.Meshes;
import fabbrica.web.platform.Shop;
import fabbrica.web.platform.Standing;
import fabbrica.web.stores.Inventory;
import fabbrica.web.stores.StockNozzle;
import fabbrica.web.stores.StockPrinter;
import fabbrica.web.ticket.Ticket;
import fabbrica.web.ticket.Verdicts;
import java.time.Duration;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.Optional;
import java.util.stream.Collectors;
import org.springframework.stereotype.Service;

/** The ways of printing a ticket other than planned, each estimated by itself, as far as they are ready. */
@Service
class Trade {

    private final Planning planning;
    private final Verdicts verdicts;
    private final Laying laying;
    private final Judging judging;
    private final Forecasts forecasts;
    private final Inventory inventory;
    private final Shop shop;
    private final Expectations expectations;
    private final Inspections inspections;
    private final Meshes meshes;
    private final Cache<Part, Double> slopes = Caches.of(100).build();

    Trade(Planning planning, Verdicts verdicts, Laying laying, Judging judging, Forecasts forecasts, Inventory inventory, Shop shop,
          Expectations expectations, Inspections inspections, Meshes meshes) {
        this.planning = planning;
        this.verdicts = verdicts;
        this.laying = laying;
        this.judging = judging;
        this.forecasts = forecasts;
        this.inventory = inventory;
        this.shop = shop;
        this.expectations = expectations;
        this.inspections = inspections;
        this.meshes = meshes;
    }

    /**
     * @param waiting ways that are still being worked out
     * @param done    share of all work, 0 to 1
     */
    record Standings(TradeTable table, int waiting, double done) {
    }

    /** A way with what is asked of the shop for it, plate by plate. */
    private record Asked(Way way, List<Shop.Request> requests) {
    }

    /** How far the plates of a way are: what is to be expected of those that are worked out, in their order, and the share of the work. */
    private record Reached(List<Expected> known, boolean working, double done) {
    }

    /**
     * @param stopped whether to show what is known and start nothing
     * @throws fabbrica.web.platform.Refusal for a file sliced elsewhere
     */
    Standings standings(Ticket ticket, Plan plan, boolean stopped) {
        ticket.shaped();
        Forecasts.Floor floor = forecasts.floor();
        List<Row> rows = new ArrayList<>();
        int waiting = 0;
        double done = 0;
        List<Asked> all = asked(ticket, plan, floor);
        for (Asked asked : all) {
            Reached reached = reached(asked.requests(), stopped);
            waiting += reached.working() ? 1 : 0;
            done += reached.done();
            if (reached.known().size() == asked.requests().size()) {
                row(asked.way(), reached.known(), floor, plan, ticket).ifPresent(rows::add);
            }
        }
        // Without the plan there is nothing to compare with yet.
        boolean planKnown = !rows.isEmpty() && rows.getFirst().way().equals(all.getFirst().way());
        return new Standings(TradeTable.of(planKnown ? rows : List.of(), shape(ticket)), waiting, all.isEmpty() ? 1 : done / all.size());
    }

    private Reached reached(List<Shop.Request> requests, boolean stopped) {
        List<Expected> known = new ArrayList<>();
        boolean works = false;
        double done = 0;
        for (Shop.Request request : requests) {
            Optional<Expected> expected = expectations.known(request);
            if (expected.isEmpty() && !stopped) {
                switch (expectations.ask(request)) {
                    case Standing.Done<Expected>(Expected now) -> expected = Optional.of(now);
                    case Standing.Working<Expected> working -> {
                        works = true;
                        done += working.fraction();
                    }
                    case Standing.Failed<Expected> failed -> done++;
                }
            }
            if (expected.isPresent()) {
                done++;
                known.add(expected.get());
            }
        }
        return new Reached(known, works, done / requests.size());
    }

    /** Nothing for a way of which nobody could say when all its plates would be printed. */
    private static Optional<Row> row(Way way, List<Expected> plates, Forecasts.Floor floor, Plan plan, Ticket ticket) {
        List<Duration> takes = new ArrayList<>();
        for (Expected plate : plates) {
            takes.add(Duration.ofSeconds(Math.round((takes.isEmpty() ? way.setupS() : 0) + plate.totalSeconds())));
        }
        List<Slot> slots = floor.after(way.printer().id(), takes, plan.spoolId(), List.of(ticket.id()));
        return slots.size() < takes.size() ? Optional.empty()
                : Optional.of(Row.of(way, plates, slots.getFirst().start(), slots.getLast().handOut()));
    }

    void stop(Ticket ticket, Plan plan) {
        asked(ticket, plan, forecasts.floor()).forEach(asked -> asked.requests().forEach(shop::stop));
    }

    /** The best pose of the part. */
    Rotation bestPose(Ticket ticket) {
        return meshes.poses(ticket.part()).getFirst().rotation();
    }

    private List<Asked> asked(Ticket ticket, Plan plan, Forecasts.Floor floor) {
        int copies = Math.max(1, planning.toBePlanned(ticket, floor.ownOpen(ticket.id())));
        Map<String, StockPrinter> printers = inventory.printers().stream().collect(Collectors.toMap(StockPrinter::id, printer -> printer));
        StockPrinter planned = Objects.requireNonNull(printers.get(plan.printerId()));
        Printer printer = plan.on(planned.printer());
        Material material = planning.material(ticket, plan.entry(), floor);
        PrintLimits limits = verdicts.limits(ticket, verdicts.fits(ticket));
        boolean hangs = SupportAdvice.of(inspections.of(ticket.part()), limits).wanted();
        // Nozzles that lie in their drawers, or are in it already.
        List<Nozzle> nozzles = inventory.nozzles().stream().filter(nozzle -> nozzle.mountedIn() == null
                && nozzle.fits(planned.fitting())).map(StockNozzle::nozzle).toList();
        List<Printer> others = printers.values().stream().filter(other -> other.canBePlanned() && !other.id().equals(printer.id()))
                .sorted(Comparator.comparing(StockPrinter::name)).map(StockPrinter::printer).toList();
        Rotation best = bestPose(ticket);
        Judging.Bench bench = judging.bench(List.of(ticket), List.of(ticket.id()));
        List<Asked> asked = new ArrayList<>();
        for (Way way : Ways.of(printer, plan.recipe(), material, hangs, !best.sameWayUp(ticket.rotation()), nozzles, others)) {
            Ticket posed = way.turned() ? ticket.turned(best) : ticket;
            Ticket other = way.scale() == 1 ? posed : posed.scaled(ticket.scalePercent() * way.scale());
            BedFit fit = laying.fit(other.part(), way.recipe(), way.printer());
            Plate one = laying.one(other.part(), fit, way.recipe());
            boolean possible = bench.planned(one, Layout.of(fit), Objects.requireNonNull(printers.get(way.printer().id())), way.printer(), material, null, 0,
                    Optional.empty()).stream().noneMatch(obstacle -> obstacle.stops() && obstacle.cause() != Obstacle.Cause.FINDING);
            if (asked.isEmpty() || possible) {
                List<Plate> laid = laying.lay(other.part(), way.recipe(), way.printer(), copies).plates();
                asked.add(new Asked(way, (laid.isEmpty() ? List.of(one) : laid).stream().map(plate -> new Shop.Request(plate, way.printer(), material)).toList()));
            }
        }
        return asked;
    }

    private TradeTable.Shape shape(Ticket ticket) {
        double thinnest = inspections.of(ticket.part()).thickness().thinnestWallMm();
        return new TradeTable.Shape(slopes.get(ticket.part(), part -> Slopes.shallowShare(meshes.mesh(part))), thinnest);
    }
}
