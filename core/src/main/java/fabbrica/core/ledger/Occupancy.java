package fabbrica.core.ledger;

import java.time.DayOfWeek;
import java.time.Duration;
import java.time.Instant;
import java.time.ZoneId;
import java.time.ZonedDateTime;
import java.time.temporal.ChronoUnit;
import java.util.function.ObjDoubleConsumer;

/** How much of each hour of the week machines printed, by the clock on the lab's wall. */
public final class Occupancy {

    private static final int HOURS = 24;

    private final ZoneId zone;
    private final Instant from;
    private final Instant to;
    private final double[][] busy = new double[DayOfWeek.values().length][HOURS];
    private final double[][] there = new double[DayOfWeek.values().length][HOURS];

    /** @param to after {@code from}; what lies outside is left out */
    Occupancy(Instant from, Instant to, ZoneId zone) {
        this.zone = zone;
        this.from = from;
        this.to = to;
        eachHour(from, to, add(there));
    }

    void add(Instant start, double seconds) {
        Instant end = start.plusMillis(Math.round(1000 * seconds));
        eachHour(start.isBefore(from) ? from : start, end.isAfter(to) ? to : end, add(busy));
    }

    /** Machines that printed in an hour of the week, in the mean; 0 for an hour that there was not. */
    public double machines(DayOfWeek day, int hour) {
        double all = there[day.ordinal()][hour];
        return all == 0 ? 0 : busy[day.ordinal()][hour] / all;
    }

    /** The same of a whole day of the week. */
    public double machines(DayOfWeek day) {
        double all = 0, printed = 0;
        for (int hour = 0; hour < HOURS; hour++) {
            all += there[day.ordinal()][hour];
            printed += busy[day.ordinal()][hour];
        }
        return all == 0 ? 0 : printed / all;
    }

    /** That there were, from the first to the last. */
    public double hours() {
        return Math.max(0, Duration.between(from, to).toMillis() / 3_600_000.0);
    }

    /** In the hour in which most machines printed. */
    public double most() {
        double most = 0;
        for (DayOfWeek day : DayOfWeek.values()) {
            for (int hour = 0; hour < HOURS; hour++) {
                most = Math.max(most, machines(day, hour));
            }
        }
        return most;
    }

    private static ObjDoubleConsumer<ZonedDateTime> add(double[][] sums) {
        return (hour, seconds) -> sums[hour.getDayOfWeek().ordinal()][hour.getHour()] += seconds;
    }

    private void eachHour(Instant start, Instant end, ObjDoubleConsumer<ZonedDateTime> seconds) {
        for (ZonedDateTime at = start.atZone(zone); at.toInstant().isBefore(end);) {
            ZonedDateTime next = at.truncatedTo(ChronoUnit.HOURS).plusHours(1);
            seconds.accept(at, Duration.between(at.toInstant(), next.toInstant().isBefore(end) ? next.toInstant() : end).toMillis() / 1000.0);
            at = next;
        }
    }
}
