package fabbrica.core.judge;

import fabbrica.core.inspect.Columns;
import fabbrica.core.inspect.Inspection;
import fabbrica.core.inspect.PrintLimits;
import fabbrica.core.recipe.Supports;
import fabbrica.core.units.Spoken;

/**
 * Whether a part needs supports as it lies: something hangs free beyond what a machine bridges, or begins in mid-air. The
 * only place that decides it.
 *
 * @param where  they have to stand; {@link Supports.Where#NONE} when it needs none
 * @param reason a sentence
 */
public record SupportAdvice(Supports.Where where, String reason) {

    private static final double WORTH_SUPPORTING_MM2 = 1;
    /** Of the room under overhangs, what may lie over the part itself and be left to bridge (a judgement of ours). */
    private static final double OVER_THE_PART = 0.1;

    public boolean wanted() {
        return where != Supports.Where.NONE;
    }

    /** @param limits of the machine in mind: its longest bridge, mm */
    public static SupportAdvice of(Inspection inspection, PrintLimits limits) {
        double free = inspection.overhang().freeAreaMm2(limits.longestBridgeMm());
        if (free > WORTH_SUPPORTING_MM2) {
            return new SupportAdvice(standing(inspection.columns()), "%s mm² hang free.".formatted(Spoken.number(free, 0)));
        }
        int islands = inspection.islands().size();
        return islands == 0 ? new SupportAdvice(Supports.Where.NONE, "Nothing hangs free.")
                : new SupportAdvice(standing(inspection.columns()), "%s in mid-air.".formatted(islands == 1 ? "1 place begins"
                        : Spoken.count(islands, "place") + " begin"));
    }

    /** On the part only where the bed alone would not carry what hangs. */
    private static Supports.Where standing(Columns columns) {
        return columns.onPartMm3() > OVER_THE_PART * columns.supportMm3() ? Supports.Where.EVERYWHERE : Supports.Where.BED;
    }
}
