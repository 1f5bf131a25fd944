package fabbrica.web.stores;

import java.time.Instant;
import org.jspecify.annotations.Nullable;

/**
 * Whether a printer can be used.
 *
 * @param reason why it is down; may be empty
 * @param until  when it is expected to be ready again; null when nobody knows, or it is ready
 */
public record Condition(boolean down, String reason, @Nullable Instant until) {

    public static final Condition READY = new Condition(false, "", null);
}
