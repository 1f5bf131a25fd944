package fabbrica.core.recipe;

import fabbrica.core.units.OutOfRange;
import fabbrica.core.units.Spoken;

/**
 * A nozzle. Bores are free numbers, drilled-out ones included.
 *
 * @param hardened whether it bears abrasive filament
 */
public record Nozzle(double boreMm, boolean hardened) {

    /** The usual layer height window, in parts of the bore (common practice, no source). */
    private static final double THINNEST = 0.2;
    private static final double THICKEST = 0.7;

    /** Usual and thinnest lines in parts of the bore (common practice, no source). */
    static final double USUAL_LINE = 1.05;
    static final double THINNEST_LINE = 0.5;
    /** A line may be up to about twice the bore, and hardly narrower than it (common practice, no source). */
    private static final double NARROWEST_LINE = 0.85;
    private static final double WIDEST_LINE = 2;

    public Nozzle {
        OutOfRange.check("Nozzle bore", boreMm, 0.1, 2, "mm");
    }

    public double thinnestLayerMm() {
        return THINNEST * boreMm;
    }

    public double thickestLayerMm() {
        return THICKEST * boreMm;
    }

    /** Narrowest and widest line for what is printed with this nozzle. */
    public double narrowestLineMm() {
        return NARROWEST_LINE * boreMm;
    }

    public double widestLineMm() {
        return WIDEST_LINE * boreMm;
    }

    /** Whether a line is neither much narrower than the bore nor too wide for it. */
    public boolean canDraw(double lineWidthMm) {
        return lineWidthMm >= narrowestLineMm() - 1e-9 && lineWidthMm <= widestLineMm() + 1e-9;
    }

    /** The thinnest line, and so the thinnest wall, that can be laid. */
    public double thinnestLineMm() {
        return THINNEST_LINE * boreMm;
    }

    public boolean canLay(double layerHeightMm) {
        return layerHeightMm >= thinnestLayerMm() - 1e-9 && layerHeightMm <= thickestLayerMm() + 1e-9;
    }

    /** @throws OutOfRange with a sentence when the layer is outside the window */
    public void checkLayer(double layerHeightMm) {
        if (!canLay(layerHeightMm)) {
            throw new OutOfRange("Layer height must be between %s and %s mm for a nozzle of %s mm; %s was given.".formatted(
                    Spoken.number(thinnestLayerMm(), 2), Spoken.number(thickestLayerMm(), 2), Spoken.number(boreMm, 2),
                    Spoken.number(layerHeightMm)));
        }
    }

    @Override
    public String toString() {
        return Spoken.number(boreMm, 2) + " mm" + (hardened ? ", hardened" : "");
    }
}
