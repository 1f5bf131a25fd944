package fabbrica.web.stores;

import fabbrica.core.estimate.Tariff;
import fabbrica.core.judge.Policy;
import java.time.ZoneId;
import java.util.Comparator;
import java.util.Currency;
import java.util.List;
import java.util.Locale;
import org.jspecify.annotations.Nullable;

/**
 * The lab itself.
 *
 * @param zone    of its clock on the wall; null where the computer's holds
 * @param limitMb largest file taken in, in MB of 2^20 bytes
 * @param round   places in the room, in the order in which somebody comes to them
 */
public record Lab(String name, Currency currency, @Nullable ZoneId zone, int limitMb, Tariff tariff, Policy policy, Keeping keeping, List<String> round) {

    public Lab {
        round = List.copyOf(round);
    }

    /** Plastic at cost and nothing else; all is kept for good; no way round the room. */
    public Lab(String name, Currency currency, @Nullable ZoneId zone, int limitMb) {
        this(name, currency, zone, limitMb, Tariff.PLASTIC_ONLY, Policy.USUAL, Keeping.FOR_GOOD, List.of());
    }

    /** Places in the order in which somebody comes to them who walks round the room; those nobody has named come last, by name. */
    public Comparator<String> onTheWay() {
        List<String> named = round.stream().map(place -> place.toLowerCase(Locale.ROOT)).toList();
        return Comparator.comparingInt((String place) -> {
            int at = named.indexOf(place.toLowerCase(Locale.ROOT));
            return at < 0 ? round.size() : at;
        }).thenComparing(String.CASE_INSENSITIVE_ORDER);
    }

    public long limitBytes() {
        return limitMb * 1024L * 1024;
    }
}
