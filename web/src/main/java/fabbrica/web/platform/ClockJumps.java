package fabbrica.web.platform;

import fabbrica.core.units.Spoken;
import java.time.Clock;
import java.time.Duration;
import java.time.Instant;
import java.util.function.LongSupplier;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;
import org.springframework.beans.factory.annotation.Autowired;
import org.springframework.context.annotation.Lazy;
import org.springframework.scheduling.annotation.Scheduled;
import org.springframework.stereotype.Component;

/**
 * Whether the computer's clock has gone otherwise than time does: it was put on or back, or the computer slept. Used in templates as {@code @clockJumps}.
 */
@Component("clockJumps")
@Lazy(false)
public class ClockJumps {

    private static final Logger LOG = LoggerFactory.getLogger(ClockJumps.class);
    /** A clock that is put right bit by bit stays below. */
    private static final Duration JUMP = Duration.ofSeconds(30);
    private static final Duration SAID_FOR = Duration.ofHours(1);

    private final Clock clock;
    private final LongSupplier nanos;
    private final Runnable jumped;
    private Instant lastRead;
    private long lastNanos;
    private Duration total = Duration.ZERO;
    private String said = "";
    private long saidAt;

    @Autowired
    ClockJumps(Live live) {
        this(Clock.systemUTC(), System::nanoTime, live::alarm);
    }

    /**
     * @param nanos  time that goes evenly, from anywhere
     * @param jumped called after each jump
     */
    public ClockJumps(Clock clock, LongSupplier nanos, Runnable jumped) {
        this.clock = clock;
        this.nanos = nanos;
        this.jumped = jumped;
        this.lastRead = clock.instant();
        this.lastNanos = nanos.getAsLong();
    }

    /** How far it has jumped in all since the server began: what it shows less this has gone evenly. */
    public synchronized Duration total() {
        look();
        return total;
    }

    /** For every page, for an hour; empty when all is well. */
    public synchronized String said() {
        return nanos.getAsLong() - saidAt < SAID_FOR.toNanos() ? said : "";
    }

    @Scheduled(fixedRate = 1000)
    synchronized void look() {
        Instant read = clock.instant();
        long now = nanos.getAsLong();
        Duration jump = Duration.between(lastRead, read).minusNanos(now - lastNanos);
        lastRead = read;
        lastNanos = now;
        if (jump.abs().compareTo(JUMP) < 0) {
            return;
        }
        total = total.plus(jump);
        saidAt = now;
        said = "The clock of the lab's computer jumped %s by %s: it was set, or the computer slept. Machines go on by their own clocks, and nothing begins by itself; look at the times of runs around then."
                .formatted(jump.isNegative() ? "back" : "ahead", Spoken.duration(jump.abs().toSeconds()));
        LOG.warn("{}", said);
        jumped.run();
    }
}
