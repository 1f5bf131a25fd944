package fabbrica.web.plan;

import fabbrica.core.recipe.Material;
import fabbrica.web.stores.StockSpool;
import fabbrica.web.ticket.PartDrawing;
import fabbrica.web.ticket.Ticket;
import fabbrica.web.ticket.TicketSection;
import java.util.List;
import java.util.Optional;
import org.springframework.stereotype.Component;

/** What the file of a ticket that was sliced elsewhere would do on each printer of the lab, instead of what is measured on a model. */
@Component
class SlicedSection implements TicketSection {

    private final Plans plans;
    private final Planning planning;
    private final Proposals proposals;
    private final SlicedFiles files;
    private final PartDrawing drawing;

    SlicedSection(Plans plans, Planning planning, Proposals proposals, SlicedFiles files, PartDrawing drawing) {
        this.plans = plans;
        this.planning = planning;
        this.proposals = proposals;
        this.files = files;
        this.drawing = drawing;
    }

    /**
     * @param on        the printers, those that can run it first
     * @param thumbnail PNG as Base64 that came in the file; empty without one
     * @param drawing   SVG of what is laid
     */
    record FilePage(Ticket ticket, Material material, List<SlicedFiles.Judged> on, String thumbnail, String drawing) {
    }

    @Override
    public String name() {
        return "file";
    }

    @Override
    public String title() {
        return "What it does";
    }

    @Override
    public int place() {
        return 10;
    }

    @Override
    public Optional<Shown> show(Ticket ticket, Visit visit) {
        if (!ticket.model().isKept() || !ticket.isSliced()) {
            return Optional.empty();
        }
        String file = ticket.model().kept();
        Optional<PlanEntry> planned = Optional.ofNullable(ticket.planId()).map(plans::plan).map(Plan::entry);
        Material material = planned.map(plan -> planning.material(ticket, plan)).orElseGet(() -> proposals.wished(ticket));
        List<SlicedFiles.Judged> on = files.judge(file, material, planned.flatMap(planning::spool).map(StockSpool::spool).orElse(null));
        List<String> runs = on.stream().filter(judged -> !judged.state().stops()).map(judged -> judged.printer().name()).toList();
        return Optional.of(shown(runs.isEmpty() ? "it is for no printer of the lab" : "it is for " + String.join(", ", runs), "plan/sliced :: file",
                new FilePage(ticket, material, on, files.thumbnail(file), drawing.svg(ticket.part(), List.of()))));
    }
}
