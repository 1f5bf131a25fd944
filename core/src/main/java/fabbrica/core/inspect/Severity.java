package fabbrica.core.inspect;

/** How much a finding weighs: {@code BLOCK} stops the print, {@code CARE} wants a decision, {@code NOTE} informs. */
public enum Severity {
    BLOCK, CARE, NOTE;

    /** The word used in JSON and pages. */
    public String code() {
        return name().toLowerCase(java.util.Locale.ROOT);
    }
}
