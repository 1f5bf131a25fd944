package fabbrica.core.learn;

import java.util.Arrays;

/**
 * Real against promised over many runs, as ratios on a logarithmic scale: where they lie and how far they scatter, whatever a few of them say.
 *
 * <p>A Theil–Sen line (Theil 1950; Sen 1968, “Estimates of the regression coefficient based on Kendall's tau”) has the median slope of all pairs of
 * points. A promise has the right slope by itself, since what is promised twice as long takes twice as long; only the factor is free, and with the
 * slope given Sen's line lies at the median of the means of all pairs of residuals, which is the estimator of Hodges and Lehmann (1963). As with
 * Theil–Sen up to 29 % of the runs may be wrong in any way.
 *
 * <p>The scatter is Qn of Rousseeuw and Croux (1993, “Alternatives to the median absolute deviation”): the first quartile of the distances of all pairs,
 * scaled to the standard deviation of a normal distribution, with their corrections for few values. Up to half of the runs may be wrong.
 *
 * <p>Both take time and memory in proportion to the square of the number of runs.
 *
 * @param count  how many there are
 * @param centre logarithm of the ratio
 * @param spread standard deviation around it; 0 of fewer than two
 */
record Ratios(int count, double centre, double spread) {

    private static final double NORMAL = 2.2219;
    private static final double EFFICIENCY = 0.82;
    private static final double[] FEW = {0.399, 0.994, 0.512, 0.844, 0.611, 0.857, 0.669, 0.872};

    /** Degrees of freedom that the spread is worth: Qn is as sure as a standard deviation of 82 % as many values. */
    double freedom() {
        return EFFICIENCY * Math.max(0, count - 1);
    }

    /** @param logs of real over promised, at least one */
    static Ratios of(double[] logs) {
        int n = logs.length;
        double[] means = new double[n * (n + 1) / 2], distances = new double[n * (n - 1) / 2];
        int mean = 0, distance = 0;
        for (int i = 0; i < n; i++) {
            for (int j = 0; j <= i; j++) {
                means[mean++] = (logs[i] + logs[j]) / 2;
                if (j < i) {
                    distances[distance++] = Math.abs(logs[i] - logs[j]);
                }
            }
        }
        return new Ratios(n, median(means), n < 2 ? 0 : qn(distances, n));
    }

    private static double qn(double[] distances, int n) {
        Arrays.sort(distances);
        int h = n / 2 + 1, k = h * (h - 1) / 2;
        double correction = n <= 9 ? FEW[n - 2] : n % 2 == 1 ? n / (n + 1.4) : n / (n + 3.8);
        return NORMAL * correction * distances[k - 1];
    }

    private static double median(double[] values) {
        Arrays.sort(values);
        int half = values.length / 2;
        return values.length % 2 == 1 ? values[half] : (values[half - 1] + values[half]) / 2;
    }
}
