package fabbrica.web.gauge;

import fabbrica.core.bed.BedFit;
import fabbrica.core.inspect.Inspection;
import fabbrica.core.inspect.PrintLimits;
import fabbrica.core.inspect.Severity;
import fabbrica.core.judge.Verdict;
import fabbrica.core.units.LengthUnit;
import fabbrica.web.platform.Inspections;
import fabbrica.web.platform.Say;
import fabbrica.web.stores.StockPrinter;
import fabbrica.web.ticket.NextStep;
import fabbrica.web.ticket.PartDrawing;
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
    private final PartDrawing drawing;
    private final Say say;

    GaugeSection(Verdicts verdicts, Inspections inspections, Tickets tickets, PartDrawing drawing, Say say) {
        this.verdicts = verdicts;
        this.inspections = inspections;
        this.tickets = tickets;
        this.drawing = drawing;
        this.say = say;
    }

    /**
     * @param original as the model came, when the ticket's was made from it and it is still kept
     * @param units    a model can be read in
     * @param drawing  SVG
     */
    record GaugePage(Ticket ticket, Inspection inspection, @Nullable Inspection original, PrintLimits limits, List<PinnedFinding> findings,
                     List<PrintAdvice> advice, List<LengthUnit> units, String drawing) {

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
    public String title() {
        return "Gauge";
    }

    @Override
    public int place() {
        return 10;
    }

    @Override
    public Optional<Shown> show(Ticket ticket, Visit visit) {
        if (!ticket.model().isKept() || ticket.isSliced()) {
            return Optional.empty();
        }
        Map<StockPrinter, BedFit> fits = verdicts.fits(ticket);
        Verdict verdict = verdicts.verdict(ticket, fits);
        GaugePage page = new GaugePage(ticket, inspections.of(ticket.part()),
                tickets.original(ticket).map(model -> inspections.of(ticket.with(model).part())).orElse(null), verdicts.limits(ticket, fits),
                PinnedFinding.of(verdict.findings()), verdicts.advice(ticket, fits),
                List.of(LengthUnit.values()), drawing.svg(ticket.part(), verdict.findings().stream().flatMap(finding -> finding.places().stream()).toList()));
        String result = verdict.findings().isEmpty() ? "nothing to report" : say.findings(verdict.findings());
        return Optional.of(shown(result, "gauge/gauge :: gauge", page).offering(page.open() ? cure(verdict) : null));
    }

    /** What mends the first finding that stops the print, when that is one press or one number. */
    private static @Nullable NextStep cure(Verdict verdict) {
        return verdict.findings().stream().filter(finding -> finding.severity() == Severity.BLOCK).findFirst().map(finding -> switch (finding.code()) {
            case OPEN_EDGES, FLIPPED -> NextStep.press("Repair it", "mend", finding.message());
            case TOO_BIG, TOO_SMALL -> NextStep.go("Choose another size", "#size", finding.message());
            default -> null;
        }).orElse(null);
    }
}
