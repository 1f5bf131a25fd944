package fabbrica.web.platform;

import fabbrica.core.units.Spoken;
import java.time.Clock;
import java.time.Duration;
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
    private static final DateTimeFormatter DATED = DateTimeFormatter.ofPattern("EEE d MMM yyyy, HH:mm", Locale.ENGLISH);
    private static final DateTimeFormatter DATE = DateTimeFormatter.ofPattern("d MMM yyyy", Locale.ENGLISH);
    private static final int DAYS_BY_NAME = 6;

    private final Clock clock;
    private final LabZone lab;

    Moments(Clock clock, LabZone lab) {
        this.clock = clock;
        this.lab = lab;
    }

    public Instant now() {
        return clock.instant();
    }

    /** The day on the lab's wall. */
    public LocalDate today() {
        return LocalDate.ofInstant(clock.instant(), lab.zone());
    }

    public String say(Instant moment) {
        ZonedDateTime then = moment.atZone(lab.zone());
        long days = ChronoUnit.DAYS.between(clock.instant().atZone(then.getZone()).toLocalDate(), then.toLocalDate());
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

    /** How long ago, while it is less than a day; then when: "12 min", "3 h 05", "Thu 09:30". */
    public String since(Instant moment) {
        Duration ago = Duration.between(moment, clock.instant());
        return ago.toDays() < 1 ? Spoken.duration(ago.toSeconds()) : say(moment);
    }

    /** As it stands on paper, where no day is today: "Thu 26 Nov 2026, 14:05". */
    public String dated(Instant moment) {
        return DATED.format(moment.atZone(lab.zone()));
    }

    /** "9 Nov 2026". */
    public String day(LocalDate day) {
        return DATE.format(day);
    }

    public Instant at(LocalDateTime local) {
        return local.atZone(lab.zone()).toInstant();
    }

    /** As date-and-time inputs want it, to the minute. */
    public String forInput(Instant moment) {
        return LocalDateTime.ofInstant(moment, lab.zone()).truncatedTo(ChronoUnit.MINUTES).toString();
    }
}
