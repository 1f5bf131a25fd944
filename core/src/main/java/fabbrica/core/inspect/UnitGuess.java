package fabbrica.core.inspect;

import fabbrica.core.mesh.model.Bounds;
import fabbrica.core.units.LengthUnit;
import java.util.Optional;

/**
 * Whether a size read as millimetres looks as if it had been drawn in another unit. Parts people print measure about
 * 20 to 500 mm; a part drawn in inches arrives 25.4 times too small, one drawn in metres a thousand times
 * (common practice, no source). A real part may be that small: this is a question to ask, never a correction.
 */
public final class UnitGuess {

    private static final double LARGEST_IN_METRES = 0.6;
    private static final double LARGEST_IN_INCHES = 10;

    private UnitGuess() {
    }

    /** The unit the part was probably drawn in, when millimetres are doubtful. */
    public static Optional<LengthUnit> suspected(Bounds millimetres) {
        double largest = millimetres.largestSide();
        if (largest <= 0 || largest >= LARGEST_IN_INCHES) {
            return Optional.empty();
        }
        return Optional.of(largest < LARGEST_IN_METRES ? LengthUnit.METRE : LengthUnit.INCH);
    }
}
