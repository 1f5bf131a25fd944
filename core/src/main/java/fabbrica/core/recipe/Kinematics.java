package fabbrica.core.recipe;

import fabbrica.core.units.OutOfRange;

/**
 * How a printer can move.
 *
 * @param maxSpeedMmS        fastest the head travels, mm/s
 * @param accelerationMmS2   mm/s², printing and travel
 * @param cornerSpeedMmS     speed at which a right-angled corner is taken, mm/s
 * @param zSpeedMmS          speed of the vertical axis, mm/s
 * @param maxFlowMm3S        most plastic the hot end melts, mm³/s
 * @param retractionMm       filament drawn back before a travel over air
 * @param retractionSpeedMmS mm/s of filament
 */
public record Kinematics(double maxSpeedMmS, double accelerationMmS2, double cornerSpeedMmS, double zSpeedMmS,
                         double maxFlowMm3S, double retractionMm, double retractionSpeedMmS) {

    public Kinematics {
        OutOfRange.check("Top speed", maxSpeedMmS, 1, 2000, "mm/s");
        OutOfRange.check("Acceleration", accelerationMmS2, 10, 100_000, "mm/s²");
        OutOfRange.check("Corner speed", cornerSpeedMmS, 0.1, 200, "mm/s");
        OutOfRange.check("Vertical speed", zSpeedMmS, 0.1, 500, "mm/s");
        OutOfRange.check("Flow", maxFlowMm3S, 0.1, 500, "mm³/s");
        OutOfRange.check("Retraction", retractionMm, 0, 20, "mm");
        OutOfRange.check("Retraction speed", retractionSpeedMmS, 1, 500, "mm/s");
    }

    public Kinematics withAcceleration(double mmS2) {
        return new Kinematics(maxSpeedMmS, mmS2, cornerSpeedMmS, zSpeedMmS, maxFlowMm3S, retractionMm,
                retractionSpeedMmS);
    }

    public Kinematics withMaxFlow(double mm3S) {
        return new Kinematics(maxSpeedMmS, accelerationMmS2, cornerSpeedMmS, zSpeedMmS, mm3S, retractionMm,
                retractionSpeedMmS);
    }
}
