package fabbrica.core.gcode;

import java.io.IOException;
import java.io.InputStream;
import java.io.InterruptedIOException;
import java.lang.invoke.MethodHandles;
import java.lang.invoke.VarHandle;
import java.nio.ByteOrder;
import java.nio.charset.StandardCharsets;
import java.util.Arrays;
import java.util.concurrent.ArrayBlockingQueue;
import java.util.concurrent.BlockingQueue;
import java.util.function.Consumer;
import java.util.regex.Pattern;
import org.jspecify.annotations.Nullable;

/**
 * Reads the open RepRap flavour of ISO 6983 / RS-274 line by line from a stream, without ever holding more than a few
 * buffers of it: words in any order and case, with or without spaces, line numbers, checksums, comments after a semicolon
 * or in brackets. Several commands on one line come one after another, each with the words behind it; a byte order mark is
 * passed over. A line that makes no sense is handed on with its fault; reading goes on.
 */
public final class GcodeReader {

    private static final VarHandle LONGS = MethodHandles.byteArrayViewVarHandle(long[].class, ByteOrder.LITTLE_ENDIAN);
    private static final long ONES = 0x0101010101010101L;
    private static final long TOPS = ONES << 7;
    private static final long NEWLINES = ONES * '\n';
    /** The byte order mark of UTF-8. */
    private static final byte[] MARK = {(byte) 0xEF, (byte) 0xBB, (byte) 0xBF};
    private static final int LONGEST_LINE = 1 << 22;
    private static final int BATCHES = 3;
    private static final double[] TENTHS = new double[19];
    private static final Pattern FIRST_LINE = Pattern.compile("^([;(%]|[GMTN]\\s?\\d)", Pattern.CASE_INSENSITIVE);
    /** Commands that are followed by free text. */
    private static final int[] TEXT_CODES = {23, 28, 30, 32, 117, 118, 928};

    static {
        for (int i = 0; i < TENTHS.length; i++) {
            TENTHS[i] = Math.pow(10, i);
        }
    }

    private final InputStream in;
    private final BlockingQueue<Batch> free = new ArrayBlockingQueue<>(BATCHES);
    private final BlockingQueue<Batch> full = new ArrayBlockingQueue<>(BATCHES);
    private GcodeLine line = new GcodeLine();
    private long number;

    /** Lines that are handed over together. */
    private static final class Batch {

        private static final int MOST_LINES = 1 << 9;
        private static final int MOST_COMMANDS = 64;

        private final GcodeLine[] lines = new GcodeLine[MOST_LINES + MOST_COMMANDS];
        private byte[] bytes = new byte[1 << 14];
        private int count;
        private boolean last;
        private @Nullable IOException failure;

        Batch() {
            Arrays.setAll(lines, i -> new GcodeLine());
        }
    }

    /** Whether the start of a file is that of G-code, told by its first line: a comment, a percent sign, or a command. */
    public static boolean looksLikeGcode(byte[] head) {
        String text = new String(head, StandardCharsets.UTF_8).replace("\uFEFF", "");
        return text.indexOf('\0') < 0 && text.lines().map(String::strip).filter(line -> !line.isEmpty()).findFirst()
                .filter(line -> FIRST_LINE.matcher(line).find()).isPresent();
    }

    private GcodeReader(InputStream in) {
        this.in = in;
    }

    /**
     * @param each called on the calling thread while another one reads ahead; it may not keep the line
     * @throws GcodeFormatException when it holds a line of more than 4 MB
     * @throws IOException when the stream fails
     */
    public static void read(InputStream in, Consumer<GcodeLine> each) throws IOException {
        GcodeReader reader = new GcodeReader(in);
        Thread ahead = Thread.ofPlatform().name("gcode").daemon().start(reader::readAhead);
        try {
            reader.handOver(each);
        } catch (InterruptedException e) {
            Thread.currentThread().interrupt();
            throw new InterruptedIOException("reading was interrupted");
        } finally {
            ahead.interrupt();
        }
    }

    private void handOver(Consumer<GcodeLine> each) throws IOException, InterruptedException {
        for (int i = 0; i < BATCHES; i++) {
            free.put(new Batch());
        }
        boolean last;
        do {
            Batch batch = full.take();
            for (int i = 0; i < batch.count; i++) {
                each.accept(batch.lines[i]);
            }
            if (batch.failure != null) {
                throw batch.failure;
            }
            last = batch.last;
            free.put(batch);
        } while (!last);
    }

    private void readAhead() {
        byte[] rest = new byte[0];
        int from = 0, to = 0;
        try {
            Batch batch;
            do {
                batch = free.take();
                batch.count = 0;
                batch.bytes = batch.bytes.length < to - from ? new byte[to - from] : batch.bytes;
                System.arraycopy(rest, from, batch.bytes, 0, to - from);
                to -= from;
                from = 0;
                try {
                    to = fill(batch, to);
                    from = parse(batch, to);
                } catch (IOException | RuntimeException e) {
                    batch.failure = e instanceof IOException failed ? failed : new IOException(e);
                    batch.last = true;
                }
                rest = batch.bytes;
                full.put(batch);
            } while (!batch.last);
        } catch (InterruptedException e) {
            // Nobody wants the rest.
        }
    }

    /** @return how many bytes the batch holds: all it has room for, with at least one whole line, or all that are left */
    private int fill(Batch batch, int held) throws IOException {
        int end = held + in.readNBytes(batch.bytes, held, batch.bytes.length - held);
        while (end == batch.bytes.length && indexOfNewline(batch.bytes, 0, end) < 0) {
            if (end >= LONGEST_LINE) {
                throw new GcodeFormatException("Line %d is longer than 4 MB: this is no G-code.".formatted(number + 1));
            }
            batch.bytes = Arrays.copyOf(batch.bytes, 2 * end);
            end += in.readNBytes(batch.bytes, end, end);
        }
        return end;
    }

    /** @return where the lines end that the batch took */
    private int parse(Batch batch, int end) {
        int at = 0, newline;
        while (batch.count < Batch.MOST_LINES && (newline = indexOfNewline(batch.bytes, at, end)) >= 0) {
            parse(batch, at, newline);
            at = newline + 1;
        }
        if (end < batch.bytes.length && batch.count < Batch.MOST_LINES) {
            if (at < end) {
                parse(batch, at, end);
            }
            batch.last = true;
        }
        return at;
    }

    /** Eight bytes at a time: of those that equal a line feed, only the lowest has its top bit set first (Mycroft, 1987). */
    private static int indexOfNewline(byte[] buffer, int from, int to) {
        int at = from;
        for (; at + Long.BYTES <= to; at += Long.BYTES) {
            long others = (long) LONGS.get(buffer, at) ^ NEWLINES;
            long found = others - ONES & ~others & TOPS;
            if (found != 0) {
                return at + Long.numberOfTrailingZeros(found) / Byte.SIZE;
            }
        }
        for (int i = at; i < to; i++) {
            if (buffer[i] == '\n') {
                return i;
            }
        }
        return -1;
    }

    private void parse(Batch batch, int from, int to) {
        byte[] bytes = batch.bytes;
        number++;
        int at = number == 1 && startsWithMark(bytes, from, to) ? from + MARK.length : from;
        begin(batch, at, to > at && bytes[to - 1] == '\r' ? to - 1 : to);
        int first = batch.count;
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
                int upper = bytes[at] & 0xDF;
                if ((upper == 'G' || upper == 'M') && line.letter != 0) {
                    if (batch.count - first >= Batch.MOST_COMMANDS - 1) {
                        line.fault = "more than %d commands".formatted(Batch.MOST_COMMANDS);
                        return;
                    }
                    begin(batch, line.textStart, line.textEnd);
                }
                at = word(bytes, at);
                if (at < 0) {
                    return;
                }
            }
        }
    }

    private static boolean startsWithMark(byte[] bytes, int from, int to) {
        return to - from >= MARK.length && Arrays.equals(bytes, from, from + MARK.length, MARK, 0, MARK.length);
    }

    private void begin(Batch batch, int textStart, int textEnd) {
        line = batch.lines[batch.count++];
        line.number = number;
        line.letter = 0;
        line.code = -1;
        line.minor = 0;
        line.words = 0;
        line.fault = null;
        line.buffer = batch.bytes;
        line.commentStart = 0;
        line.commentEnd = 0;
        line.textStart = textStart;
        line.textEnd = textEnd;
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
            line.minor = decimals > 0 ? (int) (digits / (long) TENTHS[decimals - 1] % 10) : 0;
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
