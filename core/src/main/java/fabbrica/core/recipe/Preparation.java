package fabbrica.core.recipe;

import fabbrica.core.units.OutOfRange;

/**
 * What a printer does before the first line, and people wonder why nothing moves.
 *
 * @param bedCPerS    how fast the bed heats, °C/s
 * @param nozzleCPerS how fast the nozzle heats, °C/s
 * @param homingS     seconds
 * @param levellingS  seconds for levelling and calibration
 * @param purgeS      seconds
 * @param purgeMm3    plastic purged
 */
public record Preparation(double bedCPerS, double nozzleCPerS, double homingS, double levellingS, double purgeS,
                          double purgeMm3) {

    public static final double ROOM_C = 20;

    public Preparation {
        OutOfRange.check("Bed heating", bedCPerS, 0.01, 20, "°C/s");
        OutOfRange.check("Nozzle heating", nozzleCPerS, 0.05, 50, "°C/s");
        OutOfRange.check("Homing", homingS, 0, 3600, "s");
        OutOfRange.check("Levelling", levellingS, 0, 7200, "s");
        OutOfRange.check("Purging", purgeS, 0, 3600, "s");
        OutOfRange.check("Purged plastic", purgeMm3, 0, 100_000, "mm³");
    }

    /** Seconds from room temperature to the material's bed temperature. */
    public double bedHeatingS(Material material) {
        return Math.max(0, material.bedC() - ROOM_C) / bedCPerS;
    }

    /** Seconds from room temperature to the material's nozzle temperature. */
    public double nozzleHeatingS(Material material) {
        return (material.nozzleC() - ROOM_C) / nozzleCPerS;
    }
}
