package fabbrica.printsim;

import java.time.Clock;
import java.time.Duration;
import java.time.Instant;
import java.time.ZoneId;

/** A clock that runs a number of times as fast as another one, from the moment it was made. */
public final class FastClock extends Clock {

    public static final int FASTEST = 600;

    private final Clock real;
    private final Instant since;
    private final int times;

    private FastClock(Clock real, Instant since, int times) {
        this.real = real;
        this.since = since;
        this.times = times;
    }

    /** @param times 1 to {@value #FASTEST} */
    public static FastClock of(Clock real, int times) {
        if (times < 1 || times > FASTEST) {
            throw new IllegalArgumentException("A clock runs 1 to %d times as fast, not %d.".formatted(FASTEST, times));
        }
        return new FastClock(real, real.instant(), times);
    }

    public int times() {
        return times;
    }

    /** How long somebody with an ordinary clock waits until so much has gone by on this one. */
    public Duration wait(Duration here) {
        return here.dividedBy(times);
    }

    @Override
    public Instant instant() {
        return since.plus(Duration.between(since, real.instant()).multipliedBy(times));
    }

    @Override
    public ZoneId getZone() {
        return real.getZone();
    }

    @Override
    public Clock withZone(ZoneId zone) {
        return new FastClock(real.withZone(zone), since, times);
    }
}
