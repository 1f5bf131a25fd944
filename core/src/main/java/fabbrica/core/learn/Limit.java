package fabbrica.core.learn;

/**
 * How far a cumulative sum of single trials has to go until a rate is taken to have moved: so far that one which stands still is taken to have moved once in
 * {@value #FALSE_ALARM} trials on average. That average is worked out from the Markov chain of the sum's states, as Brook and Evans (1972) do, exactly but for
 * where the iteration ends.
 */
final class Limit {

    static final int FALSE_ALARM = 400;
    private static final int HIGHEST = 1000;
    private static final double STILL = 1e-6;

    private Limit() {
    }

    /**
     * @param ifFailed what a failure adds, in steps; less than 0 takes off
     * @param ifWell   what a good run adds
     * @param rate     of failures, 0 to 1
     */
    static int of(int ifFailed, int ifWell, double rate) {
        int low = 1, high = HIGHEST;
        while (low < high) {
            int middle = (low + high) / 2;
            if (trials(middle, ifFailed, ifWell, rate) >= FALSE_ALARM) {
                high = middle;
            } else {
                low = middle + 1;
            }
        }
        return low;
    }

    /** How many trials it takes on average from 0 to the limit; not looked at farther than it matters. */
    static double trials(int limit, int ifFailed, int ifWell, double rate) {
        double[] trials = new double[limit];
        double moved;
        do {
            double[] next = new double[limit];
            moved = 0;
            for (int state = 0; state < limit; state++) {
                next[state] = 1 + rate * at(trials, state + ifFailed) + (1 - rate) * at(trials, state + ifWell);
                moved = Math.max(moved, next[state] - trials[state]);
            }
            trials = next;
        } while (moved > STILL && trials[0] < 2 * FALSE_ALARM);
        return trials[0];
    }

    private static double at(double[] trials, int state) {
        return state >= trials.length ? 0 : trials[Math.max(0, state)];
    }
}
