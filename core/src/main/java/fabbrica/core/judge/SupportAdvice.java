package fabbrica.core.judge;

import fabbrica.core.inspect.Inspection;
import fabbrica.core.inspect.PrintLimits;
import fabbrica.core.units.Spoken;

/**
 * Whether a part needs supports as it lies: something hangs free beyond what a machine bridges, or begins in mid-air. The
 * only place that decides it.
 *
 * @param wanted whether it needs them
 * @param reason a sentence
 */
public record SupportAdvice(boolean wanted, String reason) {

    private static final double WORTH_SUPPORTING_MM2 = 1;

    /** @param limits of the machine in mind: its longest bridge, mm */
    public static SupportAdvice of(Inspection inspection, PrintLimits limits) {
        double free = inspection.overhang().freeAreaMm2(limits.longestBridgeMm());
        if (free > WORTH_SUPPORTING_MM2) {
            return new SupportAdvice(true, "%s mm² hang free.".formatted(Spoken.number(free, 0)));
        }
        int islands = inspection.islands().size();
        return islands == 0 ? new SupportAdvice(false, "Nothing hangs free.")
                : new SupportAdvice(true, "%s in mid-air.".formatted(islands == 1 ? "1 place begins"
                        : Spoken.count(islands, "place") + " begin"));
    }
}
