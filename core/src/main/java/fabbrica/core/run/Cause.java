package fabbrica.core.run;

import static fabbrica.core.run.Defect.BLURRED;
import static fabbrica.core.run.Defect.CAME_OFF;
import static fabbrica.core.run.Defect.DROOPED;
import static fabbrica.core.run.Defect.ECHOES;
import static fabbrica.core.run.Defect.FUSED;
import static fabbrica.core.run.Defect.GAPS;
import static fabbrica.core.run.Defect.KNOCKED_OFF;
import static fabbrica.core.run.Defect.LIFTED;
import static fabbrica.core.run.Defect.RAN_OUT;
import static fabbrica.core.run.Defect.ROUGH;
import static fabbrica.core.run.Defect.SHIFTED;
import static fabbrica.core.run.Defect.SNAPPED;
import static fabbrica.core.run.Defect.SPLIT;
import static fabbrica.core.run.Defect.STEPS;
import static fabbrica.core.run.Defect.STOPPED;
import static fabbrica.core.run.Defect.STRINGS;
import static fabbrica.core.run.Defect.TORN;
import static fabbrica.core.run.Defect.WRONG_COLOUR;
import static fabbrica.core.run.Defect.WRONG_SIZE;

import java.util.Arrays;
import java.util.Comparator;
import java.util.List;
import java.util.Map;

/**
 * Why a print went wrong, by what it shows: how often it is the cause before anything is known, how often it shows each sign, and what helps, the easiest and
 * least costly first (common practice, no source; the shares are a judgement of ours).
 */
public enum Cause {
    DIRTY_PLATE("a dirty plate", 3, Map.of(CAME_OFF, 0.6, LIFTED, 0.45, TORN, 0.4), Remedy.WASH_PLATE, Remedy.GLUE, Remedy.BRIM),
    SMALL_CONTACT("too little of it on the bed", 2, Map.of(CAME_OFF, 0.7, KNOCKED_OFF, 0.2), Remedy.BRIM, Remedy.RAFT, Remedy.GLUE, Remedy.LAY_DOWN),
    NOT_LEVEL("a bed that is not level", 1, Map.of(TORN, 0.6, CAME_OFF, 0.4, LIFTED, 0.1), Remedy.LEVEL, Remedy.GLUE),
    TALL_AND_THIN("tall and thin on its foot", 1, Map.of(KNOCKED_OFF, 0.8, SHIFTED, 0.15, CAME_OFF, 0.1), Remedy.BRIM, Remedy.SLOWER, Remedy.LAY_DOWN),
    SHRINKING("plastic that shrinks as it cools", 1, Map.of(LIFTED, 0.75, SPLIT, 0.3, CAME_OFF, 0.15), Remedy.NO_DRAUGHT, Remedy.BRIM, Remedy.GLUE),
    CLOGGED("a clogged or worn nozzle, or a damaged cover", 2, Map.of(GAPS, 0.8, TORN, 0.1), Remedy.CHECK_NOZZLE, Remedy.OTHER_SPOOL),
    SNAGGED("a spool that did not unwind", 1.5, Map.of(GAPS, 0.7, SHIFTED, 0.15, STOPPED, 0.15), Remedy.CHECK_SPOOL, Remedy.OTHER_SPOOL),
    SPOOL_EMPTY("a spool that was too short", 1, Map.of(RAN_OUT, 0.9, GAPS, 0.35, STOPPED, 0.1), Remedy.OTHER_SPOOL),
    TOO_MUCH_FLOW("more plastic asked for than melts", 1, Map.of(GAPS, 0.75, SPLIT, 0.1), Remedy.SLOWER),
    WET("wet filament", 1.5, Map.of(STRINGS, 0.8, ROUGH, 0.15, GAPS, 0.1), Remedy.DRY_FILAMENT, Remedy.OTHER_SPOOL, Remedy.COOLER),
    TOO_HOT("a nozzle too hot for this filament", 1, Map.of(STRINGS, 0.75, DROOPED, 0.1, BLURRED, 0.1), Remedy.COOLER, Remedy.OTHER_SPOOL),
    WIDE_NOZZLE("a nozzle too wide for it", 1, Map.of(BLURRED, 0.8, STRINGS, 0.25, FUSED, 0.15), Remedy.FINER_NOZZLE, Remedy.LARGER),
    NO_SUPPORT("nothing under what hangs", 2, Map.of(DROOPED, 0.75, ROUGH, 0.25, STRINGS, 0.05, SHIFTED, 0.05), Remedy.SUPPORTS, Remedy.LAY_DOWN),
    POOR_COOLING("layers laid on what was still soft", 1, Map.of(DROOPED, 0.55, ROUGH, 0.3, BLURRED, 0.2), Remedy.LONGER_LAYERS, Remedy.COOLER),
    THICK_LAYERS("layers too thick", 1, Map.of(STEPS, 0.85, DROOPED, 0.3, BLURRED, 0.1), Remedy.THINNER_LAYERS, Remedy.LAY_DOWN),
    CLOSE_SUPPORTS("supports too close under it", 0.7, Map.of(ROUGH, 0.7, SNAPPED, 0.2), Remedy.LOOSER_SUPPORTS, Remedy.LAY_DOWN),
    TOO_FAST("edges taken too fast", 1, Map.of(ECHOES, 0.9, SHIFTED, 0.1), Remedy.SLOWER_OUTER, Remedy.SLOWER),
    HEAD_HIT("the head hitting the print", 1, Map.of(SHIFTED, 0.7, KNOCKED_OFF, 0.3), Remedy.SUPPORTS, Remedy.LONGER_LAYERS, Remedy.SLOWER),
    LOOSE_BELT("a loose belt", 0.8, Map.of(SHIFTED, 0.7, ECHOES, 0.25, WRONG_SIZE, 0.05), Remedy.TIGHTEN_BELTS),
    NARROW_GAP("a gap narrower than the machine can hold", 1, Map.of(FUSED, 0.9), Remedy.LARGER, Remedy.FINER_NOZZLE),
    TOO_THIN("a feature too thin at that scale", 1, Map.of(SNAPPED, 0.8, GAPS, 0.1, BLURRED, 0.1), Remedy.LARGER, Remedy.LAY_DOWN),
    SUPPORT_IN_LOOP("supports inside a thin loop", 0.6, Map.of(SNAPPED, 0.8), Remedy.NO_SUPPORTS, Remedy.LOOSER_SUPPORTS, Remedy.LARGER),
    WRONG_UNIT("the unit or the scale", 1, Map.of(WRONG_SIZE, 0.95), Remedy.RIGHT_UNIT),
    WRONG_FILE("another file than this plate's", 0.6, Map.of(WRONG_SIZE, 0.5, STOPPED, 0.2, TORN, 0.15), Remedy.CHECK_FILE),
    WRONG_SPOOL("another spool than planned", 0.5, Map.of(WRONG_COLOUR, 0.95, STRINGS, 0.1), Remedy.RIGHT_SPOOL),
    TOO_COLD("layers that did not fuse", 0.7, Map.of(SPLIT, 0.8, GAPS, 0.1), Remedy.HOTTER, Remedy.NO_DRAUGHT),
    CUT_SHORT("a power cut or somebody who stopped it", 0.7, Map.of(STOPPED, 0.95), Remedy.JUST_AGAIN);

    private static final double SELDOM = 0.015;
    private static final double OFTEN = 0.3;

    private final String label;
    private final double prior;
    private final Map<Defect, Double> shows;
    private final List<Remedy> remedies;

    Cause(String label, double prior, Map<Defect, Double> shows, Remedy... remedies) {
        this.label = label;
        this.prior = prior;
        this.shows = shows;
        this.remedies = List.of(remedies);
    }

    /** To go on from "likely ". */
    public String label() {
        return label;
    }

    /** How often before anything is known, against the others. */
    double prior() {
        return prior;
    }

    /** How often it shows a sign, 0 to 1; whoever looks may be mistaken, so never 0. */
    double shows(Defect defect) {
        return shows.getOrDefault(defect, SELDOM);
    }

    /** Those that often show a sign, the most usual first. */
    public static List<Cause> of(Defect defect) {
        return Arrays.stream(values()).filter(cause -> cause.shows(defect) >= OFTEN).sorted(Comparator.comparingDouble((Cause cause) -> -cause.prior * cause.shows(defect))).toList();
    }

    public List<Remedy> remedies() {
        return remedies;
    }
}
