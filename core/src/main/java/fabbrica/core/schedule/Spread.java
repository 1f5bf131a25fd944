package fabbrica.core.schedule;

import fabbrica.core.units.OutOfRange;
import java.time.Duration;

/**
 * How long something takes, and how sure that is: one time in ten it is over sooner than {@code earliest}, one in ten it takes
 * longer than {@code latest}. Between and beyond it is spread as two halves of normal distributions that meet at {@code usual}
 * (split normal distribution: Wallis, "The two-piece normal, binormal, or double Gaussian distribution", Statistical Science 29,
 * 2014).
 */
public record Spread(Duration earliest, Duration usual, Duration latest) {

    /** Nine tenths of a standard normal distribution lie below it. */
    private static final double NINE_TENTHS = 1.2815515655446004;

    public Spread {
        if (earliest.isNegative() || earliest.compareTo(usual) > 0 || usual.compareTo(latest) > 0) {
            throw new OutOfRange("What takes some time takes no less at the latest than usually, and no more at the earliest.");
        }
    }

    public static Spread exactly(Duration time) {
        return new Spread(time, time, time);
    }

    /** @param deviate of a standard normal distribution */
    long seconds(double deviate) {
        Duration half = deviate < 0 ? usual.minus(earliest) : latest.minus(usual);
        return Math.max(0, usual.toSeconds() + Math.round(half.toSeconds() * deviate / NINE_TENTHS));
    }
}
