package fabbrica.web;

import java.time.Clock;
import java.time.Duration;
import java.time.Instant;
import java.time.ZoneId;
import java.time.ZoneOffset;

/** A clock that stands where a test has set it. */
public final class SetClock extends Clock {

    private volatile Instant at = Instant.parse("2026-03-02T10:00:00Z");

    public void pass(Duration time) {
        at = at.plus(time);
    }

    @Override
    public Instant instant() {
        return at;
    }

    @Override
    public ZoneId getZone() {
        return ZoneOffset.UTC;
    }

    @Override
    public Clock withZone(ZoneId zone) {
        throw new UnsupportedOperationException();
    }
}
