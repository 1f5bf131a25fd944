package fabbrica.web.stores;

import fabbrica.core.estimate.Tariff;
import fabbrica.core.judge.Policy;
import java.time.ZoneId;
import java.util.Currency;
import org.jspecify.annotations.Nullable;

/**
 * The lab itself.
 *
 * @param zone    of its clock on the wall; null where the computer's holds
 * @param limitMb largest file taken in, in MB of 2^20 bytes
 */
public record Lab(String name, Currency currency, @Nullable ZoneId zone, int limitMb, Tariff tariff, Policy policy, Keeping keeping) {

    /** Plastic at cost and nothing else; all is kept for good. */
    public Lab(String name, Currency currency, @Nullable ZoneId zone, int limitMb) {
        this(name, currency, zone, limitMb, Tariff.PLASTIC_ONLY, Policy.USUAL, Keeping.FOR_GOOD);
    }

    public long limitBytes() {
        return limitMb * 1024L * 1024;
    }
}
