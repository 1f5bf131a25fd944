package fabbrica.core.recipe;

import fabbrica.core.units.OutOfRange;

/**
 * How fast each kind of line is laid; the recipe's own speed holds for the rest. A printer's limits come on top.
 *
 * @param outerWallMmS     mm/s
 * @param solidMmS         closed layers and bridges, mm/s
 * @param firstLayerMmS    nothing on the first layer is faster, mm/s
 * @param travelMmS        without extruding, mm/s
 * @param outerAcceleration part of the printer's acceleration with which outer walls are laid, above 0 to 1
 * @param minimumLayerS    a layer that would take less is slowed down, so that it can cool; s
 * @param slowestMmS       but not below this
 */
public record Pace(double outerWallMmS, double solidMmS, double firstLayerMmS, double travelMmS,
                   double outerAcceleration, double minimumLayerS, double slowestMmS) {

    /** Common practice, no source: a slower outer wall looks better, the first layer runs at half speed. */
    private static final double OUTER_WALL = 0.6;
    private static final double SOLID = 0.8;
    private static final double FIRST_LAYER = 0.5;
    /** Faster than any printer here, so that the printer's own limit holds. */
    private static final double AS_FAST_AS_CAN_BE = 2000;
    /** Common practice, no source. */
    private static final double MINIMUM_LAYER_S = 5;
    private static final double SLOWEST_MM_S = 10;

    public Pace {
        RecipeField.OUTER_SPEED.check(outerWallMmS);
        OutOfRange.check("Speed of closed layers", solidMmS, 1, 2000, "mm/s");
        RecipeField.FIRST_LAYER_SPEED.check(firstLayerMmS);
        RecipeField.TRAVEL_SPEED.check(travelMmS);
        OutOfRange.check("Acceleration of outer walls", outerAcceleration * 100, 1, 100, "%");
        RecipeField.LAYER_TIME.check(minimumLayerS);
        OutOfRange.check("Slowest speed", slowestMmS, 0.5, 200, "mm/s");
    }

    public static Pace usual(double speedMmS) {
        return new Pace(Math.max(1, OUTER_WALL * speedMmS), Math.max(1, SOLID * speedMmS),
                Math.max(1, FIRST_LAYER * speedMmS), AS_FAST_AS_CAN_BE, 1, MINIMUM_LAYER_S, SLOWEST_MM_S);
    }

    /** Everything but travel multiplied. */
    public Pace faster(double factor) {
        return new Pace(Math.round(outerWallMmS * factor), Math.round(solidMmS * factor), firstLayerMmS, travelMmS,
                outerAcceleration, minimumLayerS, slowestMmS);
    }

    public Pace withOuterWall(double mmS) {
        return new Pace(mmS, solidMmS, firstLayerMmS, travelMmS, outerAcceleration, minimumLayerS, slowestMmS);
    }

    public Pace withFirstLayer(double mmS) {
        return new Pace(outerWallMmS, solidMmS, mmS, travelMmS, outerAcceleration, minimumLayerS, slowestMmS);
    }

    public Pace withTravel(double mmS) {
        return new Pace(outerWallMmS, solidMmS, firstLayerMmS, mmS, outerAcceleration, minimumLayerS, slowestMmS);
    }

    public Pace withMinimumLayer(double seconds) {
        return new Pace(outerWallMmS, solidMmS, firstLayerMmS, travelMmS, outerAcceleration, seconds, slowestMmS);
    }
}
