package fabbrica.web.plan;

import fabbrica.web.ticket.TicketState;

/**
 * How the copies of a ticket stand.
 *
 * @param well    came out well, or usable
 * @param failed  attempts that did not
 * @param drafted lie on plates that are being laid; so with queued and running
 */
public record Copies(int wanted, int well, int failed, int drafted, int queued, int running) {

    /** Copies that lie on no plate yet. */
    public int missing() {
        return Math.max(0, wanted - well - drafted - queued - running);
    }

    /** Copies beyond what is wanted that are still to be printed. */
    public int surplus() {
        return Math.min(drafted + queued, Math.max(0, well + drafted + queued + running - wanted));
    }

    /** Where an accepted ticket is. */
    public TicketState state() {
        if (running > 0) {
            return TicketState.RUNNING;
        }
        if (well >= wanted) {
            return TicketState.PRINTED;
        }
        if (queued > 0) {
            return TicketState.QUEUED;
        }
        return failed > 0 ? TicketState.FAILED : TicketState.ACCEPTED;
    }
}
