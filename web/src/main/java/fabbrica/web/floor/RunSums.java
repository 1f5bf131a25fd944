package fabbrica.web.floor;

import fabbrica.core.run.Deviation;
import fabbrica.core.units.Money;
import java.util.List;

/**
 * Runs that have ended, summed up.
 *
 * @param time minutes promised against real, of the runs that came out well
 * @param cost of each currency in which there is any
 */
public record RunSums(long ended, long failed, double grams, double hours, Deviation time, List<Money> cost) {
}
