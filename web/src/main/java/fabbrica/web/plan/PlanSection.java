package fabbrica.web.plan;

import fabbrica.web.ticket.NextStep;
import fabbrica.web.ticket.Ticket;
import fabbrica.web.ticket.TicketSection;
import fabbrica.web.ticket.TicketState;
import java.util.List;
import java.util.NoSuchElementException;
import java.util.Optional;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Component;
import org.springframework.util.MultiValueMap;

/**
 * How a ticket is printed: what is proposed while it is at the counter, then the form of its plan and what that takes, and the
 * plates its copies lie on.
 */
@Component
class PlanSection implements TicketSection {

    private static final String NUMBER = "plan";

    private final Plans plans;
    private final Planning planning;
    private final PlanPages pages;
    private final Forecasts forecasts;
    private final Outlooks outlooks;

    PlanSection(Plans plans, Planning planning, PlanPages pages, Forecasts forecasts, Outlooks outlooks) {
        this.plans = plans;
        this.planning = planning;
        this.pages = pages;
        this.forecasts = forecasts;
        this.outlooks = outlooks;
    }

    /**
     * @param open     plates that are not over, on which the ticket has copies
     * @param proposed while it is at the counter, else null
     * @param form     null when the ticket cannot be planned
     */
    record PlanPage(Ticket ticket, List<LaidPlate> open, PlanPages.@Nullable PreviewPage proposed, PlanPages.@Nullable Form form,
                    boolean printersMissing) {
    }

    @Override
    public String name() {
        return "plan";
    }

    @Override
    public String title() {
        return "Plan";
    }

    @Override
    public int place() {
        return 40;
    }

    @Override
    public Optional<Shown> show(Ticket ticket, Visit visit) {
        if (!ticket.model().isKept()) {
            return Optional.empty();
        }
        Forecasts.Floor floor = forecasts.floor();
        List<LaidPlate> open = floor.openOf(ticket.id());
        boolean plannable = ticket.state().canBePlanned();
        if ((plannable || ticket.state().atCounter()) && floor.printers().isEmpty()) {
            return Optional.of(shown("there is no printer in the Stores yet", new PlanPage(ticket, open, null, null, true))
                    .offering(plannable ? NextStep.go("Say what it is printed on", "/stores/first?from=/tickets/" + ticket.id(), "Fabbrica knows no printer yet.") : null));
        }
        if (ticket.state().atCounter()) {
            PlanPages.PreviewPage proposed = pages.proposed(planning.desk(ticket, floor));
            Outlook outlook = proposed.outlook();
            return Optional.of(shown("proposed: " + outlook.result(), new PlanPage(ticket, open, proposed, null, false)).promising(outlook.promise()));
        }
        Outlook laid = outlooks.of(ticket, open, floor);
        return plannable ? Optional.of(plannable(ticket, visit, floor, open, laid)) : open.isEmpty() ? Optional.empty()
                : Optional.of(shown(laid.result(), new PlanPage(ticket, open, null, null, false)).promising(laid.promise()));
    }

    private Shown plannable(Ticket ticket, Visit visit, Forecasts.Floor floor, List<LaidPlate> open, Outlook laid) {
        Optional<Plan> asked = asked(visit.address());
        if (asked.isEmpty() && ticket.state() != TicketState.ACCEPTED) {
            return later(ticket, planning.entry(ticket), open, laid);
        }
        Planning.Desk desk = planning.desk(ticket, floor);
        PlanEntry entry = asked.map(Plan::entry).orElseGet(() -> planning.entry(desk));
        if (asked.isEmpty() && desk.toBePlanned() == 0) {
            return later(ticket, entry, open, laid);
        }
        PlanPages.PreviewPage preview = pages.preview(desk, plans.keep(entry));
        return shown(preview.outlook().result(), new PlanPage(ticket, open, null, pages.form(entry, preview), false)).opened(asked.isPresent())
                .promising(preview.outlook().promise()).offering(laid.next() == null ? preview.outlook().next() : laid.next());
    }

    /** A plan that is not the next thing to do is worked out when somebody opens it. */
    private Shown later(Ticket ticket, PlanEntry entry, List<LaidPlate> open, Outlook laid) {
        return shown(laid.result().isEmpty() ? "can be changed and queued again" : laid.result(), new PlanPage(ticket, open, null,
                pages.form(entry, null), false)).promising(laid.promise()).offering(laid.next());
    }

    private Shown shown(String result, PlanPage page) {
        return shown(result, "plan/plan :: planning", page);
    }

    /** A plan's number may be given in the address. */
    private Optional<Plan> asked(MultiValueMap<String, String> values) {
        try {
            return Optional.ofNullable(values.getFirst(NUMBER)).map(Long::valueOf).map(plans::plan);
        } catch (NumberFormatException | NoSuchElementException e) {
            return Optional.empty();
        }
    }
}
