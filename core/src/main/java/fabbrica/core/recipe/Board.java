package fabbrica.core.recipe;

import fabbrica.core.units.OutOfRange;

/**
 * What the control board of a printer holds its motors to, beside the head's own top speed and acceleration.
 *
 * @param xSpeedMmS            fastest along the x axis, mm/s
 * @param ySpeedMmS            likewise along the y axis
 * @param filamentSpeedMmS     fastest that filament is fed or drawn back, mm/s
 * @param xAccelerationMmS2    mm/s², as all accelerations
 * @param zAccelerationMmS2    of the vertical axis
 * @param filamentAccelerationMmS2 of filament, drawn back or laid
 * @param lookAheadMoves       moves the board knows of at a time: the head is always able to stop at the end of the last
 * @param movesPerS            most moves a second that reach the board and are carried out; shorter ones are slowed down
 * @param pressureS            filament fed ahead for each mm/s² of its acceleration, s: adds to the speed it must reach while
 *                             the head speeds up; 0 when the board does not correct for pressure
 */
public record Board(double xSpeedMmS, double ySpeedMmS, double filamentSpeedMmS, double xAccelerationMmS2,
                    double yAccelerationMmS2, double zAccelerationMmS2, double filamentAccelerationMmS2, int lookAheadMoves,
                    double movesPerS, double pressureS) {

    private static final double HEAD_ALONE_MM_S = 2000;
    private static final double HEAD_ALONE_MM_S2 = 100_000;

    /**
     * X and y are left to the limits of the head. A lead screw lifts at about 100 mm/s², feeders turn at up to 120 mm/s and
     * 3000 mm/s², boards hold 16 moves (common practice, no source). A line of G-code is about 25 characters: at 250,000
     * bits a second, ten to a character, 1000 arrive each second.
     */
    public static final Board USUAL = new Board(HEAD_ALONE_MM_S, HEAD_ALONE_MM_S, 120, HEAD_ALONE_MM_S2, HEAD_ALONE_MM_S2, 100,
            3000, 16, 1000, 0);

    public Board {
        OutOfRange.check("Top speed along x", xSpeedMmS, 1, 2000, "mm/s");
        OutOfRange.check("Top speed along y", ySpeedMmS, 1, 2000, "mm/s");
        OutOfRange.check("Top speed of filament", filamentSpeedMmS, 1, 500, "mm/s");
        OutOfRange.check("Acceleration along x", xAccelerationMmS2, 10, 100_000, "mm/s²");
        OutOfRange.check("Acceleration along y", yAccelerationMmS2, 10, 100_000, "mm/s²");
        OutOfRange.check("Vertical acceleration", zAccelerationMmS2, 5, 50_000, "mm/s²");
        OutOfRange.check("Acceleration of filament", filamentAccelerationMmS2, 10, 100_000, "mm/s²");
        OutOfRange.check("Look-ahead", lookAheadMoves, 1, 10_000);
        OutOfRange.check("Moves a second", movesPerS, 10, 1_000_000, "1/s");
        OutOfRange.check("Pressure correction", pressureS, 0, 2, "s");
    }

    public Board withSpeeds(double xMmS, double yMmS, double filamentMmS) {
        return new Board(xMmS, yMmS, filamentMmS, xAccelerationMmS2, yAccelerationMmS2, zAccelerationMmS2,
                filamentAccelerationMmS2, lookAheadMoves, movesPerS, pressureS);
    }

    public Board withAccelerations(double xMmS2, double yMmS2, double zMmS2, double filamentMmS2) {
        return new Board(xSpeedMmS, ySpeedMmS, filamentSpeedMmS, xMmS2, yMmS2, zMmS2, filamentMmS2, lookAheadMoves, movesPerS,
                pressureS);
    }

    public Board withLookAhead(int moves, double perS) {
        return new Board(xSpeedMmS, ySpeedMmS, filamentSpeedMmS, xAccelerationMmS2, yAccelerationMmS2, zAccelerationMmS2,
                filamentAccelerationMmS2, moves, perS, pressureS);
    }

    public Board withPressure(double seconds) {
        return new Board(xSpeedMmS, ySpeedMmS, filamentSpeedMmS, xAccelerationMmS2, yAccelerationMmS2, zAccelerationMmS2,
                filamentAccelerationMmS2, lookAheadMoves, movesPerS, seconds);
    }
}
