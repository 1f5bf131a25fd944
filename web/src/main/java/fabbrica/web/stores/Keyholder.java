package fabbrica.web.stores;

import fabbrica.core.schedule.Calendar;
import fabbrica.core.schedule.Task;
import java.time.LocalDate;
import java.util.Collections;
import java.util.Set;
import java.util.TreeSet;
import java.util.stream.Collectors;

/**
 * Somebody who has a key to the lab.
 *
 * @param may   at the machines; nothing for one who only watches
 * @param hours on duty
 * @param notes on days that are not like others
 */
public record Keyholder(long id, String name, Set<Task> may, Calendar hours, CalendarText.Notes notes) {

    public Keyholder {
        may = Collections.unmodifiableSet(new TreeSet<>(may));
    }

    /** Off duty on a day from a minute on. */
    public Keyholder leaving(LocalDate day, int minute, String note) {
        return new Keyholder(id, name, may, hours.endingAt(day, minute), notes.with(day, note));
    }

    /** When one is on duty, in a few words. */
    public String onDuty() {
        return CalendarText.spoken(hours);
    }

    /** What one may do in a few words. */
    public String spoken() {
        return may.isEmpty() ? "only watches" : may.stream().map(Keyholder::spoken).collect(Collectors.joining(", "));
    }

    static String spoken(Task task) {
        return switch (task) {
            case START -> "start prints";
            case CHANGE_FILAMENT -> "change filament";
            case CHANGE_NOZZLE -> "change nozzles";
            case CLEAR -> "clear beds";
        };
    }
}
