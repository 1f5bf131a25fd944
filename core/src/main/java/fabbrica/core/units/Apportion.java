package fabbrica.core.units;

import java.util.Arrays;
import java.util.Comparator;
import java.util.stream.IntStream;

/**
 * Shares a whole number of things out by weights so that nothing is lost: everybody gets the whole part of what is due, and what
 * is left goes one each to those who miss most (largest remainder, A. Hamilton 1792; of equals the first).
 */
public final class Apportion {

    private Apportion() {
    }

    /**
     * @param whole   shared out; below zero when something is to be taken off
     * @param weights at least 0; when all are 0 everybody gets the same
     * @return as many as there are weights; their sum is {@code whole}
     */
    public static long[] of(long whole, double... weights) {
        double sum = Arrays.stream(weights).sum();
        double[] due = Arrays.stream(weights).map(weight -> Math.abs(whole) * (sum > 0 ? weight / sum : 1.0 / weights.length)).toArray();
        long[] shares = Arrays.stream(due).mapToLong(share -> (long) Math.floor(share + 1e-9)).toArray();
        long left = Math.abs(whole) - Arrays.stream(shares).sum();
        int[] byMissing = IntStream.range(0, weights.length).boxed()
                .sorted(Comparator.comparingDouble((Integer i) -> shares[i] - due[i])).mapToInt(Integer::intValue).toArray();
        for (int i = 0; i < left; i++) {
            shares[byMissing[i % byMissing.length]]++;
        }
        return whole < 0 ? Arrays.stream(shares).map(share -> -share).toArray() : shares;
    }
}
