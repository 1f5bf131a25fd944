package fabbrica.core.ledger;

import java.time.Duration;
import java.time.Instant;
import java.time.YearMonth;
import org.jspecify.annotations.Nullable;

/**
 * A ticket that was handed out.
 *
 * @param month     in which it was
 * @param came      when its file came to the counter
 * @param ready     when its last copy came off a machine; null when nothing was printed for it here
 * @param neededBy  null when nobody has said
 * @param collectBy when it was to be there by what its member was told last; null when she was told nothing
 */
public record HandedOut(YearMonth month, Instant came, @Nullable Instant ready, Instant out, @Nullable Instant neededBy, @Nullable Instant collectBy) {

    Duration waited() {
        return Duration.between(came, out);
    }
}
