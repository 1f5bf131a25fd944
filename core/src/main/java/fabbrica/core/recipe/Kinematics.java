package fabbrica.core.recipe;

import fabbrica.core.units.OutOfRange;

/**
 * How a printer can move.
 *
 * @param maxSpeedMmS        fastest the head travels, mm/s
 * @param accelerationMmS2   mm/s², printing and travel
 * @param zSpeedMmS          speed of the vertical axis, mm/s
 * @param maxFlowMm3S        most plastic the hot end melts, mm³/s
 * @param retractionMm       filament drawn back before a travel over air
 * @param retractionSpeedMmS mm/s of filament
 * @param board              what its control board holds the motors to
 */
public record Kinematics(double maxSpeedMmS, double accelerationMmS2, Cornering cornering, double zSpeedMmS,
                         double maxFlowMm3S, double retractionMm, double retractionSpeedMmS, Board board) {

    public Kinematics {
        OutOfRange.check("Top speed", maxSpeedMmS, 1, 2000, "mm/s");
        OutOfRange.check("Acceleration", accelerationMmS2, 10, 100_000, "mm/s²");
        OutOfRange.check("Vertical speed", zSpeedMmS, 0.1, 500, "mm/s");
        OutOfRange.check("Flow", maxFlowMm3S, 0.1, 500, "mm³/s");
        OutOfRange.check("Retraction", retractionMm, 0, 20, "mm");
        OutOfRange.check("Retraction speed", retractionSpeedMmS, 1, 500, "mm/s");
    }

    /** With the usual board. */
    public Kinematics(double maxSpeedMmS, double accelerationMmS2, double cornerSpeedMmS, double zSpeedMmS,
                      double maxFlowMm3S, double retractionMm, double retractionSpeedMmS) {
        this(maxSpeedMmS, accelerationMmS2, new Cornering.AtSpeed(cornerSpeedMmS), zSpeedMmS, maxFlowMm3S,
                retractionMm, retractionSpeedMmS, Board.USUAL);
    }

    /** Speed at which a right-angled corner is taken, mm/s. */
    public double cornerSpeedMmS() {
        return switch (cornering) {
            case Cornering.AtSpeed(double mmS) -> mmS;
            case Cornering.Deviation(double mm) -> Math.sqrt(accelerationMmS2 * mm / (Math.sqrt(2) - 1));
            case Cornering.Jerk(double mmS) -> mmS;
        };
    }

    public Kinematics with(Cornering other) {
        return new Kinematics(maxSpeedMmS, accelerationMmS2, other, zSpeedMmS, maxFlowMm3S, retractionMm,
                retractionSpeedMmS, board);
    }

    public Kinematics withAcceleration(double mmS2) {
        return new Kinematics(maxSpeedMmS, mmS2, cornering, zSpeedMmS, maxFlowMm3S, retractionMm,
                retractionSpeedMmS, board);
    }

    public Kinematics withMaxSpeed(double mmS) {
        return new Kinematics(mmS, accelerationMmS2, cornering, zSpeedMmS, maxFlowMm3S, retractionMm,
                retractionSpeedMmS, board);
    }

    public Kinematics withMaxFlow(double mm3S) {
        return new Kinematics(maxSpeedMmS, accelerationMmS2, cornering, zSpeedMmS, mm3S, retractionMm,
                retractionSpeedMmS, board);
    }

    public Kinematics with(Board other) {
        return new Kinematics(maxSpeedMmS, accelerationMmS2, cornering, zSpeedMmS, maxFlowMm3S, retractionMm,
                retractionSpeedMmS, other);
    }
}
