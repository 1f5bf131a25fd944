package fabbrica.web.stores;

import fabbrica.core.recipe.Board;
import fabbrica.core.recipe.Cornering;
import fabbrica.core.recipe.Kinematics;
import fabbrica.core.recipe.Preparation;
import java.util.List;
import java.util.function.ToDoubleFunction;

/** The numbers of a printer's form, in the order of the values they make up. */
public final class PrinterFields {

    public static final List<Field<Kinematics>> KINEMATICS = List.of(
            new Field<>("maxSpeed", "Top speed", "mm/s", Kinematics::maxSpeedMmS),
            new Field<>("acceleration", "Acceleration", "mm/s²", Kinematics::accelerationMmS2),
            new Field<>("cornerSpeed", "Speed at a right-angled corner", "mm/s", Kinematics::cornerSpeedMmS),
            new Field<>("zSpeed", "Vertical speed", "mm/s", Kinematics::zSpeedMmS),
            new Field<>("maxFlow", "Most plastic melted", "mm³/s", Kinematics::maxFlowMm3S),
            new Field<>("retractionMm", "Filament drawn back", "mm", Kinematics::retractionMm),
            new Field<>("retractionSpeed", "Speed of drawing back", "mm/s", Kinematics::retractionSpeedMmS));

    public static final List<Field<Board>> BOARD = List.of(
            new Field<>("xSpeed", "Top speed along x", "mm/s", Board::xSpeedMmS),
            new Field<>("ySpeed", "Top speed along y", "mm/s", Board::ySpeedMmS),
            new Field<>("filamentSpeed", "Top speed of filament", "mm/s", Board::filamentSpeedMmS),
            new Field<>("xAcceleration", "Acceleration along x", "mm/s²", Board::xAccelerationMmS2),
            new Field<>("yAcceleration", "Acceleration along y", "mm/s²", Board::yAccelerationMmS2),
            new Field<>("zAcceleration", "Vertical acceleration", "mm/s²", Board::zAccelerationMmS2),
            new Field<>("filamentAcceleration", "Acceleration of filament", "mm/s²", Board::filamentAccelerationMmS2),
            new Field<>("lookAhead", "Moves looked ahead", "moves", Board::lookAheadMoves),
            new Field<>("movesPerS", "Most moves carried out", "1/s", Board::movesPerS),
            new Field<>("pressureS", "Filament fed ahead for pressure", "s", Board::pressureS));

    public static final List<Field<Preparation>> PREPARATION = List.of(
            new Field<>("bedCPerS", "Bed heats", "°C/s", Preparation::bedCPerS),
            new Field<>("nozzleCPerS", "Nozzle heats", "°C/s", Preparation::nozzleCPerS),
            new Field<>("homingS", "Homing", "s", Preparation::homingS),
            new Field<>("levellingS", "Levelling", "s", Preparation::levellingS),
            new Field<>("flowS", "Flow calibration", "s", Preparation::flowS),
            new Field<>("purgeS", "Purging", "s", Preparation::purgeS),
            new Field<>("purgeMm3", "Purged plastic", "mm³", Preparation::purgeMm3),
            new Field<>("pictureS", "Picture at each layer", "s", Preparation::pictureS),
            new Field<>("endS", "Parking at the end", "s", Preparation::endS),
            new Field<>("changeS", "Changing filament or tool", "s", Preparation::changeS));

    private PrinterFields() {
    }

    /** @param k values of {@link #KINEMATICS}; @param b of {@link #BOARD} */
    static Kinematics kinematics(double[] k, double[] b) {
        return new Kinematics(k[0], k[1], new Cornering.AtSpeed(k[2]), k[3], k[4], k[5], k[6],
                new Board(b[0], b[1], b[2], b[3], b[4], b[5], b[6], (int) Math.round(b[7]), b[8], b[9]));
    }

    /** @param p values of {@link #PREPARATION} */
    static Preparation preparation(double[] p) {
        return new Preparation(p[0], p[1], p[2], p[3], p[4], p[5], p[6], p[7], p[8], p[9]);
    }

    public record Field<T>(String name, String label, String unit, ToDoubleFunction<T> value) {
    }
}
