package fabbrica.core.ledger;

import fabbrica.core.units.Money;
import java.util.List;

/**
 * What copies came to.
 *
 * @param failed of the copies; what was stopped is in neither
 * @param cost   of their plastic, in each currency in which there is any
 */
public record Sum(long copies, long failed, double hours, double grams, List<Money> cost) {

    public static final Sum NOTHING = new Sum(0, 0, 0, 0, List.of());

    /** Those that came out. */
    public long good() {
        return copies - failed;
    }

    /** Share of the copies that failed, 0 to 1. */
    public double failedShare() {
        return copies == 0 ? 0 : failed / (double) copies;
    }
}
