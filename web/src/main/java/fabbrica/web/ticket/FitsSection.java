package fabbrica.web.ticket;

import fabbrica.core.bed.BedFit;
import fabbrica.web.stores.StockPrinter;
import java.util.List;
import java.util.Optional;
import org.springframework.stereotype.Component;

/** On which printers a ticket's part fits; what it takes there is asked for afterwards. */
@Component
class FitsSection implements TicketSection {

    private final Verdicts verdicts;

    FitsSection(Verdicts verdicts) {
        this.verdicts = verdicts;
    }

    record FitsPage(Ticket ticket, List<Fit> fits) {

        public boolean anywhere() {
            return fits.stream().anyMatch(each -> each.fit().fits());
        }
    }

    record Fit(StockPrinter printer, BedFit fit) {
    }

    @Override
    public String name() {
        return "fits";
    }

    @Override
    public int place() {
        return 20;
    }

    @Override
    public Optional<Shown> show(Ticket ticket, Visit visit) {
        return !ticket.model().isKept() ? Optional.empty() : shown("ticket/fits :: fits", new FitsPage(ticket, verdicts.fits(ticket).entrySet().stream()
                .map(fit -> new Fit(fit.getKey(), fit.getValue())).toList()));
    }
}
