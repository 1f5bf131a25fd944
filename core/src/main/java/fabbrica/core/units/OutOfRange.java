package fabbrica.core.units;

/** A value outside what is allowed; the message is a sentence for the person who entered it. */
public final class OutOfRange extends IllegalArgumentException {

    public OutOfRange(String sentence) {
        super(sentence);
    }

    /** Returns {@code value} when it lies in [min, max]; NaN never does. */
    public static double check(String name, double value, double min, double max, String unit) {
        if (value >= min && value <= max) {
            return value;
        }
        throw new OutOfRange("%s must be between %s and %s%s; %s was given.".formatted(
                name, Spoken.number(min), Spoken.number(max), unit.isEmpty() ? "" : " " + unit, Spoken.number(value)));
    }

    public static int check(String name, int value, int min, int max) {
        check(name, (double) value, min, max, "");
        return value;
    }
}
