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

    /**
     * Nothing when it is about where it was said to be.
     *
     * @param jumped how far the clock has jumped till now: by that nothing is late
     */
    Optional<Move> move(Instant end, Duration jumped) {
        Instant evenly = end.minus(jumped);
        first = first == null ? evenly : first;
        boolean late = !lateTold && Duration.between(first, evenly).compareTo(LATE) > 0;
        return told != null && !late && Duration.between(told, end).abs().compareTo(MOVED) <= 0 ? Optional.empty() : Optional.of(new Move(end, late));
    }

    /** It is written down. */
    void moved(Move move) {
        told = move.end();
        lateTold |= move.late();
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
