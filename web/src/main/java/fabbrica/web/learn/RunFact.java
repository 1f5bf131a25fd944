package fabbrica.web.learn;

import java.time.Instant;

/**
 * What a run that has ended says of how reliably things are printed.
 *
 * @param nozzleHours that its nozzle had run when it began; negative when the nozzle is not known
 * @param sources     where its models come from, purposes what they are for: of several tickets "several"; may be empty
 * @param grams       that were worked out for it
 * @param failed      whether a copy failed
 */
record RunFact(String printerId, String printer, String material, double nozzleHours, String sources, String purposes, double grams, Instant startedAt, boolean failed) {
}
