package fabbrica.web.floor;

import java.time.Duration;
import java.util.Arrays;
import java.util.Locale;

/** How much of time a timeline shows. */
enum Zoom {

    SHIFT("a shift", Duration.ofHours(10)), DAY("a day", Duration.ofHours(26)), WEEK("a week", Duration.ofDays(7)), FORTNIGHT("two weeks", Duration.ofDays(14));

    private final String label;
    private final Duration length;

    Zoom(String label, Duration length) {
        this.label = label;
        this.length = length;
    }

    /** The one that is asked for; a day when none is. */
    static Zoom of(String code) {
        return Arrays.stream(values()).filter(zoom -> zoom.code().equals(code)).findFirst().orElse(DAY);
    }

    public String label() {
        return label;
    }

    Duration length() {
        return length;
    }

    /** Whether what is shown is told apart by days, not by hours. */
    boolean isByDay() {
        return this == WEEK || this == FORTNIGHT;
    }

    public String code() {
        return name().toLowerCase(Locale.ROOT);
    }
}
