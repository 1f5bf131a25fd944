package fabbrica.web.plan;

import fabbrica.core.estimate.Expected;
import fabbrica.core.judge.RecipeAdvice;
import fabbrica.core.recipe.RecipeField;
import fabbrica.core.recipe.StartingPoint;
import fabbrica.core.recipe.Zone;
import fabbrica.web.platform.Standing;
import fabbrica.web.stores.Inventory;
import fabbrica.web.ticket.Ticket;
import fabbrica.web.ticket.WaysUp;
import java.util.List;
import java.util.Optional;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Component;

/** The form of a plan and what it takes, as a ticket's page shows them and as the form asks for them again. */
@Component
class PlanPages {

    private final Planning planning;
    private final Proposals proposals;
    private final Inventory inventory;
    private final WaysUp waysUp;
    private final Outlooks outlooks;

    PlanPages(Planning planning, Proposals proposals, Inventory inventory, WaysUp waysUp, Outlooks outlooks) {
        this.planning = planning;
        this.proposals = proposals;
        this.inventory = inventory;
        this.waysUp = waysUp;
        this.outlooks = outlooks;
    }

    /**
     * @param boxes   in which other values hold
     * @param preview null until somebody opens the plan
     */
    record Form(PlanEntry entry, List<StartingPoint> starts, RecipePage recipe, List<Zone> boxes, List<Zone.Support> boxSupports,
                @Nullable PreviewPage preview) {
    }

    Form form(PlanEntry entry, @Nullable PreviewPage preview) {
        return new Form(entry, List.of(StartingPoint.values()), RecipePage.of(entry), entry.recipe().lines().zones(), List.of(Zone.Support.values()), preview);
    }

    /**
     * What a plan takes.
     *
     * @param advice what the part asks for, taken or not
     * @param way    which way up it should lie; null when nothing is advised
     * @param asking whether that is being found out
     * @param recipe for the form to be shown anew; null when what stands there holds
     * @param gave   names of values that somebody had set and that the chosen nozzle cannot lay
     */
    record PreviewPage(Ticket ticket, Plan plan, Planning.Preview preview, @Nullable Expected expected, List<AdviceEntry> advice, @Nullable WayEntry way,
                       boolean asking, Outlook outlook, String line, @Nullable RecipePage recipe, List<String> gave) {

        public boolean late() {
            return preview.lateFor(ticket.request().neededBy());
        }

        public boolean isChosen(Planning.PrinterOption option) {
            return option.printer().id().equals(plan.printerId());
        }

        public boolean isChosen(Planning.SpoolOption option) {
            return plan.spoolId() != null && option.spool().id() == plan.spoolId();
        }

        /** Why a printer is advised; empty when it is not. */
        public String why(Planning.PrinterOption option) {
            return preview.soonest().filter(option::equals).isEmpty() ? "" : option.isTheirs() ? "the soonest" : "the soonest; somebody trained has to run it";
        }

        public String why(Planning.SpoolOption option) {
            return preview.advised() == null || option.spool().id() != preview.advised() ? ""
                    : plan.printerId().equals(option.spool().loadedIn()) ? "nothing stops it, and it is loaded there" : "nothing stops it";
        }

        /** To be shown with the form's recipe as well, in which some values had to give way. */
        PreviewPage with(RecipePage changed, List<RecipeField> givenWay) {
            return new PreviewPage(ticket, plan, preview, expected, advice, way, asking, outlook, line, changed,
                    givenWay.stream().map(RecipeField::label).toList());
        }
    }

    /** @param taken whether it lies so already */
    record WayEntry(String reason, boolean taken) {
    }

    /**
     * A value that is advised.
     *
     * @param field of the form, advised and usual its codes there
     * @param label in words, such as "Supports: from the bed only"
     * @param taken whether the plan has it
     */
    record AdviceEntry(String field, String label, String reason, String advised, String usual, boolean taken) {

        static AdviceEntry of(RecipeAdvice advice, PlanEntry entry) {
            RecipeField field = advice.field();
            String label = field.kind() instanceof RecipeField.Choice choice ? choice.options().stream()
                    .filter(option -> option.code().equals(advice.advised())).map(RecipeField.Option::label).findFirst().orElseThrow() : advice.advised().toString();
            return new AdviceEntry(field.formName(), field.label() + ": " + label, advice.reason(), advice.advised().toString(),
                    advice.usual().toString(), advice.isIn(entry.recipe()));
        }
    }

    /** What a ticket that nobody has accepted yet would be printed with. */
    PreviewPage proposed(Planning.Desk desk) {
        return preview(desk, new Plan(0, planning.proposed(desk)));
    }

    PreviewPage preview(Planning.Desk desk, Plan plan) {
        Ticket ticket = desk.ticket();
        Planning.Preview preview = planning.preview(desk, plan, "preview of ticket " + ticket.id());
        List<AdviceEntry> advice = inventory.printer(plan.printerId()).map(printer -> proposals.on(ticket, plan.start(), printer).advice()).orElse(List.of())
                .stream().map(each -> AdviceEntry.of(each, plan.entry())).toList();
        Standing<Optional<WaysUp.WayUp>> asked = waysUp.ask(ticket);
        WayEntry way = asked instanceof Standing.Done<Optional<WaysUp.WayUp>>(Optional<WaysUp.WayUp> known)
                ? known.map(up -> new WayEntry(up.reason(), up.rotation().sameWayUp(ticket.rotation()))).orElse(null) : null;
        return new PreviewPage(ticket, plan, preview, preview.expected(), advice, way, asked instanceof Standing.Working, outlooks.of(ticket, preview),
                ticket.isSliced() ? "as its file says" : RecipePage.line(plan.recipe()), null, List.of());
    }
}
