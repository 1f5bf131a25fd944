package fabbrica.core.recipe;

import java.util.Arrays;
import java.util.Locale;
import java.util.Optional;

/**
 * How the inside is filled. A pattern of n directions on one layer spaces each of them n times as wide, so that the
 * same density lays the same length.
 */
public enum InfillPattern {
    /** One direction a layer, crossing the layer below at a right angle. */
    LINES("lines", 45, 135),
    /** Two directions on every layer. */
    GRID("grid", 45, 135),
    /** Three directions on every layer. */
    TRIANGLES("triangles", 0, 60, 120),
    /** Waves cut from a surface that leans all ways alike (Schoen's gyroid, NASA TN D-5541, 1970). */
    GYROID("gyroid");

    private final String code;
    private final double[] directionsDeg;

    InfillPattern(String code, double... directionsDeg) {
        this.code = code;
        this.directionsDeg = directionsDeg;
    }

    public String code() {
        return code;
    }

    /** The directions of the straight lines laid on one layer, in degrees from the x axis. */
    public double[] directionsDeg(int layer) {
        return this == LINES ? new double[] {directionsDeg[layer % directionsDeg.length]} : directionsDeg.clone();
    }

    public static Optional<InfillPattern> ofCode(String code) {
        return Arrays.stream(values()).filter(pattern -> pattern.code.equals(code.toLowerCase(Locale.ROOT)))
                .findFirst();
    }
}
