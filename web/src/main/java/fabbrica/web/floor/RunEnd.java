package fabbrica.web.floor;

import fabbrica.core.run.Defect;
import fabbrica.core.run.Sign;
import java.util.List;
import org.jspecify.annotations.Nullable;

/**
 * What somebody reports when a run has ended.
 *
 * @param signs       what is wrong with it
 * @param photoSha256 null when there is none
 */
public record RunEnd(Took took, List<CopyEnd> copies, List<Sign> signs, String cause, String note,
                     @Nullable String photoSha256, @Nullable String photoType) {

    /** How a copy ended; the names are stored. */
    public enum Outcome {
        WELL("came out well"), USABLE("usable"), FAILED("failed"), CANCELLED("cancelled");

        private final String label;

        Outcome(String label) {
            this.label = label;
        }

        public String label() {
            return label;
        }

        public boolean isGood() {
            return this == WELL || this == USABLE;
        }
    }

    /**
     * One copy.
     *
     * @param reason may be empty
     * @param grams  that it took, when somebody has weighed it; null leaves it to what was laid for it
     */
    public record CopyEnd(long copyId, Outcome outcome, String reason, @Nullable Double grams) {
    }

    public RunEnd {
        copies = List.copyOf(copies);
        signs = List.copyOf(signs);
    }

    public List<Defect> defects() {
        return signs.stream().map(Sign::defect).toList();
    }
}
