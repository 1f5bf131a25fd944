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
    public String title() {
        return "Printers";
    }

    @Override
    public int place() {
        return 20;
    }

    @Override
    public Optional<Shown> show(Ticket ticket, Visit visit) {
        if (!ticket.model().isKept() || ticket.isSliced()) {
            return Optional.empty();
        }
        List<Fit> fits = verdicts.fits(ticket).entrySet().stream().map(fit -> new Fit(fit.getKey(), fit.getValue())).toList();
        return Optional.of(shown(spoken(fits), "ticket/fits :: fits", new FitsPage(ticket, fits)));
    }

    /** "fits all of them", "fits all but Window bench", "fits only Long table", "fits none". */
    private static String spoken(List<Fit> fits) {
        if (fits.isEmpty()) {
            return "there is none in the Stores yet";
        }
        List<String> on = names(fits, true), not = names(fits, false);
        return on.isEmpty() ? "fits none of them" : not.isEmpty() ? "fits all of them" : not.size() <= on.size()
                ? "fits all but " + String.join(", ", not) : "fits only " + String.join(", ", on);
    }

    private static List<String> names(List<Fit> fits, boolean fitting) {
        return fits.stream().filter(each -> each.fit().fits() == fitting).map(each -> each.printer().name()).toList();
    }
}
