package fabbrica.core.units;

import java.math.BigDecimal;
import java.math.RoundingMode;
import java.util.Currency;
import java.util.Objects;

/** An amount rounded to the currency's smallest coin. */
public record Money(BigDecimal amount, Currency currency) {

    public Money {
        Objects.requireNonNull(currency, "currency");
        amount = amount.setScale(currency.getDefaultFractionDigits(), RoundingMode.HALF_UP);
    }

    public static Money of(double amount, Currency currency) {
        return new Money(BigDecimal.valueOf(amount), currency);
    }

    /** @param coins of the smallest kind */
    public static Money ofCoins(long coins, Currency currency) {
        return new Money(BigDecimal.valueOf(coins, currency.getDefaultFractionDigits()), currency);
    }

    /** In the smallest coin. */
    public long coins() {
        return amount.unscaledValue().longValueExact();
    }

    /** @throws IllegalArgumentException when the other is of another currency */
    public Money plus(Money other) {
        if (!currency.equals(other.currency)) {
            throw new IllegalArgumentException("%s and %s cannot be added".formatted(this, other));
        }
        return new Money(amount.add(other.amount), currency);
    }

    public Money times(int count) {
        return new Money(amount.multiply(BigDecimal.valueOf(count)), currency);
    }

    @Override
    public String toString() {
        return amount.toPlainString() + " " + currency.getCurrencyCode();
    }
}
