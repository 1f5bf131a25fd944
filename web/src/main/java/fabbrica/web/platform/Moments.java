package fabbrica.web.platform;

import java.time.Clock;
import java.time.Instant;
import java.time.LocalDate;
import java.time.LocalDateTime;
import java.time.ZonedDateTime;
import java.time.format.DateTimeFormatter;
import java.time.temporal.ChronoUnit;
import java.util.Locale;
import org.springframework.stereotype.Component;

/** Times as people say them: "today 17:05", "Thu 09:30", "3 Nov 14:00". Used in templates as {@code @moments}. */
@Component("moments")
public class Moments {

    private static final DateTimeFormatter CLOCK_TIME = DateTimeFormatter.ofPattern("HH:mm", Locale.ENGLISH);
    private static final DateTimeFormatter WEEKDAY = DateTimeFormatter.ofPattern("EEE HH:mm", Locale.ENGLISH);
    private static final DateTimeFormatter DAY = DateTimeFormatter.ofPattern("d MMM HH:mm", Locale.ENGLISH);
    private static final int DAYS_BY_NAME = 6;

    private final Clock clock;

    Moments(Clock clock) {
        this.clock = clock;
    }

    public Instant now() {
        return clock.instant();
    }

    public String say(Instant moment) {
        ZonedDateTime then = moment.atZone(clock.getZone());
        long days = ChronoUnit.DAYS.between(LocalDate.now(clock), then.toLocalDate());
        if (days == 0) {
            return "today " + CLOCK_TIME.format(then);
        }
        if (days == 1) {
            return "tomorrow " + CLOCK_TIME.format(then);
        }
        if (days == -1) {
            return "yesterday " + CLOCK_TIME.format(then);
        }
        return (days > 0 && days <= DAYS_BY_NAME ? WEEKDAY : DAY).format(then);
    }

    public Instant at(LocalDateTime local) {
        return local.atZone(clock.getZone()).toInstant();
    }

    /** As date-and-time inputs want it, to the minute. */
    public String forInput(Instant moment) {
        return LocalDateTime.ofInstant(moment, clock.getZone()).truncatedTo(ChronoUnit.MINUTES).toString();
    }
}
