package fabbrica.web.demo;

import fabbrica.printsim.FastClock;
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
 * a time of day, the demo begins at that time today, whenever it is started. Once it is released it goes {@code fabbrica.demo.speed}
 * times as fast.
 */
@Component
@Primary
@ConditionalOnProperty("fabbrica.demo")
class DemoClock extends Clock {

    private final ZoneId zone = ZoneId.systemDefault();
    private final Duration ahead;
    private final int speed;
    private volatile @Nullable Instant put;
    private volatile @Nullable Clock fast;

    /** @param speed 1 to {@value FastClock#FASTEST} */
    DemoClock(@Value("${fabbrica.demo.at:}") String at, @Value("${fabbrica.demo.speed:1}") int speed) {
        ahead = at.isEmpty() ? Duration.ZERO : Duration.between(LocalTime.now(zone), LocalTime.parse(at));
        this.speed = speed;
    }

    void put(Instant moment) {
        put = moment;
    }

    void release() {
        fast = FastClock.of(Clock.offset(Clock.system(zone), ahead), speed);
        put = null;
    }

    @Override
    public ZoneId getZone() {
        return zone;
    }

    @Override
    public Clock withZone(ZoneId other) {
        Clock released = fast;
        return released == null ? Clock.offset(Clock.system(other), ahead) : released.withZone(other);
    }

    @Override
    public Instant instant() {
        Instant moment = put;
        return moment == null ? now() : moment;
    }

    /** The present, wherever the clock is put. */
    Instant now() {
        Clock released = fast;
        return released == null ? Instant.now().plus(ahead) : released.instant();
    }
}
