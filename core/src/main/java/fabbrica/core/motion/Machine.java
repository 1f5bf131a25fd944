package fabbrica.core.motion;

import fabbrica.core.toolpath.PathType;

/** What carries out a toolpath move by move: a timer that times it, or a writer that puts it down. */
public interface Machine {

    /** Straight on to a place, laying {@code mm3} of plastic on the way; none for {@link PathType#TRAVEL}. */
    void lineTo(double x, double y, double z, double mm3, double speedMmS, double accelerationMmS2, PathType type);

    /** Draws the filament back. */
    void retract();

    /** Pushes the filament forward again. */
    void advance();
}
