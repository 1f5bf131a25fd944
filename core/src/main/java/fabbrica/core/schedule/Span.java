package fabbrica.core.schedule;

import java.time.Duration;
import java.time.Instant;

/** A stretch of time, both ends included; one that ends before it begins holds no moment. */
public record Span(Instant from, Instant to) {

    public Duration length() {
        return Duration.between(from, to);
    }
}
