package fabbrica.web.stores;

import fabbrica.core.estimate.Tariff;
import java.time.LocalTime;
import java.util.Currency;

/**
 * The lab itself.
 *
 * @param limitMb largest file taken in, in MB of 2^20 bytes
 */
public record Lab(String name, Currency currency, int limitMb, LocalTime opens, LocalTime closes,
                  Tariff tariff, Keeping keeping) {

    /** Plastic at cost and nothing else; all is kept for good. */
    public Lab(String name, Currency currency, int limitMb, LocalTime opens, LocalTime closes) {
        this(name, currency, limitMb, opens, closes, Tariff.PLASTIC_ONLY, Keeping.FOR_GOOD);
    }

    public long limitBytes() {
        return limitMb * 1024L * 1024;
    }
}
