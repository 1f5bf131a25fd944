package fabbrica.web.floor;

import java.time.Instant;

/**
 * A floor plan that was published.
 *
 * @param what was in it that was not in the one before, a phrase
 */
record Publication(long id, Instant at, String by, String what) {
}
