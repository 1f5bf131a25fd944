package fabbrica.web.demo;

import java.time.Clock;
import java.time.Instant;
import java.time.ZoneId;
import org.jspecify.annotations.Nullable;
import org.springframework.boot.autoconfigure.condition.ConditionalOnProperty;
import org.springframework.context.annotation.Primary;
import org.springframework.stereotype.Component;

/** The system's clock, except while the demo's past is written: then it stands where it is put. */
@Component
@Primary
@ConditionalOnProperty("fabbrica.demo")
class DemoClock extends Clock {

    private final ZoneId zone = ZoneId.systemDefault();
    private volatile @Nullable Instant put;

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
        return Clock.system(other);
    }

    @Override
    public Instant instant() {
        Instant moment = put;
        return moment == null ? Instant.now() : moment;
    }
}
