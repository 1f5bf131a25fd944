package fabbrica.core.inspect;

import fabbrica.core.units.OutOfRange;

/**
 * What a machine can hold of a part's finer shapes.
 *
 * @param lineWidthMm     one line of plastic; thinner walls vanish, walls thinner than two lines are weak
 * @param layerHeightMm   together with the line it says how steep an overhang may be
 * @param narrowestGapMm  narrower gaps fuse
 * @param longestBridgeMm longer bridges sag
 */
public record PrintLimits(double lineWidthMm, double layerHeightMm, double narrowestGapMm, double longestBridgeMm) {

    /** A 0.4 mm nozzle with layers of half its bore; gap and bridge are common practice, no source. */
    public static final PrintLimits USUAL = of(0.4);

    private static final double USUAL_GAP_MM = 0.3;
    private static final double USUAL_BRIDGE_MM = 10;

    public PrintLimits {
        OutOfRange.check("Line width", lineWidthMm, 0.05, 4, "mm");
        OutOfRange.check("Layer height", layerHeightMm, 0.02, 2, "mm");
        OutOfRange.check("Narrowest gap", narrowestGapMm, 0, 5, "mm");
        OutOfRange.check("Longest bridge", longestBridgeMm, 0, 1000, "mm");
    }

    /** The usual limits of a nozzle: a line as wide as the bore, layers of half the bore (common practice, no source). */
    public static PrintLimits of(double boreMm) {
        return new PrintLimits(boreMm, boreMm / 2, USUAL_GAP_MM, USUAL_BRIDGE_MM);
    }

    /** Steepest overhang, in degrees from the vertical, at which each line still lies on the one below by half. */
    public double steepestOverhangDeg() {
        return Math.toDegrees(Math.atan(lineWidthMm / 2 / layerHeightMm));
    }

    /** The smallest factor at which walls keep one line and gaps stay open; above 1 when they do not even now. */
    public double smallestScale(Thickness thickness) {
        return Math.max(lineWidthMm / thickness.thinnestWallMm(), narrowestGapMm / thickness.narrowestGapMm());
    }
}
