package fabbrica.web.plan;

import java.time.Instant;

/** A file that was sliced elsewhere, brought for a ticket that has a model of its own. */
public record SlicedFile(long id, long ticketId, String name, String sha256, long bytes, Instant takenAt) {
}
