package fabbrica.web.floor;

import fabbrica.core.run.Remedy;
import org.jspecify.annotations.Nullable;

/**
 * One of several tries at the same copies.
 *
 * @param changed for it; null for the first, or when all was kept
 */
public record Tried(Run run, @Nullable Remedy changed) {
}
