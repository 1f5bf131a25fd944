package fabbrica.core.units;

import java.util.Arrays;
import java.util.Optional;

/** A unit a model file may be drawn in. The inch and the foot are exact by international definition (1959). */
public enum LengthUnit {
    MICROMETRE("µm", "micrometres", 0.001),
    MILLIMETRE("mm", "millimetres", 1),
    CENTIMETRE("cm", "centimetres", 10),
    METRE("m", "metres", 1000),
    INCH("in", "inches", 25.4),
    FOOT("ft", "feet", 304.8);

    private final String symbol;
    private final String plural;
    private final double millimetres;

    LengthUnit(String symbol, String plural, double millimetres) {
        this.symbol = symbol;
        this.plural = plural;
        this.millimetres = millimetres;
    }

    public String symbol() {
        return symbol;
    }

    /** The word for several: "inches". */
    public String plural() {
        return plural;
    }

    /** Millimetres in one of this unit. */
    public double millimetres() {
        return millimetres;
    }

    public static Optional<LengthUnit> ofSymbol(String symbol) {
        return Arrays.stream(values()).filter(unit -> unit.symbol.equals(symbol)).findFirst();
    }
}
