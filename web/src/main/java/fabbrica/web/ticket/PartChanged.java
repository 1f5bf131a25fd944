package fabbrica.web.ticket;

import fabbrica.web.platform.events.Fact;

/** A ticket's part is no longer what was laid on plates; told in the same transaction, so that they give it back. */
public record PartChanged(long ticketId, Fact.Cause cause, String who) {
}
