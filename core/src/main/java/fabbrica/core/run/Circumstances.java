package fabbrica.core.run;

import fabbrica.core.inspect.Inspection;
import fabbrica.core.inspect.Overhang;
import fabbrica.core.inspect.PrintLimits;
import fabbrica.core.mesh.model.Bounds;
import fabbrica.core.recipe.Material;
import fabbrica.core.recipe.Printer;
import fabbrica.core.recipe.Recipe;
import java.util.List;
import java.util.Optional;
import java.util.Set;
import java.util.stream.Stream;

/**
 * All that is known about a run that went wrong, beside what its print shows.
 *
 * @param layers as they were laid, from the bed up; empty as long as nobody knows
 * @param tried  what was changed for this run and for those before it
 * @param fixed  whether its file was sliced elsewhere: its recipe is nobody's to change here
 */
public record Circumstances(Shape shape, List<LaidLayer> layers, Recipe recipe, Material material, Printer printer, History history, Set<Remedy> tried, boolean fixed) {

    /**
     * The part as it lay.
     *
     * @param contactMm2     of it on the bed
     * @param tippingDeg     how far it may be tilted before it falls over
     * @param longestMm      side of the box around it, seen from above
     * @param freeMm2        that hangs over air beyond what a machine bridges
     * @param hangsAtMm      heights at which something begins to hang
     * @param shallowShare   of its surface on slopes where steps show, 0 to 1
     * @param thinnestWallMm infinite when nothing is thin; so with the gap
     * @param unitDoubtful   whether its size makes its unit doubtful
     */
    public record Shape(double heightMm, double contactMm2, double tippingDeg, double longestMm, double freeMm2, List<Double> hangsAtMm, double shallowShare,
                        double thinnestWallMm, double narrowestGapMm, boolean unitDoubtful) {

        /** Of which nothing is known: it stands neither well nor badly, and nothing of it is taken to hang, to be thin or narrow. */
        public static final Shape UNKNOWN = new Shape(0, 300, 12, 60, 0, List.of(), 0, Double.POSITIVE_INFINITY, 0.5, false);

        /** @param limits of the machine: its longest bridge, mm */
        public static Shape of(Inspection part, PrintLimits limits, double shallowShare) {
            Bounds bounds = part.bounds();
            return new Shape(bounds.sizeZ(), part.stand().contactMm2(), part.stand().tippingDeg(), Math.max(bounds.sizeX(), bounds.sizeY()),
                    part.overhang().freeAreaMm2(limits.longestBridgeMm()), Stream.concat(part.islands().stream().map(island -> island.z() - bounds.minZ()),
                    part.overhang().patches().stream().map(Overhang.Patch::lowestZMm)).toList(), shallowShare, part.thickness().thinnestWallMm(),
                    part.thickness().narrowestGapMm(), part.suspectedUnit().isPresent());
        }
    }

    /**
     * A layer.
     *
     * @param sectionMm2 that is laid on it
     * @param change     whether the filament is changed before it
     */
    public record LaidLayer(double topMm, double seconds, double sectionMm2, boolean change) {
    }

    /**
     * What came before the run.
     *
     * @param runsSinceWash   of the printer, since its plate was washed; negative when nobody has written that down
     * @param levelDue        whether calibrating the bed is overdue; so with the belts
     * @param nozzleHours     that the nozzle has run
     * @param otherRuns       of the printer lately, of other parts; of them alike those with the same sign
     * @param spoolRuns       from the spool lately; of them alike those with the same sign
     * @param openDays        since the spool was opened, or dried last; negative when nobody knows
     * @param leftG           on the spool before the run; needed by it
     * @param checked         whether the machine has read its file back
     */
    public record History(int runsSinceWash, boolean levelDue, boolean beltsDue, double nozzleHours, int otherRuns, int otherAlike, int spoolRuns, int spoolAlike,
                          int openDays, double leftG, double neededG, boolean checked) {
    }

    public Circumstances {
        layers = List.copyOf(layers);
        tried = Set.copyOf(tried);
    }

    /** The layer at a height; nothing when it is not known. */
    Optional<LaidLayer> layerAt(double mm) {
        return layers.stream().filter(layer -> layer.topMm() >= mm - 1e-6).findFirst();
    }
}
