package fabbrica.core.bed;

import fabbrica.core.mesh.model.Bounds;
import fabbrica.core.units.Spoken;
import java.util.ArrayList;
import java.util.List;

/**
 * What the head of a printer needs around and above it to print parts one after another.
 *
 * @param headRadiusMm nothing finished may be nearer to what is printed
 * @param gantryMm     nothing finished may be higher: the bar that carries the head passes over it
 */
public record Clearance(double headRadiusMm, double gantryMm) {

    /** Of most machines (common practice, no source). */
    public static final Clearance USUAL = new Clearance(35, 25);

    /** @return a sentence for each trouble; empty when they can be printed in this order */
    public List<String> against(List<Bounds> inOrder) {
        List<String> reasons = new ArrayList<>();
        for (int i = 0; i + 1 < inOrder.size(); i++) {
            if (inOrder.get(i).sizeZ() > gantryMm) {
                reasons.add("Part %d is %s mm high; one that is finished first may have %s mm.".formatted(i + 1,
                        Spoken.number(inOrder.get(i).sizeZ(), 1), Spoken.number(gantryMm, 1)));
            }
            for (int j = i + 1; j < inOrder.size(); j++) {
                double gap = gap(inOrder.get(i), inOrder.get(j));
                if (gap < headRadiusMm - 1e-6) {
                    reasons.add("Parts %d and %d are %s mm apart; the head needs %s mm.".formatted(i + 1, j + 1,
                            Spoken.number(gap, 1), Spoken.number(headRadiusMm, 1)));
                }
            }
        }
        return reasons;
    }

    private static double gap(Bounds a, Bounds b) {
        double x = Math.max(0, Math.max(a.minX() - b.maxX(), b.minX() - a.maxX()));
        double y = Math.max(0, Math.max(a.minY() - b.maxY(), b.minY() - a.maxY()));
        return Math.hypot(x, y);
    }
}
