package fabbrica.web.plan;

import java.time.Instant;

/**
 * A file that a member had sliced elsewhere.
 *
 * @param ticketId null when it came by itself
 */
public record SlicedFile(long id, Long ticketId, String name, String sha256, long bytes, Instant takenAt) {
}
