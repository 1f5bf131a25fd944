package fabbrica.web.gauge;

import fabbrica.core.bed.BedFit;
import fabbrica.core.inspect.Inspection;
import fabbrica.core.inspect.PrintLimits;
import fabbrica.core.units.LengthUnit;
import fabbrica.web.platform.Inspections;
import fabbrica.web.stores.StockPrinter;
import fabbrica.web.ticket.Experience;
import fabbrica.web.ticket.PinnedFinding;
import fabbrica.web.ticket.PrintAdvice;
import fabbrica.web.ticket.Ticket;
import fabbrica.web.ticket.TicketSection;
import fabbrica.web.ticket.Tickets;
import fabbrica.web.ticket.Verdicts;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Component;

/** What was measured on a ticket's part: findings, the part in space, its size, ways to lie, what is recommended. */
@Component
class GaugeSection implements TicketSection {

    private final Verdicts verdicts;
    private final Inspections inspections;
    private final Tickets tickets;

    GaugeSection(Verdicts verdicts, Inspections inspections, Tickets tickets) {
        this.verdicts = verdicts;
        this.inspections = inspections;
        this.tickets = tickets;
    }

    /**
     * @param original as the model came, when the ticket's was made from it and it is still kept
     * @param units    a model can be read in
     */
    record GaugePage(Ticket ticket, Inspection inspection, @Nullable Inspection original, PrintLimits limits, List<PinnedFinding> findings,
                     List<PrintAdvice> advice, Experience experience, List<LengthUnit> units) {

        /** Whether the part may still be changed. */
        public boolean open() {
            return ticket.state().atCounter() || ticket.state().canBePlanned();
        }

        /** Where the slider of the scale stands: -1 at a tenth, 0 as it is read, 1 at ten times. */
        public double slide() {
            return Math.log10(ticket.scalePercent() / 100);
        }
    }

    @Override
    public String name() {
        return "gauge";
    }

    @Override
    public int place() {
        return 10;
    }

    @Override
    public Optional<Shown> show(Ticket ticket, Visit visit) {
        if (!ticket.model().isKept()) {
            return Optional.empty();
        }
        Map<StockPrinter, BedFit> fits = verdicts.fits(ticket);
        return shown("gauge/gauge :: gauge", new GaugePage(ticket, inspections.of(ticket.part()),
                tickets.original(ticket).map(model -> inspections.of(ticket.with(model).part())).orElse(null), verdicts.limits(ticket, fits),
                PinnedFinding.of(verdicts.verdict(ticket, fits).findings()), verdicts.advice(ticket, fits), tickets.experience(ticket),
                List.of(LengthUnit.values())));
    }
}
