package fabbrica.core.learn;

import java.util.ArrayList;
import java.util.List;

/**
 * Watches run by run whether a rate of failures has moved: cumulative sums for single trials (Reynolds and Stoumbos 1999, “A CUSUM chart for monitoring a
 * proportion when inspecting continuously”), one that looks for twice the usual rate and one for half of it. Above its {@link Limit} the rate has moved, and it
 * did so about when the sum last was 0; from there on the new rate is the usual one.
 *
 * @param points after each run, for drawing
 * @param moves  in their order
 * @param usual  rate that holds now, 0 to 1
 */
public record ControlChart(List<Point> points, List<Move> moves, double usual) {

    /** By so many first runs the usual rate is told, leaning on the others by the weight of so many (common practice, no source). */
    private static final int FIRST = 50;
    private static final double LEANS = 10;
    private static final double LEAST = 0.02;
    private static final double MOST = 0.4;

    /** Both sums after a run, as shares of their limits, 1 or more where the rate has moved. */
    public record Point(boolean failed, double worse, double better) {
    }

    /**
     * The rate has moved.
     *
     * @param since  the first run at the new rate, from 0
     * @param told   the run at which it was clear
     * @param before the rate that was usual until then, 0 to 1
     * @param after  of the runs from then until it was clear
     */
    public record Move(boolean worse, int since, int told, double before, Rate after) {
    }

    public ControlChart {
        points = List.copyOf(points);
        moves = List.copyOf(moves);
    }

    /**
     * @param failed    of each run, in their order
     * @param elsewhere rate of failures on which the usual one leans while there are few runs, 0 to 1
     */
    public static ControlChart of(List<Boolean> failed, double elsewhere) {
        List<Point> points = new ArrayList<>();
        List<Move> moves = new ArrayList<>();
        double usual = usual(failed.subList(0, Math.min(FIRST, failed.size())), elsewhere);
        Sum worse = Sum.worse(usual, 0), better = Sum.better(usual, 0);
        for (int run = 0; run < failed.size(); run++) {
            worse.add(failed.get(run), run);
            better.add(failed.get(run), run);
            points.add(new Point(failed.get(run), worse.share(), better.share()));
            if (worse.share() >= 1 || better.share() >= 1) {
                boolean up = worse.share() >= 1;
                int since = up ? worse.since : better.since;
                List<Boolean> own = failed.subList(since, run + 1);
                moves.add(new Move(up, since, run, usual, rate(own)));
                usual = usual(own, elsewhere);
                worse = Sum.worse(usual, run + 1);
                better = Sum.better(usual, run + 1);
            }
        }
        return new ControlChart(points, moves, usual);
    }

    private static Rate rate(List<Boolean> failed) {
        return new Rate((int) failed.stream().filter(each -> each).count(), failed.size());
    }

    private static double usual(List<Boolean> failed, double elsewhere) {
        return Math.clamp((failed.stream().filter(each -> each).count() + LEANS * elsewhere) / (failed.size() + LEANS), LEAST, MOST);
    }

    /** A sum in steps of one: what happens more often takes off or adds one, the other so many. */
    private static final class Sum {

        private final int ifFailed;
        private final int ifWell;
        private final int limit;
        private int reached;
        private int since;

        private Sum(int ifFailed, int ifWell, double usual, int since) {
            this.ifFailed = ifFailed;
            this.ifWell = ifWell;
            this.limit = Limit.of(ifFailed, ifWell, usual);
            this.since = since;
        }

        static Sum worse(double usual, int since) {
            return new Sum(steps(usual, 2 * usual) - 1, -1, usual, since);
        }

        static Sum better(double usual, int since) {
            return new Sum(1 - steps(usual, usual / 2), 1, usual, since);
        }

        /** For how many good runs one failure stands between two rates, by the ratio of their likelihoods. */
        private static int steps(double usual, double other) {
            double ratio = Math.log(other * (1 - usual) / (usual * (1 - other))) / Math.log((1 - usual) / (1 - other));
            return Math.max(2, (int) Math.round(ratio));
        }

        void add(boolean failed, int run) {
            reached = Math.max(0, reached + (failed ? ifFailed : ifWell));
            since = reached == 0 ? run + 1 : since;
        }

        double share() {
            return reached / (double) limit;
        }
    }
}
