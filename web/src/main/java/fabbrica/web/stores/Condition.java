package fabbrica.web.stores;

import java.time.Instant;
import org.jspecify.annotations.Nullable;

/**
 * Whether a printer can be used.
 *
 * @param reason why it cannot; may be empty
 * @param until  when it is expected to be ready again; null when nobody knows, or it is ready
 */
public record Condition(State state, String reason, @Nullable Instant until) {

    /** Whose first print is still to be checked prints for nobody else. */
    public enum State {
        READY, UNPROVED, DOWN
    }

    public static final Condition READY = new Condition(State.READY, "", null);

    public static Condition down(String reason, @Nullable Instant until) {
        return new Condition(State.DOWN, reason, until);
    }

    /** @param why its first print is to be checked: what it is, or what was done to it */
    public static Condition unproved(String why) {
        return new Condition(State.UNPROVED, why, null);
    }

    /** Whether it cannot be used as it is. */
    public boolean down() {
        return state != State.READY;
    }

    public boolean unproved() {
        return state == State.UNPROVED;
    }

    /** How it stands, in a few words. */
    public String said() {
        String stands = switch (state) {
            case READY -> "in order";
            case UNPROVED -> "waiting for the check of its first print";
            case DOWN -> "out of order";
        };
        return reason.isEmpty() ? stands : stands + ": " + reason;
    }
}
