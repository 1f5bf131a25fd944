package fabbrica.web.ticket;

import java.time.Instant;

/** One line of a ticket's history: who did what, when and why. */
public record TicketEvent(Instant at, String who, String what, String why) {
}
