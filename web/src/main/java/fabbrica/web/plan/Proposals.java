package fabbrica.web.plan;

import fabbrica.core.gcode.Replay;
import fabbrica.core.gcode.SlicedFileFindings;
import fabbrica.core.judge.RecipeAdvice;
import fabbrica.core.recipe.Material;
import fabbrica.core.recipe.Recipe;
import fabbrica.core.recipe.Refit;
import fabbrica.core.recipe.StartingPoint;
import fabbrica.core.toolpath.PathType;
import fabbrica.web.platform.Inspections;
import fabbrica.web.platform.Refusal;
import fabbrica.web.platform.SlicedParts;
import fabbrica.web.stores.Inventory;
import fabbrica.web.stores.StockPrinter;
import fabbrica.web.ticket.Ticket;
import java.util.List;
import java.util.Locale;
import java.util.Optional;
import java.util.stream.Stream;
import org.springframework.stereotype.Component;

/** What a ticket would be printed with before anybody has chosen: the starting point of its purpose, with what its part asks for put in. */
@Component
class Proposals {

    /** Supports, walls and purging make a print take more than the part is large, hardly by this factor (a judgement of ours). */
    private static final double AT_MOST = 1.3;

    private final Inventory inventory;
    private final Inspections inspections;
    private final SlicedParts sliced;

    Proposals(Inventory inventory, Inspections inspections, SlicedParts sliced) {
        this.inventory = inventory;
        this.inspections = inspections;
        this.sliced = sliced;
    }

    /** A recipe with what is advised for a part put in. */
    record Advised(Recipe recipe, List<RecipeAdvice> advice) {
    }

    /** The material wished for by name, else the one that a file sliced elsewhere seems to be made for, else the first that any printer takes. */
    Material wished(Ticket ticket) {
        List<Material> materials = inventory.materials();
        String wish = ticket.request().materialWish().strip().toLowerCase(Locale.ROOT);
        return materials.stream().filter(m -> !wish.isEmpty() && m.name().toLowerCase(Locale.ROOT).equals(wish)).findFirst()
                .or(() -> ticket.isSliced() ? anyReplay(ticket).flatMap(replay -> SlicedFileFindings.likeliest(replay, materials)) : Optional.empty())
                .or(() -> materials.stream().filter(m -> m.id().equals("pla")).findFirst())
                .or(() -> materials.stream().findFirst())
                .orElseThrow(() -> new Refusal("There is no material in the stores yet. Add one there first."));
    }

    static StartingPoint start(Ticket ticket) {
        return ticket.request().purpose() == null ? StartingPoint.DAILY_BREAD : ticket.request().purpose().startingPoint();
    }

    /** Plastic that one copy may take before anything is worked out; of a file sliced elsewhere what it takes. */
    double mostMm3(Ticket ticket) {
        return ticket.isSliced() ? anyReplay(ticket).map(Proposals::mm3).orElse(0.0)
                : AT_MOST * inspections.of(ticket.part()).columns().solidMm3();
    }

    private static double mm3(Replay replay) {
        return Stream.of(PathType.values()).mapToDouble(replay.motion()::mm3).sum();
    }

    /** What hardly differs from one printer to another. */
    private Optional<Replay> anyReplay(Ticket ticket) {
        return inventory.printers().stream().findFirst().map(printer -> sliced.replay(ticket.model().kept(), printer.printer()));
    }

    /** A starting point on a printer, fitted to the part as it lies; for a file sliced elsewhere with its layers. */
    Advised on(Ticket ticket, StartingPoint start, StockPrinter printer) {
        Recipe usual = start.recipe(printer.printer().nozzle(), printer.printer().kinematics());
        if (ticket.isSliced()) {
            double layer = sliced.replay(ticket.model().kept(), printer.printer()).layerHeightMm();
            return new Advised(printer.printer().nozzle().canLay(layer) ? usual.withLayerHeight(layer, layer) : usual, List.of());
        }
        List<RecipeAdvice> advice = RecipeAdvice.of(inspections.of(ticket.part()), printer.limits(), printer.raftAlways(), usual);
        return new Advised(RecipeAdvice.put(usual, advice), advice);
    }

    /** A plan's recipe carried to another printer. */
    Refit refitted(Ticket ticket, PlanEntry plan, StockPrinter from, StockPrinter to) {
        return from.id().equals(to.id()) ? new Refit(plan.recipe(), List.of())
                : Refit.of(plan.recipe(), on(ticket, plan.start(), from).recipe(), on(ticket, plan.start(), to).recipe(), to.printer().nozzle());
    }

    /** A plan's recipe as it would be on another printer, when its own is still in the stores. */
    Recipe recipe(Ticket ticket, PlanEntry plan, List<StockPrinter> printers, StockPrinter on) {
        return printers.stream().filter(printer -> printer.id().equals(plan.printerId())).findFirst()
                .map(from -> refitted(ticket, plan, from, on).recipe()).orElse(plan.recipe());
    }
}
