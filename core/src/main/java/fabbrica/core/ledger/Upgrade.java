package fabbrica.core.ledger;

import java.util.OptionalDouble;

/**
 * What another machine would have changed.
 *
 * @param was   what some prints took
 * @param would what the same would have taken
 * @param days  over which they were printed, more than 0
 */
public record Upgrade(Outlay was, Outlay would, double days) {

    /** Of a mean year. */
    private static final double DAYS_A_MONTH = 365.2425 / 12;

    /** Below 0 when it would have taken longer. */
    public double hoursSavedAMonth() {
        return aMonth(was.seconds() - would.seconds()) / 3600;
    }

    /** Below 0 when it would have cost more. */
    public double moneySavedAMonth() {
        return aMonth(was.money() - would.money());
    }

    /** Share of the time that would have been saved; below 0 when it would have taken longer. */
    public double timeShare() {
        return was.seconds() == 0 ? 0 : 1 - would.seconds() / was.seconds();
    }

    /** Months until what is saved comes to a price; nothing when nothing is saved. */
    public OptionalDouble monthsToPayBack(double price) {
        return moneySavedAMonth() > 0 ? OptionalDouble.of(price / moneySavedAMonth()) : OptionalDouble.empty();
    }

    private double aMonth(double inAll) {
        return inAll / days * DAYS_A_MONTH;
    }
}
