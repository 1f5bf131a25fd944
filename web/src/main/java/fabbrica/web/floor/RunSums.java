package fabbrica.web.floor;

import fabbrica.core.run.Deviation;
import fabbrica.core.units.Money;
import java.util.List;
import java.util.stream.Stream;

/**
 * Runs that have ended, summed up.
 *
 * @param time minutes promised against real, of the runs that came out well
 * @param cost of each currency in which there is any
 */
public record RunSums(long ended, long failed, double grams, double hours, Deviation time, List<Money> cost) {

    static final RunSums NOTHING = new RunSums(0, 0, 0, 0, new Deviation(0, 0), List.of());

    /** Of those that ended, 0 to 1. */
    public double failedShare() {
        return ended == 0 ? 0 : failed / (double) ended;
    }

    RunSums plus(RunSums other) {
        return new RunSums(ended + other.ended, failed + other.failed, grams + other.grams, hours + other.hours,
                new Deviation(time.promised() + other.time.promised(), time.real() + other.time.real()),
                Stream.concat(cost.stream(), other.cost.stream()).toList());
    }
}
