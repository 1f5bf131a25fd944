package fabbrica.web.counter;

import fabbrica.web.ticket.Purpose;
import java.time.Instant;
import org.jspecify.annotations.Nullable;

/**
 * Tickets that are one thing to accept, plan and follow: a class's, a club's.
 *
 * @param purpose  of those that have none of their own; null for none
 * @param neededBy of all; null when there is no hurry
 */
public record Group(long id, String name, @Nullable Purpose purpose, @Nullable Instant neededBy) {
}
