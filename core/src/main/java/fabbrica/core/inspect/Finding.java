package fabbrica.core.inspect;

/**
 * One thing measured on a part that somebody should know.
 *
 * @param count   how often it occurs; 1 where counting makes no sense
 * @param message what was found, with its numbers
 * @param why     why it matters
 * @param advice  what to do
 */
public record Finding(Code code, Severity severity, long count, String message, String why, String advice) {

    /** Stable codes, as they stand in JSON. */
    public enum Code {
        OPEN_EDGES("open-edges"),
        NON_MANIFOLD("non-manifold"),
        DEGENERATE("degenerate"),
        DUPLICATE("duplicate"),
        MULTIPLE_BODIES("multiple-bodies"),
        UNIT_SUSPECT("unit-suspect"),
        TOO_BIG("too-big"),
        TOO_SMALL("too-small"),
        OVERHANG("overhang");

        private final String code;

        Code(String code) {
            this.code = code;
        }

        public String code() {
            return code;
        }
    }
}
