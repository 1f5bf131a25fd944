package fabbrica.web.stores;

import fabbrica.core.schedule.Chore;
import fabbrica.core.units.Spoken;
import java.time.Duration;
import java.time.Instant;

/**
 * A routine of one printer.
 *
 * @param lastAt     when it was done last, or written down first
 * @param lastHours  that the printer had run by then
 */
public record MaintenanceTask(long id, String printerId, Routine routine, Instant lastAt, double lastHours, boolean everDone) {

    private static final double SOON = 0.1;

    /** How it stands; of several the worst comes first. */
    public enum Standing {
        OVERDUE("■", "stops"), SOON("◆", "care"), LATER("●", "goes");

        private final String mark;
        private final String look;

        Standing(String mark, String look) {
            this.mark = mark;
            this.look = look;
        }

        public String mark() {
            return mark;
        }

        /** The class of pages by which it is coloured. */
        public String look() {
            return look;
        }
    }

    public String what() {
        return routine.what();
    }

    /** @param hours that the printer has run by now; what is done before each print is never late */
    public Standing standing(double hours, Instant now) {
        Double everyHours = routine.beforeEach() ? null : routine.everyHours();
        Integer everyDays = routine.everyDays();
        double left = Math.min(everyHours == null ? 1 : 1 - (hours - lastHours) / everyHours,
                everyDays == null ? 1 : 1 - Duration.between(lastAt, now).toHours() / 24.0 / everyDays);
        return left <= 0 ? Standing.OVERDUE : left <= SOON ? Standing.SOON : Standing.LATER;
    }

    /** When it is due, in a few words. */
    public String due(double hours, Instant now) {
        StringBuilder due = new StringBuilder(routine.beforeEach() ? routine.often() : "");
        Double everyHours = routine.everyHours();
        Integer everyDays = routine.everyDays();
        if (everyHours != null && !routine.beforeEach()) {
            double left = everyHours - (hours - lastHours);
            due.append(left <= 0 ? "%s h of running ago".formatted(Spoken.number(-left, 0)) : "after %s h of running".formatted(Spoken.number(left, 0)));
        }
        if (everyDays != null) {
            long left = everyDays - Duration.between(lastAt, now).toDays();
            due.append(due.isEmpty() ? "" : ", or ").append(left <= 0 ? "%d days ago".formatted(-left) : "in %d days".formatted(left));
        }
        return due.toString();
    }

    /**
     * The same for who plans.
     *
     * @param hours that the printer will have run once it is free
     */
    Chore chore(double hours) {
        return new Chore(what(), routine.takes(), routine.who(), routine.everyHours() == null ? null : hours(routine.everyHours()), hours(Math.max(0, hours - lastHours)),
                routine.everyDays() == null ? null : Duration.ofDays(routine.everyDays()), lastAt);
    }

    private static Duration hours(double hours) {
        return Duration.ofSeconds(Math.round(hours * 3600));
    }
}
