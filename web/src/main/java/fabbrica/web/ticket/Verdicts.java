package fabbrica.web.ticket;

import fabbrica.core.bed.BedFit;
import fabbrica.core.inspect.PrintLimits;
import fabbrica.core.judge.Verdict;
import fabbrica.core.recipe.StartingPoint;
import fabbrica.web.platform.Inspections;
import fabbrica.web.platform.Meshes;
import fabbrica.web.stores.Inventory;
import fabbrica.web.stores.StockPrinter;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import org.springframework.stereotype.Service;

/** Judges a ticket's part by itself, on the printers of the lab. */
@Service
public class Verdicts {

    private final Inventory inventory;
    private final Meshes meshes;
    private final Inspections inspections;

    Verdicts(Inventory inventory, Meshes meshes, Inspections inspections) {
        this.inventory = inventory;
        this.meshes = meshes;
        this.inspections = inspections;
    }

    /** How the part, with room for a skirt, lies on each printer of the lab. */
    public Map<StockPrinter, BedFit> fits(Ticket ticket) {
        Map<StockPrinter, BedFit> fits = new LinkedHashMap<>();
        for (StockPrinter printer : inventory.printers()) {
            fits.put(printer, BedFit.of(meshes.footprint(ticket.part()), printer.printer().freeBed(), StartingPoint.DAILY_BREAD.recipe(
                    printer.printer().nozzle(), printer.printer().kinematics()).allowance()));
        }
        return fits;
    }

    public Verdict verdict(Ticket ticket, Map<StockPrinter, BedFit> fits) {
        return Verdict.of(inspections.of(ticket.part()), limits(ticket, fits), fits.values());
    }

    /** What the printer in mind holds. */
    public PrintLimits limits(Ticket ticket, Map<StockPrinter, BedFit> fits) {
        return inMind(ticket, fits).map(StockPrinter::limits).orElse(PrintLimits.USUAL);
    }

    /** What is recommended for the part on the printer in mind. */
    public List<PrintAdvice> advice(Ticket ticket, Map<StockPrinter, BedFit> fits) {
        return PrintAdvice.of(ticket, inspections.of(ticket.part()), limits(ticket, fits), inMind(ticket, fits).map(StockPrinter::raftAlways).orElse(false));
    }

    /** The planned printer, else the first on which the part fits, else the first. */
    public Optional<StockPrinter> inMind(Ticket ticket, Map<StockPrinter, BedFit> fits) {
        return fits.keySet().stream().filter(printer -> printer.id().equals(ticket.plannedOn())).findFirst()
                .or(() -> fits.entrySet().stream().filter(fit -> fit.getValue().fits()).map(Map.Entry::getKey).findFirst())
                .or(() -> fits.keySet().stream().findFirst());
    }
}
