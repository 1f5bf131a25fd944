package fabbrica.web.ticket;

import fabbrica.web.platform.events.Event;

/** Another ticket with the same file, and what happened to it last. */
public record Earlier(long ticketId, Event last) {
}
