package fabbrica.web.mine;

import fabbrica.web.ticket.Ticket;

/** Where a ticket stands, as one would tell its member. */
final class PlainState {

    private PlainState() {
    }

    static String of(Ticket ticket) {
        return switch (ticket.state()) {
            case NEW -> "It lies at the counter; somebody looks at it.";
            case SENT_BACK -> "Something is asked of you.";
            case DECLINED -> "The lab does not print it.";
            case WITHDRAWN -> "It was withdrawn.";
            case ACCEPTED -> ticket.charge().waits() ? "You are asked whether the price is all right." : "It is accepted and gets its place on a printer next.";
            case QUEUED -> "It waits for its turn on a printer.";
            case RUNNING -> "It is being printed.";
            case FAILED -> "A try went wrong; it is tried again. There is nothing for you to do.";
            case PRINTED -> "It is ready: collect it at the counter.";
            case HANDED_OUT -> "You have collected it.";
        };
    }
}
