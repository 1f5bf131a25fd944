package fabbrica.core.judge;

import fabbrica.core.inspect.PrintLimits;
import fabbrica.core.recipe.Printer;
import java.time.Instant;
import java.util.List;
import org.jspecify.annotations.Nullable;

/**
 * A machine as it is judged.
 *
 * @param printer    with the nozzle that is in it now
 * @param limits     what it has shown it can hold
 * @param raftAlways whether the lab prints on a raft here whatever the part
 * @param down       whether it is out of order
 * @param stands     how, in a few words that follow "it is"; empty when it is in order
 * @param until      when it is expected back; null when nobody knows
 * @param busyWith   what it prints at the moment; empty when it is idle
 * @param unattended whether it may run while nobody is there
 * @param overdue    what should have been done on it
 */
public record MachineView(Printer printer, PrintLimits limits, boolean raftAlways, boolean down, String stands, @Nullable Instant until,
                          String busyWith, boolean unattended, UsedBy usedBy, List<String> overdue) {

    /** One of which nothing is known but what it is. */
    public static MachineView of(Printer printer) {
        double bore = printer.nozzle().boreMm();
        return new MachineView(printer, new PrintLimits(bore, bore / 2, PrintLimits.USUAL.narrowestGapMm(), PrintLimits.USUAL.longestBridgeMm()),
                false, false, "", null, "", true, UsedBy.EVERYBODY, List.of());
    }
}
