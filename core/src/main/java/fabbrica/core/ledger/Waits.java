package fabbrica.core.ledger;

import java.time.Duration;
import java.util.List;
import org.apache.commons.statistics.descriptive.Quantile;
import org.apache.commons.statistics.descriptive.Quantile.EstimationMethod;

/** How long people waited. */
public final class Waits {

    /** Whole days that are counted each on its own; what is longer is counted together. */
    public static final int DAYS = 14;
    private static final Quantile QUANTILE = Quantile.withDefaults().with(EstimationMethod.HF7);

    private final double[] seconds;

    public Waits(List<Duration> waits) {
        seconds = waits.stream().mapToDouble(Duration::toSeconds).sorted().toArray();
    }

    public int count() {
        return seconds.length;
    }

    /** Half waited no longer, in seconds; not a number for nobody. */
    public double median() {
        return within(0.5);
    }

    /** So large a share waited no longer, in seconds (between neighbours by Hyndman & Fan 1996, “Sample quantiles in statistical packages”, definition 7). */
    public double within(double share) {
        return QUANTILE.evaluate(seconds, share);
    }

    /** Of each whole day that somebody waited, how many did: less than a day first, last those of {@link #DAYS} and more. */
    public int[] byDay() {
        int[] counts = new int[DAYS + 1];
        for (double each : seconds) {
            counts[(int) Math.clamp((long) (each / Duration.ofDays(1).toSeconds()), 0, DAYS)]++;
        }
        return counts;
    }
}
