package fabbrica.core.learn;

import fabbrica.core.inspect.Inspection;
import fabbrica.core.inspect.Overhang;

/**
 * What decides how a part prints, whatever it shows: how tall it stands, how much of it holds on the bed, how much plastic it takes, how wide it spreads, and
 * how much of it hangs. Two parts are alike when all of these are, as ratios: what is twice as large is as far away at any size. It is of the part as it lies
 * and in its size, since those decide what goes wrong; what it depicts does not.
 *
 * @param shadowMm2   of the box around it, seen from above
 * @param overhangMm2 steeper than {@link Overhang#STEEP_DEG}
 */
public record Likeness(double heightMm, double contactMm2, double volumeMm3, double shadowMm2, double overhangMm2) {

    /** Up to this mean ratio parts are alike (a judgement of ours). */
    private static final double ALIKE = 1.3;
    /** Areas much smaller than that make no difference. */
    private static final double LITTLE_MM2 = 30;
    private static final int TRAITS = 5;

    public static Likeness of(Inspection part) {
        return new Likeness(part.bounds().sizeZ(), part.stand().contactMm2(), part.measures().volumeMm3(), part.stand().shadowMm2(),
                part.overhang().areaSteeperThan(Overhang.STEEP_DEG));
    }

    /** By how many times they differ in the mean of all traits, at least 1. */
    public double ratio(Likeness other) {
        double squares = square(heightMm, other.heightMm) + square(contactMm2 + LITTLE_MM2, other.contactMm2 + LITTLE_MM2) + square(volumeMm3, other.volumeMm3)
                + square(shadowMm2, other.shadowMm2) + square(overhangMm2 + LITTLE_MM2, other.overhangMm2 + LITTLE_MM2);
        return Math.exp(Math.sqrt(squares / TRAITS));
    }

    public boolean isLike(Likeness other) {
        return ratio(other) <= ALIKE;
    }

    /** No part that is farther away than this in one trait alone can be alike. */
    public static double most() {
        return Math.exp(Math.log(ALIKE) * Math.sqrt(TRAITS));
    }

    private static double square(double one, double other) {
        double log = Math.log(Math.max(one, 1e-6) / Math.max(other, 1e-6));
        return log * log;
    }
}
