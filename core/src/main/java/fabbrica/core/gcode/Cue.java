package fabbrica.core.gcode;

import fabbrica.core.recipe.Preparation;

/**
 * Something that a file asks for beside moving.
 *
 * @param value      °C for what heats, seconds for what takes time of its own, mm above the bed for a layer, else 0
 * @param line       of the file
 * @param atS        seconds of motion before it
 * @param filamentMm net length pushed forward before it
 */
public record Cue(Kind kind, double value, long line, double atS, double filamentMm) {

    /** What is asked for; heating is awaited or goes on beside what follows. */
    public enum Kind {
        BED, NOZZLE, AWAIT_BED, AWAIT_NOZZLE, HOME, LEVEL, CHANGE, PICTURE, DWELL, PAUSE, LAYER, END
    }

    /**
     * Seconds that it takes of its own, beside motion.
     *
     * @param bedC that the bed has when it comes to it; so with the nozzle
     */
    public double takesS(double bedC, double nozzleC, Preparation preparation) {
        return switch (kind) {
            case AWAIT_BED -> Math.max(0, value - bedC) / preparation.bedCPerS();
            case AWAIT_NOZZLE -> Math.max(0, value - nozzleC) / preparation.nozzleCPerS();
            case HOME, LEVEL, CHANGE, PICTURE, DWELL -> value;
            case BED, NOZZLE, PAUSE, LAYER, END -> 0;
        };
    }
}
