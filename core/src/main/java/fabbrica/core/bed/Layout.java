package fabbrica.core.bed;

import fabbrica.core.units.Spoken;
import java.util.ArrayList;
import java.util.List;
import org.jspecify.annotations.Nullable;
import org.locationtech.jts.geom.Envelope;
import org.locationtech.jts.geom.Geometry;
import org.locationtech.jts.geom.GeometryFactory;
import org.locationtech.jts.geom.prep.PreparedGeometry;
import org.locationtech.jts.geom.prep.PreparedGeometryFactory;
import org.locationtech.jts.operation.distance.IndexedFacetDistance;

/**
 * Whether outlines that lie on a bed can be printed where they lie: inside it, off its keep-out zones, apart from one another.
 *
 * @param troubles what cannot be printed so
 * @param nearestMm least distance between any two, brims and rafts included; infinite for one, below zero where they overlap
 */
public record Layout(List<Trouble> troubles, double nearestMm) {

    private static final double EXACT_MM = 0.01;
    private static final GeometryFactory PLANE = new GeometryFactory();

    /**
     * @param first  number of the outline in the list
     * @param second the other one; −1 where it is the bed
     * @param reason a sentence
     */
    public record Trouble(int first, int second, String reason) {
    }

    /**
     * Room around what lies on the bed.
     *
     * @param around what each copy has around and under it: brim or raft
     * @param edgeMm what all copies together have around them: a skirt
     */
    public record Room(Allowance around, double edgeMm) {
    }

    /**
     * @param outlines placed, in the order in which they are printed when it is one after another
     * @param head     what a machine needs to print them so; null when it prints layer by layer
     */
    public static Layout of(List<Outline> outlines, Bed bed, Room room, @Nullable Clearance head) {
        List<Trouble> troubles = new ArrayList<>();
        double nearest = Double.POSITIVE_INFINITY, wanted = head == null ? 0 : head.headRadiusMm();
        List<Lying> lying = outlines.stream().map(outline -> new Lying(outline, room.around())).toList();
        for (int i = 0; i < outlines.size(); i++) {
            bed(i, outlines.get(i), bed, room, troubles);
            for (int j = i + 1; j < outlines.size(); j++) {
                if (lying.get(i).gapAtLeast(lying.get(j)) > Math.max(nearest, wanted)) {
                    continue;
                }
                double gap = lying.get(i).gap(lying.get(j));
                nearest = Math.min(nearest, gap);
                double exact = EXACT_MM + outlines.get(i).cellMm() + outlines.get(j).cellMm();
                if (gap < -exact) {
                    troubles.add(new Trouble(i, j, "Copies %d and %d are too close: %s.".formatted(i + 1, j + 1,
                            room.around().marginMm() > 0 ? "their brims or rafts would overlap" : "they overlap")));
                } else if (head != null && gap < head.headRadiusMm() - exact) {
                    troubles.add(new Trouble(i, j, "Copies %d and %d are %s mm apart; one after another the head needs %s mm.".formatted(
                            i + 1, j + 1, Spoken.number(Math.max(0, gap), 1), Spoken.number(head.headRadiusMm(), 0))));
                }
            }
            if (head != null && i + 1 < outlines.size() && outlines.get(i).heightMm() > head.gantryMm()) {
                troubles.add(new Trouble(i, -1, "Copy %d is %s mm high; one that is finished before others may have %s mm.".formatted(i + 1,
                        Spoken.number(outlines.get(i).heightMm(), 1), Spoken.number(head.gantryMm(), 0))));
            }
        }
        return new Layout(List.copyOf(troubles), nearest);
    }

    /** Of one copy that was looked for a place. */
    public static Layout of(BedFit fit) {
        return new Layout(fit.fits() ? List.of() : List.of(new Trouble(0, -1, "Does not fit: %s Largest scale %s %%.".formatted(fit.why(),
                Spoken.number(fit.largestScale() * 100, 1)))), Double.POSITIVE_INFINITY);
    }

    private static void bed(int number, Outline outline, Bed bed, Room room, List<Trouble> troubles) {
        Envelope box = new Envelope(outline.box());
        box.expandBy(Math.max(room.edgeMm(), margin(outline, room.around())));
        if (box.getMinX() < -EXACT_MM || box.getMinY() < -EXACT_MM || box.getMaxX() > bed.widthMm() + EXACT_MM
                || box.getMaxY() > bed.depthMm() + EXACT_MM) {
            troubles.add(new Trouble(number, -1, "Copy %d reaches beyond the bed.".formatted(number + 1)));
        }
        if (outline.heightMm() + room.around().heightMm() > bed.heightMm() + EXACT_MM) {
            troubles.add(new Trouble(number, -1, "Copy %d is %s mm high, more than the %s mm there are.".formatted(number + 1,
                    Spoken.number(outline.heightMm() + room.around().heightMm(), 1), Spoken.number(bed.heightMm(), 1))));
        }
        for (Bed.Zone zone : bed.keepOut()) {
            Geometry kept = PLANE.toGeometry(new Envelope(zone.minX(), zone.maxX(), zone.minY(), zone.maxY()));
            double apart = outline.shape().intersects(kept) ? overlap(outline.shape(), kept) : outline.shape().distance(kept);
            if (apart - margin(outline, room.around()) < -EXACT_MM - outline.cellMm()) {
                troubles.add(new Trouble(number, -1, "Copy %d lies where the bed is to be kept free.".formatted(number + 1)));
            }
        }
    }

    /** Below zero, about by how much they overlap. */
    private static double overlap(Geometry a, Geometry b) {
        Envelope both = a.intersection(b).getEnvelopeInternal();
        return -Math.min(both.getWidth(), both.getHeight());
    }

    /** An outline with all that makes distances from it quick. */
    private static final class Lying {

        private final Geometry shape;
        private final double margin;
        private final Envelope box;
        private final PreparedGeometry prepared;
        private final IndexedFacetDistance distances;

        Lying(Outline outline, Allowance around) {
            shape = outline.shape();
            margin = margin(outline, around);
            box = shape.getEnvelopeInternal();
            prepared = PreparedGeometryFactory.prepare(shape);
            distances = new IndexedFacetDistance(shape);
        }

        /** No more than the gap. */
        double gapAtLeast(Lying other) {
            return box.distance(other.box) - margin - other.margin;
        }

        /** Below zero where they overlap, about by how much. */
        double gap(Lying other) {
            if (!prepared.intersects(other.shape)) {
                return distances.distance(other.shape) - margin - other.margin;
            }
            return overlap(shape, other.shape) - margin - other.margin;
        }
    }

    /** What stands on the bed inside of the outline has room for a brim there. */
    private static double margin(Outline outline, Allowance around) {
        return around.propped() ? around.marginMm() : Math.max(0, around.marginMm() - outline.footMm());
    }
}
