package fabbrica.core.recipe;

import fabbrica.core.units.OutOfRange;

/** How fast a printer goes through the corner between two moves. */
public sealed interface Cornering {

    /** A right-angled corner is taken at this speed; others as an arc that strays as far from the corner. */
    record AtSpeed(double mmS) implements Cornering {
        public AtSpeed {
            OutOfRange.check("Corner speed", mmS, 0.1, 200, "mm/s");
        }
    }

    /** Corners are taken as an arc that strays by this much from them. */
    record Deviation(double mm) implements Cornering {
        public Deviation {
            OutOfRange.check("Junction deviation", mm, 0.001, 1, "mm");
        }
    }

    /** The speed along each axis may change by no more than this at once. */
    record Jerk(double mmS) implements Cornering {
        public Jerk {
            OutOfRange.check("Jerk", mmS, 0.1, 200, "mm/s");
        }
    }
}
