package fabbrica.core.inspect;

import java.util.List;
import java.util.Locale;

/**
 * One thing measured on a part that somebody should know.
 *
 * @param count   how often it occurs; 1 where counting makes no sense
 * @param message what was found, with its numbers
 * @param why     why it matters
 * @param advice  what to do
 * @param places  where it can be seen, the worst first; empty when it is everywhere or nowhere
 */
public record Finding(Code code, Severity severity, long count, String message, String why, String advice,
                      List<Place> places) {

    public Finding {
        places = List.copyOf(places);
    }

    public static Finding everywhere(Code code, Severity severity, long count, String message, String why,
                                     String advice) {
        return new Finding(code, severity, count, message, why, advice, List.of());
    }

    /** Stable codes, as they stand in JSON. */
    public enum Code {
        OPEN_EDGES, NON_MANIFOLD, FLIPPED, DEGENERATE, DUPLICATE, INTERSECTING, MULTIPLE_BODIES, TRAPPED_VOID,
        FLOATING_BODY, UNIT_SUSPECT, TOO_BIG, TOO_SMALL, THIN_WALL, NARROW_GAP, OVERHANG, ISLAND, SMALL_CONTACT,
        TIPS_OVER,
        NOTHING_LAID, OFF_BED, WRONG_TEMPERATURE, WRONG_FILAMENT, WRONG_NOZZLE, WRONG_TOOL, AXES_MIXED, FIRST_MOVE,
        TOO_MUCH_FLOW, SPOOL_SHORT, UNKNOWN_CODES, MALFORMED, READ_WITH_CARE, OTHER_PRINTER;

        public String code() {
            return name().toLowerCase(Locale.ROOT).replace('_', '-');
        }
    }
}
