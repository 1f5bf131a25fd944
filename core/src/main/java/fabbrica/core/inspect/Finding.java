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
        OPEN_EDGES("the surface has holes"), NON_MANIFOLD("surfaces meet where they should not"), FLIPPED("inside and outside are swapped"),
        DEGENERATE("crumbs in the surface"), DUPLICATE("some of the surface is there twice"), INTERSECTING("the surface runs through itself"),
        MULTIPLE_BODIES("several bodies"), TRAPPED_VOID("a closed hollow"), FLOATING_BODY("a piece hangs loose in the air"),
        UNIT_SUSPECT("the unit is doubtful"), TOO_BIG("too big"), TOO_SMALL("too small"), THIN_WALL("thin walls"), NARROW_GAP("narrow gaps"),
        OVERHANG("something hangs over air"), ISLAND("something begins in mid-air"), SMALL_CONTACT("little lies on the bed"),
        TIPS_OVER("it stands badly"),
        NOTHING_LAID("nothing is laid"), OFF_BED("beside the bed"), WRONG_TEMPERATURE("wrong temperature"), WRONG_FILAMENT("wrong filament"),
        WRONG_NOZZLE("wrong nozzle"), WRONG_TOOL("wrong tool"), AXES_MIXED("axes mixed"), FIRST_MOVE("a doubtful first move"),
        TOO_MUCH_FLOW("more flow than melts"), SPOOL_SHORT("the spool is short"), UNKNOWN_CODES("commands nobody knows"), MALFORMED("lines that cannot be read"),
        READ_WITH_CARE("to be read with care"), OTHER_PRINTER("names another printer");

        private final String plain;

        Code(String plain) {
            this.plain = plain;
        }

        /** As somebody at the counter would say it. */
        public String plain() {
            return plain;
        }

        public String code() {
            return name().toLowerCase(Locale.ROOT).replace('_', '-');
        }
    }
}
