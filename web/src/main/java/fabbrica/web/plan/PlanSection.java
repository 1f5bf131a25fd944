package fabbrica.web.plan;

import fabbrica.core.recipe.Adhesion;
import fabbrica.core.recipe.InfillPattern;
import fabbrica.core.recipe.LineWork;
import fabbrica.core.recipe.Recipe;
import fabbrica.core.recipe.StartingPoint;
import fabbrica.core.recipe.Supports;
import fabbrica.core.recipe.Zone;
import fabbrica.web.stores.Inventory;
import fabbrica.web.ticket.Ticket;
import fabbrica.web.ticket.TicketSection;
import java.util.List;
import java.util.NoSuchElementException;
import java.util.Optional;
import org.springframework.stereotype.Component;
import org.springframework.ui.Model;
import org.springframework.util.MultiValueMap;

/** How a ticket is printed: the form of its plan, what that takes, and the plates its copies lie on. */
@Component
class PlanSection implements TicketSection {

    private static final String NUMBER = "plan";

    private final Plans plans;
    private final Planning planning;
    private final Plates plates;
    private final Inventory inventory;

    PlanSection(Plans plans, Planning planning, Plates plates, Inventory inventory) {
        this.plans = plans;
        this.planning = planning;
        this.plates = plates;
        this.inventory = inventory;
    }

    @Override
    public int place() {
        return 10;
    }

    /** A plan's number may be given in the address; else it is the ticket's own, else one is proposed. */
    @Override
    public Optional<String> show(Ticket ticket, MultiValueMap<String, String> values, Model page) {
        page.addAttribute("open", plates.openOf(ticket.id()));
        if (!ticket.model().isKept() || !ticket.state().canBePlanned() || inventory.printers().isEmpty()) {
            return Optional.empty();
        }
        PlanEntry entry = asked(values).map(Plan::entry).orElseGet(() -> planning.entry(ticket));
        put(entry.recipe(), page);
        page.addAttribute("boxes", entry.recipe().lines().zones());
        page.addAttribute("boxSupports", Zone.Support.values());
        page.addAttribute("start", entry.start());
        page.addAttribute("starts", StartingPoint.values());
        page.addAttribute("entry", entry);
        return Optional.of("plan/plan :: form");
    }

    private Optional<Plan> asked(MultiValueMap<String, String> values) {
        try {
            return Optional.ofNullable(values.getFirst(NUMBER)).map(Long::valueOf).map(plans::plan);
        } catch (NumberFormatException | NoSuchElementException e) {
            return Optional.empty();
        }
    }

    static void put(Recipe recipe, Model page) {
        page.addAttribute("r", PlanForm.values(recipe).toSingleValueMap());
        page.addAttribute("patterns", InfillPattern.values());
        page.addAttribute("adhesions", Adhesion.values());
        page.addAttribute("supportKinds", List.of(Supports.Where.values()));
        page.addAttribute("seams", LineWork.Seam.values());
    }
}
