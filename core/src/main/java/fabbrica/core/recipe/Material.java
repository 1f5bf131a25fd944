package fabbrica.core.recipe;

import fabbrica.core.units.OutOfRange;

/**
 * A filament material. Temperatures are starting points; the label on the reel comes first.
 *
 * @param id             stable key, lower case
 * @param densityGPerCm3 grams per cubic centimetre
 * @param nozzleC        printing temperature of the nozzle, °C
 * @param bedC           printing temperature of the bed, °C
 * @param abrasive       whether it wears a nozzle that is not hardened
 * @param enclosed       whether it needs an enclosed printer
 */
public record Material(String id, String name, double densityGPerCm3, int nozzleC, int bedC, boolean abrasive,
                       boolean enclosed) {

    public Material {
        OutOfRange.check("Density", densityGPerCm3, 0.3, 10, "g/cm³");
        OutOfRange.check("Nozzle temperature", nozzleC, 100, 500);
        OutOfRange.check("Bed temperature", bedC, 0, 200);
    }

    /** Grams of {@code mm3} cubic millimetres. */
    public double grams(double mm3) {
        return mm3 * densityGPerCm3 / 1000;
    }
}
