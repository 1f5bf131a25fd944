package fabbrica.core.judge;

import fabbrica.core.bed.BedFit;
import fabbrica.core.recipe.Material;
import fabbrica.core.recipe.Nozzle;
import fabbrica.core.recipe.Printer;
import fabbrica.core.recipe.Recipe;
import fabbrica.core.recipe.Spool;
import fabbrica.core.units.Spoken;
import java.util.ArrayList;
import java.util.List;

/** Why a printer, or a spool on it, can not do a job; an empty list means it can. Each reason is a sentence. */
public final class Suitability {

    /** A line may be up to about twice the bore, and hardly narrower than it (common practice, no source). */
    private static final double NARROWEST_LINE = 0.85;

    private Suitability() {
    }

    /** What speaks against this printer for a part that lies as {@code fit} says, with this recipe and material. */
    public static List<String> against(Printer printer, Recipe recipe, Material material, BedFit fit) {
        List<String> reasons = new ArrayList<>();
        Nozzle nozzle = printer.nozzle();
        if (!fit.fits()) {
            reasons.add("Does not fit: %s Largest scale %s %%.".formatted(fit.why(),
                    Spoken.number(fit.largestScale() * 100, 1)));
        }
        if (!printer.materialIds().contains(material.id())) {
            reasons.add("%s is not allowed on this printer.".formatted(material.name()));
        }
        if (material.nozzleC() > printer.maxNozzleC()) {
            reasons.add("%s needs %d °C at the nozzle; this one reaches %d °C.".formatted(material.name(),
                    material.nozzleC(), printer.maxNozzleC()));
        }
        if (material.bedC() > printer.maxBedC()) {
            reasons.add("%s needs a bed of %d °C; this one reaches %d °C.".formatted(material.name(), material.bedC(),
                    printer.maxBedC()));
        }
        if (material.enclosed() && !printer.enclosed()) {
            reasons.add("%s needs an enclosed printer.".formatted(material.name()));
        }
        if (material.abrasive() && !nozzle.hardened()) {
            reasons.add("%s is abrasive and the nozzle is not hardened.".formatted(material.name()));
        }
        addWindowReason("Layer height", recipe.layerHeightMm(), nozzle, reasons);
        addWindowReason("First layer height", recipe.firstLayerHeightMm(), nozzle, reasons);
        if (recipe.lineWidthMm() < nozzle.boreMm() * NARROWEST_LINE || recipe.lineWidthMm() > nozzle.boreMm() * 2) {
            reasons.add("Line width %s mm does not suit the %s mm bore (%s to %s mm).".formatted(
                    Spoken.number(recipe.lineWidthMm(), 2), Spoken.number(nozzle.boreMm(), 2),
                    Spoken.number(nozzle.boreMm() * NARROWEST_LINE, 2), Spoken.number(nozzle.boreMm() * 2, 2)));
        }
        return List.copyOf(reasons);
    }

    /** What speaks against this spool for a run that takes {@code grams}. */
    public static List<String> against(Spool spool, double grams) {
        double missing = grams - spool.remainingG();
        return missing <= 0 ? List.of() : List.of("%s g short: %s left, %s needed.".formatted(
                Spoken.number(Math.ceil(missing), 0), Spoken.grams(Math.max(0, spool.remainingG())),
                Spoken.grams(grams)));
    }

    private static void addWindowReason(String what, double heightMm, Nozzle nozzle, List<String> reasons) {
        if (!nozzle.canLay(heightMm)) {
            reasons.add("%s %s mm is outside the %s mm nozzle's window (%s to %s mm).".formatted(what,
                    Spoken.number(heightMm, 2), Spoken.number(nozzle.boreMm(), 2),
                    Spoken.number(nozzle.thinnestLayerMm(), 2), Spoken.number(nozzle.thickestLayerMm(), 2)));
        }
    }
}
