package fabbrica.core.units;

import java.util.Arrays;
import java.util.Optional;

/** A unit a model file may be drawn in. The inch and the foot are exact by international definition (1959). */
public enum LengthUnit {
    MILLIMETRE("mm", 1),
    CENTIMETRE("cm", 10),
    METRE("m", 1000),
    INCH("in", 25.4),
    FOOT("ft", 304.8);

    private final String symbol;
    private final double millimetres;

    LengthUnit(String symbol, double millimetres) {
        this.symbol = symbol;
        this.millimetres = millimetres;
    }

    public String symbol() {
        return symbol;
    }

    /** Millimetres in one of this unit. */
    public double millimetres() {
        return millimetres;
    }

    public static Optional<LengthUnit> ofSymbol(String symbol) {
        return Arrays.stream(values()).filter(unit -> unit.symbol.equals(symbol)).findFirst();
    }
}
