package fabbrica.web.floor;

import fabbrica.core.units.Money;
import fabbrica.web.floor.RunEnd.Outcome;

/** How one copy of a run ended, and its share of the run's plastic, time and money. */
public record RunCopy(long runId, long copyId, long ticketId, Outcome outcome, String reason, double grams, long seconds, Money cost) {
}
