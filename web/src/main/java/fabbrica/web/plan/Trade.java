package fabbrica.web.plan;

import com.github.benmanes.caffeine.cache.Cache;
import fabbrica.core.estimate.Estimate;
import fabbrica.core.inspect.PrintLimits;
import fabbrica.core.inspect.Slopes;
import fabbrica.core.judge.SupportAdvice;
import fabbrica.core.mesh.model.Rotation;
import fabbrica.core.recipe.Material;
import fabbrica.core.recipe.Nozzle;
import fabbrica.core.recipe.Printer;
import fabbrica.core.trade.TradeTable;
import fabbrica.core.trade.TradeTable.Row;
import fabbrica.core.trade.Way;
import fabbrica.core.trade.Ways;
import fabbrica.web.platform.Caches;
import fabbrica.web.platform.Estimator;
import fabbrica.web.platform.Inspections;
import fabbrica.web.platform.Lying;
import fabbrica.web.platform.Meshes;
import fabbrica.web.platform.Standing;
import fabbrica.web.stores.Inventory;
import fabbrica.web.stores.StockNozzle;
import fabbrica.web.stores.StockPrinter;
import fabbrica.web.ticket.Plan;
import fabbrica.web.ticket.Planning;
import fabbrica.web.ticket.Planning.Question;
import fabbrica.web.ticket.Ticket;
import java.time.Instant;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import org.springframework.stereotype.Service;

/** The ways of printing a ticket other than planned, each estimated by itself, as far as they are ready. */
@Service
class Trade {

    private final Planning planning;
    private final Inventory inventory;
    private final Estimator estimator;
    private final Inspections inspections;
    private final Meshes meshes;
    private final Cache<Lying, Double> slopes = Caches.of(100).build();

    Trade(Planning planning, Inventory inventory, Estimator estimator, Inspections inspections, Meshes meshes) {
        this.planning = planning;
        this.inventory = inventory;
        this.estimator = estimator;
        this.inspections = inspections;
        this.meshes = meshes;
    }

    /**
     * @param waiting ways that are still being worked out
     * @param done    share of all work, 0 to 1
     */
    record Standings(TradeTable table, int waiting, double done) {
    }

    /** A way with what is asked of the estimator for it. */
    private record Asked(Way way, Estimator.Request request) {
    }

    /** @param stopped whether to show what is known and start nothing */
    Standings standings(Ticket ticket, Plan plan, boolean stopped) {
        Map<String, Instant> free = planning.nextFree();
        List<Row> rows = new ArrayList<>();
        int waiting = 0;
        double done = 0;
        List<Asked> all = asked(ticket, plan);
        for (Asked asked : all) {
            Optional<Estimate> estimate = estimator.known(asked.request());
            if (estimate.isEmpty() && !stopped) {
                switch (estimator.ask(asked.request())) {
                    case Standing.Done<Estimate>(Estimate known) -> estimate = Optional.of(known);
                    case Standing.Working<Estimate> working -> {
                        waiting++;
                        done += working.fraction();
                    }
                    case Standing.Failed<Estimate> failed -> done++;
                }
            }
            if (estimate.isPresent()) {
                done++;
                rows.add(Row.of(asked.way(), estimate.get(), free.get(asked.way().printer().id())));
            }
        }
        // Without the plan there is nothing to compare with yet.
        boolean planKnown = !rows.isEmpty() && rows.getFirst().way().equals(all.getFirst().way());
        return new Standings(TradeTable.of(planKnown ? rows : List.of(), shape(ticket)), waiting,
                all.isEmpty() ? 1 : done / all.size());
    }

    void stop(Ticket ticket, Plan plan) {
        asked(ticket, plan).forEach(asked -> estimator.stop(asked.request()));
    }

    Optional<Way> way(Ticket ticket, Plan plan, String change) {
        return asked(ticket, plan).stream().map(Asked::way).filter(way -> way.change().equals(change)).findFirst();
    }

    /** The best pose of the part. */
    Rotation bestPose(Ticket ticket) {
        return meshes.poses(ticket.lying()).getFirst().rotation();
    }

    private List<Asked> asked(Ticket ticket, Plan plan) {
        Printer printer = plan.on(inventory.printer(plan.printerId()).orElseThrow().printer());
        Material material = planning.material(ticket, plan);
        PrintLimits limits = planning.limits(ticket, planning.fits(ticket));
        boolean hangs = SupportAdvice.of(inspections.of(ticket.lying()), limits).wanted();
        List<Nozzle> nozzles = inventory.nozzles().stream().map(StockNozzle::nozzle).toList();
        List<Printer> others = inventory.printers().stream().filter(other -> !other.outOfOrder())
                .map(StockPrinter::printer).filter(other -> !other.id().equals(printer.id())).toList();
        Rotation best = bestPose(ticket);
        List<Asked> asked = new ArrayList<>();
        for (Way way : Ways.of(printer, plan.recipe(), material, hangs, !best.sameWayUp(ticket.rotation()), nozzles,
                others)) {
            Ticket other = way.turned() ? ticket.turned(best) : ticket;
            Question question = planning.question(way.scale() == 1 ? other
                    : other.scaled(ticket.scalePercent() * way.scale()), way.printer(), way.recipe(), material);
            if (asked.isEmpty() || question.reasons().isEmpty()) {
                asked.add(new Asked(way, question.request()));
            }
        }
        return asked;
    }

    private TradeTable.Shape shape(Ticket ticket) {
        double thinnest = inspections.of(ticket.lying()).thickness().thinnestWallMm();
        return new TradeTable.Shape(slopes.get(ticket.lying(), part -> Slopes.shallowShare(meshes.mesh(part))), thinnest);
    }
}
