package fabbrica.web.ticket;

import fabbrica.core.bed.BedFit;
import fabbrica.core.gcode.Replay;
import fabbrica.core.gcode.SlicedFileFindings;
import fabbrica.core.inspect.PrintLimits;
import fabbrica.core.judge.Verdict;
import fabbrica.core.mesh.model.Bounds;
import fabbrica.core.recipe.StartingPoint;
import fabbrica.web.platform.Inspections;
import fabbrica.web.platform.Meshes;
import fabbrica.web.platform.SlicedParts;
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
    private final SlicedParts sliced;

    Verdicts(Inventory inventory, Meshes meshes, Inspections inspections, SlicedParts sliced) {
        this.inventory = inventory;
        this.meshes = meshes;
        this.inspections = inspections;
        this.sliced = sliced;
    }

    /** How the part, with room for a skirt, lies on each printer of the lab. */
    public Map<StockPrinter, BedFit> fits(Ticket ticket) {
        Map<StockPrinter, BedFit> fits = new LinkedHashMap<>();
        for (StockPrinter printer : inventory.printers()) {
            fits.put(printer, meshes.fit(ticket.part(), printer.printer(), StartingPoint.DAILY_BREAD.recipe(printer.printer().nozzle(),
                    printer.printer().kinematics()).allowance()));
        }
        return fits;
    }

    /** Whether a verdict is to be had without waiting; begins to measure when it is not. A file sliced elsewhere is not measured. */
    public boolean ready(Ticket ticket) {
        return ticket.isSliced() || inspections.ask(ticket.part()).isPresent();
    }

    /** The box around the part as it lies. */
    public Bounds bounds(Ticket ticket) {
        return ticket.isSliced() ? meshes.mesh(ticket.part()).bounds() : inspections.of(ticket.part()).bounds();
    }

    /** Of a file sliced elsewhere: what it does on the printer in mind, in the material that it seems to be made for. */
    public Verdict verdict(Ticket ticket, Map<StockPrinter, BedFit> fits) {
        if (ticket.isSliced()) {
            return Verdict.of(inMind(ticket, fits).map(StockPrinter::printer).map(printer -> {
                Replay replay = sliced.replay(ticket.model().kept(), printer);
                return SlicedFileFindings.likeliest(replay, inventory.materials()).map(material -> SlicedFileFindings.of(replay, printer, material, null))
                        .orElseGet(() -> SlicedFileFindings.of(replay, printer));
            }).orElse(List.of()));
        }
        return Verdict.of(inspections.of(ticket.part()), limits(ticket, fits), fits.values());
    }

    /** What the printer in mind holds. */
    public PrintLimits limits(Ticket ticket, Map<StockPrinter, BedFit> fits) {
        return inMind(ticket, fits).map(StockPrinter::limits).orElse(PrintLimits.USUAL);
    }

    /** What is recommended for the part on the printer in mind. */
    public List<PrintAdvice> advice(Ticket ticket, Map<StockPrinter, BedFit> fits) {
        return ticket.isSliced() ? List.of() : PrintAdvice.of(ticket, inspections.of(ticket.part()), limits(ticket, fits), inMind(ticket, fits).map(StockPrinter::raftAlways).orElse(false));
    }

    /** The planned printer, else the first on which the part fits, else the first. */
    public Optional<StockPrinter> inMind(Ticket ticket, Map<StockPrinter, BedFit> fits) {
        return fits.keySet().stream().filter(printer -> printer.id().equals(ticket.plannedOn())).findFirst()
                .or(() -> fits.entrySet().stream().filter(fit -> fit.getValue().fits()).map(Map.Entry::getKey).findFirst())
                .or(() -> fits.keySet().stream().findFirst());
    }
}
