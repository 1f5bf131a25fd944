package fabbrica.web.plan;

import java.time.Instant;
import org.jspecify.annotations.Nullable;

/**
 * A file that a member had sliced elsewhere.
 *
 * @param ticketId null when it came by itself
 */
public record SlicedFile(long id, @Nullable Long ticketId, String name, String sha256, long bytes, Instant takenAt) {
}
