package fabbrica.web.machine;

import java.io.BufferedInputStream;
import java.io.BufferedOutputStream;
import java.io.ByteArrayOutputStream;
import java.io.Closeable;
import java.io.EOFException;
import java.io.IOException;
import java.io.InputStream;
import java.io.OutputStream;
import java.net.ConnectException;
import java.net.InetSocketAddress;
import java.net.Socket;
import java.net.SocketTimeoutException;
import java.nio.charset.StandardCharsets;
import java.time.Duration;
import java.util.ArrayDeque;
import java.util.ArrayList;
import java.util.Deque;
import java.util.Iterator;
import java.util.List;
import java.util.function.Consumer;

/**
 * The host's end of the line protocol of the RepRap project's G-code list: numbered lines with the exclusive or of their bytes, a few of them ahead
 * of the machine's {@code ok}, sent again where it asks for that. Used by one thread, except for {@link #urgent}.
 */
final class Line implements Closeable {

    static final String ERROR = "Error:";

    private static final int LONGEST = 1 << 16;
    private static final int MOST_ANSWERS = 10_000;
    /** Lines ahead of what is answered; boards hold about as many bytes as these have (common practice, no source). */
    private static final int AHEAD = 16;
    private static final int MOST_RESENDS = 50;

    private final Socket socket = new Socket();
    private final InputStream in;
    private final OutputStream out;
    private final Consumer<String> heard;
    private final ByteArrayOutputStream held = new ByteArrayOutputStream();
    /** The number of the last line that the machine has taken. */
    private long taken;

    /**
     * @param patience longest silence that is waited for
     * @param heard    what the machine says by itself
     */
    Line(String host, int port, Duration patience, Consumer<String> heard) throws IOException {
        int millis = (int) patience.toMillis();
        socket.connect(new InetSocketAddress(host, port), millis);
        if (socket.getLocalSocketAddress().equals(socket.getRemoteSocketAddress())) {
            // Where nobody listens on this host, TCP may connect a socket with itself.
            socket.close();
            throw new ConnectException();
        }
        socket.setSoTimeout(millis);
        socket.setTcpNoDelay(true);
        this.in = new BufferedInputStream(socket.getInputStream());
        this.out = new BufferedOutputStream(socket.getOutputStream());
        this.heard = heard;
    }

    /** Waits for the machine's first word, and begins to count anew. */
    void begin() throws IOException {
        String first = read();
        if (first.startsWith(ERROR)) {
            throw new IOException(first.substring(ERROR.length()));
        }
        taken = -1;
        ask("M110 N0");
    }

    /** What is answered before the ok, and what stands behind it. */
    List<String> ask(String command) throws IOException {
        return send(List.of(command.getBytes(StandardCharsets.UTF_8)).iterator());
    }

    /** Past everything that waits, without a number: for an emergency. */
    void urgent(String command) throws IOException {
        synchronized (out) {
            out.write((command + "\n").getBytes(StandardCharsets.UTF_8));
            out.flush();
        }
    }

    /**
     * Sends lines one after another, a few ahead of what is answered.
     *
     * @return all answers
     */
    List<String> send(Iterator<byte[]> lines) throws IOException {
        List<String> answers = new ArrayList<>();
        Deque<byte[]> waiting = new ArrayDeque<>();
        long next = taken + 1, again = -1;
        int ahead = 0, resends = 0;
        while (ahead > 0 || again >= 0 || !waiting.isEmpty() || lines.hasNext()) {
            if (again >= 0 && ahead == 0) {
                if (again <= taken || again > next || ++resends > MOST_RESENDS) {
                    throw new IOException("it does not understand what it is sent");
                }
                next = again;
                again = -1;
            }
            while (again < 0 && ahead < AHEAD && (next <= taken + waiting.size() || lines.hasNext())) {
                if (next > taken + waiting.size()) {
                    waiting.add(lines.next());
                }
                write(next, nth(waiting, (int) (next - taken - 1)));
                next++;
                ahead++;
            }
            flush();
            String line = read();
            if (line.startsWith("Resend:") || line.startsWith("rs ")) {
                again = again >= 0 ? again : number(line);
                if (!answers.isEmpty() && answers.getLast().startsWith(ERROR)) {
                    answers.removeLast();
                }
            } else if (line.equals("ok") || line.startsWith("ok ")) {
                ahead--;
                if (again < 0) {
                    taken++;
                    waiting.remove();
                    resends = 0;
                    if (line.length() > 3) {
                        answers.add(line.substring(3));
                    }
                }
                if (ahead < 0) {
                    throw new IOException("it answers what it was not asked");
                }
            } else if (isByItself(line)) {
                heard.accept(line);
            } else if (answers.size() < MOST_ANSWERS) {
                answers.add(line);
            } else {
                throw new IOException("it talks without an end");
            }
        }
        return answers;
    }

    private static byte[] nth(Deque<byte[]> lines, int n) {
        Iterator<byte[]> all = lines.iterator();
        for (int i = 0; i < n; i++) {
            all.next();
        }
        return all.next();
    }

    private static boolean isByItself(String line) {
        return line.startsWith("//") || line.startsWith("!!") || line.startsWith(" T:") || line.startsWith("Done printing") || line.startsWith("Print aborted");
    }

    private static long number(String line) throws IOException {
        try {
            return Long.parseLong(line.substring(line.indexOf(line.startsWith("rs") ? ' ' : ':') + 1).strip());
        } catch (NumberFormatException e) {
            throw new IOException("it does not understand what it is sent", e);
        }
    }

    private void write(long number, byte[] command) throws IOException {
        byte[] head = ("N" + number + " ").getBytes(StandardCharsets.US_ASCII);
        int sum = 0;
        for (byte[] part : List.of(head, command)) {
            for (byte each : part) {
                sum ^= each;
            }
        }
        synchronized (out) {
            out.write(head);
            out.write(command);
            out.write(("*" + (sum & 0xFF) + "\n").getBytes(StandardCharsets.US_ASCII));
        }
    }

    private void flush() throws IOException {
        synchronized (out) {
            out.flush();
        }
    }

    private String read() throws IOException {
        try {
            int each;
            while ((each = in.read()) >= 0) {
                if (each == '\n') {
                    String line = held.toString(StandardCharsets.UTF_8);
                    held.reset();
                    return line.endsWith("\r") ? line.substring(0, line.length() - 1) : line;
                }
                held.write(each);
                if (held.size() > LONGEST) {
                    throw new IOException("it sends no lines");
                }
            }
            throw new EOFException("the line was cut");
        } catch (SocketTimeoutException e) {
            throw new IOException("it does not answer", e);
        }
    }

    @Override
    public void close() throws IOException {
        socket.close();
    }
}
