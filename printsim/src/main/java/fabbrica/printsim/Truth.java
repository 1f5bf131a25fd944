package fabbrica.printsim;

import fabbrica.core.units.OutOfRange;
import java.util.random.RandomGenerator;

/**
 * How a machine differs from the figures that stand in the Stores, phase by phase, and how its runs differ from one another.
 *
 * @param heating  real seconds of heating for each expected one
 * @param readying likewise of homing, levelling and calibrating
 * @param motion   likewise of everything from the first to the last move
 * @param plastic  real grams for each expected one
 * @param noise    standard deviation of the logarithm of a run's own factors
 */
public record Truth(double heating, double readying, double motion, double plastic, double noise) {

    /** A machine that does what its figures say. */
    public static final Truth EXACT = new Truth(1, 1, 1, 1, 0);

    public Truth {
        OutOfRange.check("Heating", heating, 0.1, 10, "");
        OutOfRange.check("Readying", readying, 0.1, 10, "");
        OutOfRange.check("Motion", motion, 0.1, 10, "");
        OutOfRange.check("Plastic", plastic, 0.1, 10, "");
        OutOfRange.check("Noise", noise, 0, 1, "");
    }

    /** What it comes to in one run: heating is as the machine is, everything else differs from run to run. */
    Truth ofOneRun(RandomGenerator random) {
        return new Truth(heating, readying * noisy(random), motion * noisy(random), plastic * noisy(random), 0);
    }

    private double noisy(RandomGenerator random) {
        return Math.exp(noise * random.nextGaussian());
    }
}
