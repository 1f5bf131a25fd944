package fabbrica.core.inspect;

import fabbrica.core.mesh.model.Bounds;
import fabbrica.core.units.LengthUnit;
import java.util.List;
import java.util.Optional;
import java.util.stream.Stream;

/**
 * Whether a size read as millimetres looks as if it had been drawn in another unit. Parts people print measure about
 * 20 to 500 mm; a part drawn in inches arrives 25.4 times too small, one in centimetres ten times, one in metres a
 * thousand times (common practice, no source). A real part may be that small: this is a question to ask, never a correction.
 */
public final class UnitGuess {

    private static final double DOUBTFUL_MM = 10;
    private static final double USUAL_FROM_MM = 20;
    private static final double USUAL_TO_MM = 500;

    private UnitGuess() {
    }

    /** The unit the part was probably drawn in, when millimetres are doubtful. */
    public static Optional<LengthUnit> suspected(Bounds millimetres) {
        return candidates(millimetres).stream().findFirst();
    }

    /** Units in which a doubtfully small part would have a usual size, the most usual mistake first. */
    public static List<LengthUnit> candidates(Bounds millimetres) {
        double largest = millimetres.largestSide();
        if (largest <= 0 || largest >= DOUBTFUL_MM) {
            return List.of();
        }
        return Stream.of(LengthUnit.INCH, LengthUnit.METRE, LengthUnit.CENTIMETRE).filter(unit ->
                largest * unit.millimetres() >= USUAL_FROM_MM && largest * unit.millimetres() <= USUAL_TO_MM).toList();
    }
}
