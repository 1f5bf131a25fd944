package fabbrica.web.plan;

import fabbrica.core.recipe.StartingPoint;
import fabbrica.core.recipe.Zone;
import fabbrica.web.stores.Inventory;
import fabbrica.web.ticket.Ticket;
import fabbrica.web.ticket.TicketSection;
import java.util.List;
import java.util.NoSuchElementException;
import java.util.Optional;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Component;
import org.springframework.util.MultiValueMap;

/** How a ticket is printed: the form of its plan, what that takes, and the plates its copies lie on. */
@Component
class PlanSection implements TicketSection {

    private static final String NUMBER = "plan";

    private final Plans plans;
    private final Planning planning;
    private final Forecasts forecasts;
    private final Plates plates;
    private final Inventory inventory;

    PlanSection(Plans plans, Planning planning, Forecasts forecasts, Plates plates, Inventory inventory) {
        this.plans = plans;
        this.planning = planning;
        this.forecasts = forecasts;
        this.plates = plates;
        this.inventory = inventory;
    }

    /**
     * @param open plates that are not over, on which the ticket has copies
     * @param form null when the ticket cannot be planned
     */
    record PlanPage(Ticket ticket, List<LaidPlate> open, @Nullable Form form, boolean printersMissing) {
    }

    /** @param boxes in which other values hold */
    record Form(PlanEntry entry, List<StartingPoint> starts, RecipePage recipe, List<Zone> boxes, List<Zone.Support> boxSupports) {
    }

    @Override
    public String name() {
        return "plan";
    }

    @Override
    public String label() {
        return "the plan";
    }

    @Override
    public int place() {
        return 40;
    }

    /** A plan's number may be given in the address; else it is the ticket's own, else one is proposed. */
    @Override
    public Optional<Shown> show(Ticket ticket, Visit visit) {
        if (!ticket.model().isKept()) {
            return Optional.empty();
        }
        if (!ticket.state().canBePlanned() || inventory.printers().isEmpty()) {
            List<LaidPlate> open = plates.openOf(ticket.id());
            boolean missing = ticket.state().canBePlanned();
            return open.isEmpty() && !missing ? Optional.empty() : shown("plan/plan :: planning", new PlanPage(ticket, open, null, missing));
        }
        Forecasts.Floor floor = forecasts.floor();
        PlanEntry entry = asked(visit.address()).map(Plan::entry).orElseGet(() -> planning.entry(ticket, floor));
        return shown("plan/plan :: planning", new PlanPage(ticket, floor.openOf(ticket.id()), new Form(entry, List.of(StartingPoint.values()),
                RecipePage.of(ticket.id(), entry.recipe()), entry.recipe().lines().zones(), List.of(Zone.Support.values())), false));
    }

    private Optional<Plan> asked(MultiValueMap<String, String> values) {
        try {
            return Optional.ofNullable(values.getFirst(NUMBER)).map(Long::valueOf).map(plans::plan);
        } catch (NumberFormatException | NoSuchElementException e) {
            return Optional.empty();
        }
    }
}
