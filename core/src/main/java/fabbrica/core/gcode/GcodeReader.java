package fabbrica.core.gcode;

import java.io.IOException;
import java.io.InputStream;
import java.util.Arrays;
import java.util.function.Consumer;

/**
 * Reads the open RepRap flavour of ISO 6983 / RS-274 line by line from a stream, without ever holding more than one
 * buffer of it: words in any order and case, with or without spaces, line numbers, checksums, comments after a semicolon
 * or in brackets. A line that makes no sense is handed on with its fault; reading goes on.
 */
public final class GcodeReader {

    private static final int BUFFER = 1 << 18;
    private static final int LONGEST_LINE = 1 << 22;
    private static final double[] TENTHS = new double[19];
    /** Commands that are followed by free text. */
    private static final int[] TEXT_CODES = {23, 28, 30, 32, 117, 118, 928};

    static {
        for (int i = 0; i < TENTHS.length; i++) {
            TENTHS[i] = Math.pow(10, i);
        }
    }

    private final GcodeLine line = new GcodeLine();

    private GcodeReader() {
    }

    /** @throws IOException when the stream fails or holds a line of more than 4 MB, which is no G-code */
    public static void read(InputStream in, Consumer<GcodeLine> each) throws IOException {
        new GcodeReader().run(in, each);
    }

    private void run(InputStream in, Consumer<GcodeLine> each) throws IOException {
        byte[] buffer = new byte[BUFFER];
        int start = 0, end = 0;
        while (true) {
            int got = in.read(buffer, end, buffer.length - end);
            boolean last = got < 0;
            end += Math.max(0, got);
            int at = start;
            int newline;
            while ((newline = indexOfNewline(buffer, at, end)) >= 0) {
                parse(buffer, at, newline);
                each.accept(line);
                at = newline + 1;
            }
            if (last) {
                if (at < end) {
                    parse(buffer, at, end);
                    each.accept(line);
                }
                return;
            }
            if (end - at > LONGEST_LINE) {
                throw new IOException("Line %d is longer than 4 MB: this is no G-code.".formatted(line.number + 1));
            }
            if (at == 0 && end == buffer.length) {
                buffer = Arrays.copyOf(buffer, 2 * end);
            } else {
                System.arraycopy(buffer, at, buffer, 0, end - at);
                end -= at;
            }
            start = 0;
        }
    }

    private static int indexOfNewline(byte[] buffer, int from, int to) {
        for (int i = from; i < to; i++) {
            if (buffer[i] == '\n') {
                return i;
            }
        }
        return -1;
    }

    private void parse(byte[] bytes, int from, int to) {
        line.number++;
        line.letter = 0;
        line.code = -1;
        line.words = 0;
        line.fault = null;
        line.buffer = bytes;
        line.commentStart = 0;
        line.commentEnd = 0;
        line.textStart = from;
        line.textEnd = to > from && bytes[to - 1] == '\r' ? to - 1 : to;
        int at = from;
        while (at < line.textEnd) {
            byte c = bytes[at];
            if (c == ' ' || c == '\t' || c == '%') {
                at++;
            } else if (c == ';') {
                line.commentStart = at + 1;
                line.commentEnd = line.textEnd;
                return;
            } else if (c == '(') {
                line.commentStart = at + 1;
                while (at < line.textEnd && bytes[at] != ')') {
                    at++;
                }
                line.commentEnd = at++;
            } else if (c == '*') {
                at = skipTo(bytes, at, ';');
            } else {
                at = word(bytes, at);
                if (at < 0) {
                    return;
                }
            }
        }
    }

    /** @return where the word ends, or −1 when the rest of the line is not to be read */
    private int word(byte[] bytes, int at) {
        int upper = bytes[at] & 0xDF;
        if (upper < 'A' || upper > 'Z') {
            line.fault = "“%c” is no word".formatted((char) bytes[at]);
            return -1;
        }
        int end = line.textEnd, i = at + 1;
        while (i < end && bytes[i] == ' ') {
            i++;
        }
        boolean negative = i < end && bytes[i] == '-';
        i += i < end && (bytes[i] == '-' || bytes[i] == '+') ? 1 : 0;
        long digits = 0;
        int count = 0, decimals = -1;
        for (; i < end; i++) {
            int c = bytes[i];
            if (c >= '0' && c <= '9') {
                if (count < 18) {
                    digits = digits * 10 + c - '0';
                    count++;
                    decimals += decimals >= 0 ? 1 : 0;
                } else if (decimals < 0) {
                    line.fault = "a number is too long";
                    return -1;
                }
            } else if (c == '.' && decimals < 0) {
                decimals = 0;
            } else {
                break;
            }
        }
        double value = decimals > 0 ? digits / TENTHS[decimals] : digits;
        boolean command = (upper == 'G' || upper == 'M' || upper == 'T') && line.letter == 0;
        if (count == 0 && command) {
            line.fault = "“%c” has no number".formatted((char) bytes[at]);
            return -1;
        }
        if (command) {
            line.letter = (char) upper;
            line.code = (int) value;
            if (upper == 'M' && Arrays.binarySearch(TEXT_CODES, line.code) >= 0) {
                return -1;
            }
        } else if (upper != 'N' || line.letter != 0) {
            if (i < end && bytes[i] != ' ' && bytes[i] != ';' && bytes[i] != '*' && bytes[i] != '\t'
                    && ((bytes[i] & 0xDF) < 'A' || (bytes[i] & 0xDF) > 'Z')) {
                line.fault = "“%c” does not belong into a number".formatted((char) bytes[i]);
                return -1;
            }
            int word = 1 << upper - 'A';
            if ((line.words & word) != 0) {
                line.fault = "“%c” comes twice".formatted((char) upper);
                return -1;
            }
            line.values[upper - 'A'] = negative ? -value : value;
            line.words |= word;
        }
        return i;
    }

    private int skipTo(byte[] bytes, int from, int wanted) {
        int at = from;
        while (at < line.textEnd && bytes[at] != wanted) {
            at++;
        }
        return at;
    }
}
