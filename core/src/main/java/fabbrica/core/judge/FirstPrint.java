package fabbrica.core.judge;

import fabbrica.core.units.OutOfRange;
import fabbrica.core.units.Spoken;
import java.util.ArrayList;
import java.util.List;

/**
 * A cube of 10 mm as it came off a printer that is new, or was moved or repaired: does the printer do what its figures say?
 *
 * @param minutes from the press of the button to the end, by the clock
 * @param xMm     its width along the printer's x axis, measured away from the lowest layers; so with {@code yMm} and {@code zMm}
 * @param sound   whether layers lie even, walls are closed and it held to the bed
 */
public record FirstPrint(double minutes, double xMm, double yMm, double zMm, boolean sound) {

    public static final double SIDE_MM = 10;

    /** As true as filament printing of this size is in daily use (common practice, no source). */
    private static final double TRUE_MM = 0.2;
    /** Estimates that leave something of the machine out are 15 to 30 percent short (common practice, no source). */
    private static final double SHORT = 0.15;
    private static final double BY_THE_CLOCK_MIN = 2;

    public FirstPrint {
        OutOfRange.check("The time it took", minutes, 1, 600, "min");
        OutOfRange.check("Its width", xMm, 1, 50, "mm");
        OutOfRange.check("Its depth", yMm, 1, 50, "mm");
        OutOfRange.check("Its height", zMm, 1, 50, "mm");
    }

    /**
     * What is off, a sentence for each with where to look; nothing when the printer can be trusted.
     *
     * @param expectedMin what the printer's figures say
     */
    public List<String> off(double expectedMin) {
        List<String> off = new ArrayList<>();
        if (!sound) {
            off.add("It is not sound. Look at the first layer, the filament and the nozzle before anything is measured.");
        }
        double x = error(xMm), y = error(yMm), z = error(zMm);
        if (x != 0 && y != 0 && (x > 0) == (y > 0)) {
            off.add("It is too %s both ways (%s and %s mm): %s".formatted(x > 0 ? "wide" : "narrow", Spoken.number(xMm), Spoken.number(yMm), x > 0
                    ? "too much plastic, or its walls were pressed out. Look at the flow and at the height of the first layer."
                    : "too little plastic. Look for a clog, and at the filament's diameter."));
        } else {
            axis(off, "x", xMm, x);
            axis(off, "y", yMm, y);
        }
        if (z != 0) {
            off.add("It is %s mm high: %s. Level the bed and set the first layer anew.".formatted(Spoken.number(zMm), z > 0
                    ? "the nozzle begins too far from the bed, or the z axis climbs too much" : "the nozzle begins too near the bed, or the z axis climbs too little"));
        }
        if (Math.abs(minutes - expectedMin) > Math.max(BY_THE_CLOCK_MIN, SHORT * expectedMin)) {
            off.add("It took %s min, not %s: its speeds, accelerations or warming up are not those that stand in the Stores, and every promise on it would be wrong alike."
                    .formatted(Spoken.number(minutes, 0), Spoken.number(expectedMin, 0)));
        }
        return off;
    }

    private static double error(double mm) {
        return Math.abs(mm - SIDE_MM) > TRUE_MM + 1e-9 ? mm - SIDE_MM : 0;
    }

    private static void axis(List<String> off, String axis, double mm, double error) {
        if (error != 0) {
            off.add("It is %s mm along %s: look at the belt, the pulley and the steps a millimetre of that axis.".formatted(Spoken.number(mm), axis));
        }
    }
}
