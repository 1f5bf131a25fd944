package fabbrica.web.plan;

import java.time.Instant;

/** A file that a member had sliced elsewhere, brought along with a ticket. */
record SlicedFile(long id, long ticketId, String name, String sha256, long bytes, Instant takenAt) {
}
