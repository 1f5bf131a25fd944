package fabbrica.core.learn;

import org.apache.commons.statistics.interval.BinomialConfidenceInterval;
import org.apache.commons.statistics.interval.Interval;

/**
 * How often runs failed.
 *
 * @param failed of them
 * @param runs   at least one
 */
public record Rate(int failed, int runs) {

    /** Fewer say nothing by themselves (common practice, no source). */
    public static final int ENOUGH = 10;
    private static final double UNSURE = 0.05;

    public Rate {
        if (failed < 0 || runs < 1 || failed > runs) {
            throw new IllegalArgumentException("%d of %d runs cannot have failed.".formatted(failed, runs));
        }
    }

    public double share() {
        return failed / (double) runs;
    }

    public boolean isEnough() {
        return runs >= ENOUGH;
    }

    /** The share may really be so small, 19 times in 20 (Wilson 1927, “Probable inference, the law of succession, and statistical inference”). */
    public double least() {
        return within(UNSURE).least();
    }

    /** The share may really be so large; see {@link #least()}. */
    public double most() {
        return within(UNSURE).most();
    }

    /**
     * Whether this fails more, or less, often than others, beyond chance.
     *
     * @param others    none of whose runs are these
     * @param questions asked at once: all of them together are wrong no more often than one may be (Bonferroni)
     * @return 1 when it fails more often, -1 when less, 0 when nobody can tell
     */
    public int against(Rate others, int questions) {
        Within difference = less(others, UNSURE / questions);
        return difference.least() > 0 ? 1 : difference.most() < 0 ? -1 : 0;
    }

    /** Bounds of a share, or of a difference of two. */
    record Within(double least, double most) {
    }

    /** Between which bounds the difference of two shares lies (Newcombe 1998, “Interval estimation for the difference between independent proportions”, method 10). */
    Within less(Rate others, double unsure) {
        Within own = within(unsure), other = others.within(unsure);
        double difference = share() - others.share();
        return new Within(difference - Math.hypot(share() - own.least(), other.most() - others.share()),
                difference + Math.hypot(own.most() - share(), others.share() - other.least()));
    }

    private Within within(double unsure) {
        Interval interval = BinomialConfidenceInterval.WILSON_SCORE.fromErrorRate(runs, failed, unsure);
        return new Within(interval.getLowerBound(), interval.getUpperBound());
    }
}
