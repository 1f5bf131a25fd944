package fabbrica.web.demo;

import java.time.Clock;
import java.time.Duration;
import java.time.Instant;
import java.time.LocalTime;
import java.time.ZoneId;
import org.jspecify.annotations.Nullable;
import org.springframework.beans.factory.annotation.Value;
import org.springframework.boot.autoconfigure.condition.ConditionalOnProperty;
import org.springframework.context.annotation.Primary;
import org.springframework.stereotype.Component;

/**
 * The system's clock, except while the demo's past is written: then it stands where it is put. Where {@code fabbrica.demo.at} names
 * a time of day, the demo begins at that time today, whenever it is started.
 */
@Component
@Primary
@ConditionalOnProperty("fabbrica.demo")
class DemoClock extends Clock {

    private final ZoneId zone = ZoneId.systemDefault();
    private final Duration ahead;
    private volatile @Nullable Instant put;

    DemoClock(@Value("${fabbrica.demo.at:}") String at) {
        ahead = at.isEmpty() ? Duration.ZERO : Duration.between(LocalTime.now(zone), LocalTime.parse(at));
    }

    void put(Instant moment) {
        put = moment;
    }

    void release() {
        put = null;
    }

    @Override
    public ZoneId getZone() {
        return zone;
    }

    @Override
    public Clock withZone(ZoneId other) {
        return Clock.offset(Clock.system(other), ahead);
    }

    @Override
    public Instant instant() {
        Instant moment = put;
        return moment == null ? now() : moment;
    }

    /** The present, wherever the clock is put. */
    Instant now() {
        return Instant.now().plus(ahead);
    }
}
