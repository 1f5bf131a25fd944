package fabbrica.core.recipe;

import fabbrica.core.units.OutOfRange;

/**
 * What a printer does before the first line, when people wonder why nothing moves, and beside the lines.
 *
 * @param bedCPerS    how fast the bed heats, °C/s
 * @param nozzleCPerS how fast the nozzle heats, °C/s
 * @param homingS     seconds
 * @param levellingS  seconds for levelling in full
 * @param flowS       seconds for calibrating the flow
 * @param purgeS      seconds
 * @param purgeMm3    plastic purged
 * @param pictureS    seconds for parking at each layer to take a picture; 0 for none
 * @param endS        seconds for parking at the end
 * @param changeS     seconds for changing the filament or the tool once, as the lab has measured it
 */
public record Preparation(double bedCPerS, double nozzleCPerS, double homingS, double levellingS, double flowS,
                          double purgeS, double purgeMm3, double pictureS, double endS, double changeS) {

    public static final double ROOM_C = 20;
    /** Somebody comes, swaps the spool and sees the colour through (common practice, no source). */
    public static final double USUAL_CHANGE_S = 120;
    private static final double USUAL_END_S = 5;

    public Preparation {
        OutOfRange.check("Bed heating", bedCPerS, 0.01, 20, "°C/s");
        OutOfRange.check("Nozzle heating", nozzleCPerS, 0.05, 50, "°C/s");
        OutOfRange.check("Homing", homingS, 0, 3600, "s");
        OutOfRange.check("Levelling", levellingS, 0, 7200, "s");
        OutOfRange.check("Flow calibration", flowS, 0, 7200, "s");
        OutOfRange.check("Purging", purgeS, 0, 3600, "s");
        OutOfRange.check("Purged plastic", purgeMm3, 0, 100_000, "mm³");
        OutOfRange.check("Picture at each layer", pictureS, 0, 600, "s");
        OutOfRange.check("End", endS, 0, 3600, "s");
        OutOfRange.check("Change of filament or tool", changeS, 0, 3600, "s");
    }

    /** A machine that neither calibrates its flow nor takes pictures. */
    public Preparation(double bedCPerS, double nozzleCPerS, double homingS, double levellingS, double purgeS,
                       double purgeMm3) {
        this(bedCPerS, nozzleCPerS, homingS, levellingS, 0, purgeS, purgeMm3, 0, USUAL_END_S, USUAL_CHANGE_S);
    }

    /** The same where levelling and flow were measured lately and may be skipped. */
    public Preparation fresh() {
        return new Preparation(bedCPerS, nozzleCPerS, homingS, 0, 0, purgeS, purgeMm3, pictureS, endS, changeS);
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
