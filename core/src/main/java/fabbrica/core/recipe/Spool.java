package fabbrica.core.recipe;

import fabbrica.core.units.Money;
import fabbrica.core.units.OutOfRange;
import java.util.Currency;

/**
 * A reel of filament on the shelf.
 *
 * @param remainingG grams left; may be below zero when a run used more than was thought to be there
 * @param pricePerKg in the currency given
 */
public record Spool(String id, String materialId, String colour, double remainingG, double pricePerKg,
                    Currency currency) {

    public Spool {
        OutOfRange.check("Price per kg", pricePerKg, 0, 100_000, "");
    }

    public Money price(double grams) {
        return Money.of(grams * pricePerKg / 1000, currency);
    }
}
