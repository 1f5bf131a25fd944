package fabbrica.web.machine;

import java.time.Duration;
import java.time.Instant;
import java.util.Optional;
import org.jspecify.annotations.Nullable;

/** When what a machine is at should end, as it moves; only moves that matter are worth writing down. */
final class ExpectedEnd {

    private static final Duration MOVED = Duration.ofMinutes(1);
    /** Later than that it may upset what comes after it. */
    private static final Duration LATE = Duration.ofMinutes(15);

    private @Nullable Instant first;
    private @Nullable Instant told;
    private boolean lateTold;

    /**
     * A move that matters.
     *
     * @param late whether it is so late, for the first time, that what comes after it may be upset
     */
    record Move(Instant end, boolean late) {
    }

    /** Nothing when it is about where it was said to be. */
    Optional<Move> move(Instant end) {
        first = first == null ? end : first;
        boolean late = !lateTold && Duration.between(first, end).compareTo(LATE) > 0;
        if (told != null && !late && Duration.between(told, end).abs().compareTo(MOVED) <= 0) {
            return Optional.empty();
        }
        told = end;
        lateTold |= late;
        return Optional.of(new Move(end, late));
    }

    /** It has ended. */
    void over(Instant at) {
        told = at;
    }

    /** Null while nobody knows. */
    @Nullable Instant at() {
        return told;
    }
}
