package fabbrica.core.run;

import fabbrica.core.recipe.Preparation;

/**
 * A bed that was switched off, in still air: T = room + (T₀ − room)·exp(−t/τ) (lumped capacitance, textbook heat transfer).
 *
 * @param bedC that it has now
 */
public record Cooling(double bedC) {

    /** A print comes off a bed that is no warmer (common practice, no source). */
    public static final double LIFT_C = 35;
    /** Of a bed for a table (common practice, no source). */
    private static final double TAU_S = 900;

    /** Of one that was as warm so many seconds ago. */
    public static Cooling after(double bedC, double seconds) {
        return new Cooling(Preparation.ROOM_C + (bedC - Preparation.ROOM_C) * Math.exp(-Math.max(0, seconds) / TAU_S));
    }

    /** Seconds until a print comes off; 0 when it does. */
    public double secondsToLift() {
        return bedC <= LIFT_C ? 0 : TAU_S * Math.log((bedC - Preparation.ROOM_C) / (LIFT_C - Preparation.ROOM_C));
    }
}
