package fabbrica.web.machine;

import static org.assertj.core.api.Assertions.assertThat;

import java.time.Duration;
import java.util.Optional;
import java.util.function.BooleanSupplier;
import java.util.function.Supplier;

/** Waits for what is meant, a minute at most. */
public final class Until {

    private static final Duration LONGEST = Duration.ofMinutes(1);

    private Until() {
    }

    public static void true_(String what, BooleanSupplier meant) {
        there(what, () -> meant.getAsBoolean() ? Optional.of(true) : Optional.empty());
    }

    public static <T> T there(String what, Supplier<Optional<T>> meant) {
        long end = System.nanoTime() + LONGEST.toNanos();
        Optional<T> found = meant.get();
        while (found.isEmpty() && System.nanoTime() < end) {
            try {
                Thread.sleep(20);
            } catch (InterruptedException e) {
                throw new IllegalStateException(e);
            }
            found = meant.get();
        }
        assertThat(found).as(what).isPresent();
        return found.orElseThrow();
    }
}
