package fabbrica.web.stores;

import java.time.LocalTime;
import java.util.Currency;

/**
 * The lab itself.
 *
 * @param limitMb largest file taken in, in MB of 2^20 bytes
 */
public record Lab(String name, Currency currency, int limitMb, LocalTime opens, LocalTime closes) {

    public long limitBytes() {
        return limitMb * 1024L * 1024;
    }
}
