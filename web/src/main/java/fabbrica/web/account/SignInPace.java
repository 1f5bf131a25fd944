package fabbrica.web.account;

import com.github.benmanes.caffeine.cache.Cache;
import com.github.benmanes.caffeine.cache.Caffeine;
import java.time.Clock;
import java.time.Duration;
import java.time.Instant;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import org.springframework.stereotype.Component;

/**
 * How long to wait before the next try at signing in. It grows with each failure: for a name from browsers it has never
 * signed in on, for an address, and for a browser that is known. Strangers to a name slow down each other, never its owner on
 * a browser of hers (device cookies: OWASP, "Slow down online guessing attacks with device cookies"); and nobody is shut out
 * for longer than a minute.
 */
@Component
class SignInPace {

    private static final int FREE_TRIES = 5;
    /** Behind one address sits a class of pupils. */
    private static final int FREE_TRIES_OF_ADDRESS = 40;
    private static final Duration LONGEST = Duration.ofMinutes(1);
    private static final Duration FORGIVEN = Duration.ofHours(1);
    private static final int MOST_KEYS = 100_000;

    private final Clock clock;
    private final Cache<String, Failures> failures = Caffeine.newBuilder().maximumSize(MOST_KEYS).expireAfterWrite(FORGIVEN)
            .executor(Runnable::run).build();

    SignInPace(Clock clock) {
        this.clock = clock;
    }

    private record Failures(int count, Instant last) {
    }

    /** @param known whether the browser has signed in by that name before */
    Duration toWait(String name, String address, boolean known) {
        Duration longest = Duration.ZERO;
        for (String key : keys(name, address, known)) {
            Failures failed = failures.getIfPresent(key);
            if (failed != null) {
                int over = failed.count() - (key.startsWith("address") ? FREE_TRIES_OF_ADDRESS : FREE_TRIES);
                Duration pause = over < 0 ? Duration.ZERO : Duration.ofSeconds(1L << Math.min(over, 6));
                Duration left = Duration.between(clock.instant(), failed.last().plus(pause.compareTo(LONGEST) < 0 ? pause : LONGEST));
                longest = left.compareTo(longest) > 0 ? left : longest;
            }
        }
        return longest;
    }

    void failed(String name, String address, boolean known) {
        for (String key : keys(name, address, known)) {
            failures.asMap().merge(key, new Failures(1, clock.instant()), (before, one) -> new Failures(before.count() + 1, one.last()));
        }
    }

    void succeeded(String name, String address, boolean known) {
        failures.invalidate(keys(name, address, known).getFirst());
    }

    private static List<String> keys(String name, String address, boolean known) {
        List<String> keys = new ArrayList<>(List.of((known ? "known " : "stranger ") + name.toLowerCase(Locale.ROOT)));
        if (!known) {
            keys.add("address " + address);
        }
        return keys;
    }
}
