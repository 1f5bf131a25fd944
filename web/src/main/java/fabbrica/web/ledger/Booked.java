package fabbrica.web.ledger;

import fabbrica.core.ledger.Entry;
import java.time.Instant;

/** An entry of the books and where it comes from. */
record Booked(long run, long ticket, String printer, Instant startedAt, Entry entry) {
}
