package fabbrica.web.stores;

import java.time.Instant;

/**
 * Plastic that came to a spool or went from it.
 *
 * @param grams above zero when it came
 * @param by    the name by which whoever wrote it down signs in; may be empty
 */
public record Movement(Instant at, String by, Kind kind, double grams, String reason) {

    /** The names are stored. */
    public enum Kind {
        ADDED("added"), USED("printed"), FAILED("went into a print that failed"), PURGED("purged"), WEIGHED("by the scales"),
        CORRECTED("corrected");

        private final String label;

        Kind(String label) {
            this.label = label;
        }

        public String label() {
            return label;
        }
    }
}
