package fabbrica.web.platform.gate;

import java.io.IOException;
import java.time.Duration;
import java.util.function.LongSupplier;
import org.apache.coyote.InputBuffer;
import org.apache.tomcat.util.net.ApplicationBufferHandler;

/**
 * The body of a request as long as it comes fast enough: at {@value #LEAST_BYTES_A_SECOND} bytes a second on the whole,
 * after a grace, and all of it in time. How long it may fall silent is the connector's affair.
 */
final class Pace implements InputBuffer {

    static final int LEAST_BYTES_A_SECOND = 4096;
    private static final Duration GRACE = Duration.ofSeconds(20);
    private static final Duration LONGEST = Duration.ofMinutes(20);

    private final InputBuffer body;
    private final LongSupplier nanoTime;
    private final long start;
    private long bytes;

    Pace(InputBuffer body, LongSupplier nanoTime) {
        this.body = body;
        this.nanoTime = nanoTime;
        this.start = nanoTime.getAsLong();
    }

    /** @throws IOException when it has become too slow */
    @Override
    public int doRead(ApplicationBufferHandler handler) throws IOException {
        int read = body.doRead(handler);
        bytes += Math.max(0, read);
        Duration taken = Duration.ofNanos(nanoTime.getAsLong() - start);
        if (read >= 0 && taken.compareTo(GRACE) > 0
                && (taken.compareTo(LONGEST) > 0 || bytes < LEAST_BYTES_A_SECOND * taken.toSeconds())) {
            throw new IOException("The body comes too slowly.");
        }
        return read;
    }

    @Override
    public int available() {
        return body.available();
    }
}
