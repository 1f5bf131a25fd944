package fabbrica.core.gcode;

import java.nio.charset.StandardCharsets;

/**
 * One line of G-code: a command such as {@code G1}, its words such as {@code X10.5}, and the comment. The reader fills one
 * object anew for each line.
 */
public final class GcodeLine {

    final double[] values = new double[26];
    int words;
    char letter;
    int code;
    long number;
    String fault;
    byte[] buffer;
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
    public String fault() {
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
