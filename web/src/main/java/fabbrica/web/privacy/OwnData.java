package fabbrica.web.privacy;

import fabbrica.web.account.Member;
import fabbrica.web.ticket.Ticket.Request;
import java.time.Instant;
import java.util.List;
import java.util.Map;
import org.jspecify.annotations.Nullable;

/**
 * What a lab keeps of one person, as it is handed to them in JSON. Who of the staff did something is left out.
 *
 * @param member   null for somebody who only signs in
 * @param accounts names they sign in with
 * @param steps    what they did with them
 */
record OwnData(String lab, Instant at, @Nullable Member member, List<String> accounts, List<Asked> tickets, List<Step> steps) {

    /** Something that happened; without a ticket when it was about something else. */
    record Step(@Nullable Long ticket, Instant at, String what, String why) {
    }

    /**
     * @param price what it costs; empty as long as nobody knows
     * @param paidAt null until it is paid
     * @param notes that came with the model, by their names
     * @param files names under which what came with the ticket is in the same archive
     */
    record Asked(long ticket, String model, String state, Instant handedOverAt, Request request, double scalePercent,
                 String price, @Nullable Instant paidAt, List<Step> history, List<Attempt> runs, Map<String, String> notes, List<String> files) {
    }

    /**
     * A run, with the share of it that was theirs.
     *
     * @param endedAt null while it runs
     * @param copies  how each of theirs ended
     * @param cost    in the lab's currency
     */
    record Attempt(long run, String printer, String spool, Instant startedAt, @Nullable Instant endedAt, String outcome, List<String> copies,
                   double grams, double minutes, String cost, List<String> defects, String cause, String note) {
    }
}
