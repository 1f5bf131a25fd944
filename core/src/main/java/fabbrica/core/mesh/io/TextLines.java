package fabbrica.core.mesh.io;

import java.io.BufferedInputStream;
import java.io.IOException;
import java.io.InputStream;
import org.jspecify.annotations.Nullable;

/** The lines of a text file, counted, none longer than a person's patience: for readers of text formats. */
public final class TextLines {

    private static final int LONGEST = 1 << 16;

    private final InputStream in;
    private final StringBuilder line = new StringBuilder(128);
    private int number;

    public TextLines(InputStream in) {
        this.in = in instanceof BufferedInputStream ? in : new BufferedInputStream(in, 1 << 16);
    }

    /** The next line without its end, or null; CR, LF and CR LF all end a line. */
    public @Nullable String next() throws IOException {
        line.setLength(0);
        int read = in.read();
        if (read < 0) {
            return null;
        }
        number++;
        while (read >= 0 && read != '\n' && read != '\r') {
            if (line.length() == LONGEST) {
                throw broken("is longer than %d characters".formatted(LONGEST));
            }
            line.append((char) read);
            read = in.read();
        }
        if (read == '\r') {
            in.mark(1);
            if (in.read() != '\n') {
                in.reset();
            }
        }
        return line.toString();
    }

    /** The number of the line read last, from 1. */
    public int number() {
        return number;
    }

    /** What a reader throws about the line read last: "Line 12 has …". */
    public ModelFormatException broken(String what) {
        return new ModelFormatException("Line %d %s.".formatted(number, what));
    }

    /** A finite number, or a sentence about the line. */
    public double number(String word) throws ModelFormatException {
        double value;
        try {
            value = Double.parseDouble(word);
        } catch (NumberFormatException e) {
            throw broken("holds “%s” where a number belongs".formatted(word));
        }
        if (!Double.isFinite(value)) {
            throw broken("holds a coordinate that is not a finite number");
        }
        return value;
    }
}
