package fabbrica.core.schedule;

/**
 * What makes one plan better than another, each rule in a method of its own; the lower the sum, the better. A unit is what one
 * plate costs that is done a minute later.
 *
 * @param lateness    for each minute after the moment it is needed by, times the weight of the plate
 * @param fairness    for each minute that whoever has had little of the floor waits; see {@link FloorView.Waiting#patience()}
 * @param changes     for each minute of changing filament or nozzle
 * @param reliability for each minute of printing that is expected to be lost to a failure
 * @param earlyFinish for each minute until it is printed
 * @param elsewhere   once for a plate that is on another machine than was published
 * @param moved       for each minute between its start and the one published
 */
public record Rules(long lateness, long fairness, long changes, long reliability, long earlyFinish, long elsewhere, long moved) {

    /** The objective of a schedule file. */
    public static final Rules OF_THE_FILE = new Rules(1000, 0, 10, 0, 1, 0, 0);

    /** How a lab weighs them, each heavier than those that follow (common practice, no source). */
    public static final Rules OF_A_LAB = new Rules(1000, 20, 10, 5, 1, 30, 0);

    /**
     * The same after something went wrong: what was published is left only for somebody who would otherwise get theirs late
     * (common practice, no source).
     */
    public static final Rules OF_A_LAB_MENDING = new Rules(1000, 0, 10, 5, 1, 3000, 20);

    private static final long MINUTE = 60;

    /** @param weight of the plate */
    public long lateness(long weight, long dueS, long endS) {
        return endS <= dueS ? 0 : lateness * weight * (endS - dueS) / MINUTE;
    }

    /** @param patience from 0 for whoever has had the whole floor to 1 for whoever had nothing of it */
    public long fairness(double patience, long endS) {
        return Math.round(fairness * patience * endS / MINUTE);
    }

    public long changes(long changeS) {
        return changes * changeS / MINUTE;
    }

    /** @param failing share of runs of that machine that fail */
    public long reliability(double failing, long takesS) {
        return Math.round(reliability * failing * takesS / MINUTE);
    }

    public long earlyFinish(long endS) {
        return earlyFinish * endS / MINUTE;
    }

    /** @param sameMachine as was published */
    public long stability(boolean sameMachine, long startS, long publishedS) {
        return (sameMachine ? 0 : elsewhere) + moved * Math.abs(startS - publishedS) / MINUTE;
    }
}
