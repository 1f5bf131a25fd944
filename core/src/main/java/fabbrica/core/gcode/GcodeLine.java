package fabbrica.core.gcode;

import java.nio.charset.StandardCharsets;
import java.util.Arrays;
import org.jspecify.annotations.Nullable;

/**
 * One line of G-code, or one command of a line that has several: a command such as {@code G1}, its words such as
 * {@code X10.5}, and the comment. The reader fills one object anew for each line.
 */
public final class GcodeLine {

    final double[] values = new double[26];
    int words;
    char letter;
    int code;
    int minor;
    long number;
    @Nullable String fault;
    byte[] buffer = {};
    int commentStart;
    int commentEnd;
    int textStart;
    int textEnd;

    /** Counted from 1. */
    public long number() {
        return number;
    }

    /** {@code G}, {@code M} or {@code T}; 0 for a line without a command. */
    public char letter() {
        return letter;
    }

    public int code() {
        return code;
    }

    /** The digit after the point of a code such as {@code G90.1}; 0 for others. */
    public int minor() {
        return minor;
    }

    /** One that stays as it is when the reader goes on. */
    GcodeLine kept() {
        GcodeLine kept = new GcodeLine();
        System.arraycopy(values, 0, kept.values, 0, values.length);
        kept.words = words;
        kept.letter = letter;
        kept.code = code;
        kept.minor = minor;
        kept.number = number;
        kept.fault = fault;
        kept.buffer = Arrays.copyOfRange(buffer, textStart, textEnd);
        kept.textEnd = textEnd - textStart;
        kept.commentStart = Math.max(0, commentStart - textStart);
        kept.commentEnd = Math.max(0, commentEnd - textStart);
        return kept;
    }

    public boolean is(char ofLetter, int ofCode) {
        return letter == ofLetter && code == ofCode;
    }

    public boolean has(char word) {
        return (words >> word - 'A' & 1) == 1;
    }

    /** The value of a word, or another one when the line has no such word. */
    public double value(char word, double otherwise) {
        return has(word) ? values[word - 'A'] : otherwise;
    }

    /** Why the line makes no sense; null when it does. */
    public @Nullable String fault() {
        return fault;
    }

    public boolean hasComment() {
        return commentEnd > commentStart;
    }

    public String comment() {
        return new String(buffer, commentStart, commentEnd - commentStart, StandardCharsets.UTF_8).strip();
    }

    /** The whole line as it stands in the file. */
    public String text() {
        return new String(buffer, textStart, textEnd - textStart, StandardCharsets.UTF_8);
    }
}
