package fabbrica.core.ledger;

import fabbrica.core.ledger.Entry.Who;
import fabbrica.core.ledger.Ran.Within;
import java.time.Duration;
import java.time.Instant;
import java.time.YearMonth;
import java.time.ZoneId;
import java.time.temporal.ChronoField;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import org.jspecify.annotations.Nullable;

/** What the lab did in a period, put together from what is handed to it, one after another; what is of other months is left out. */
public final class Use {

    private static final String ALL = "";

    private final Period period;
    private final Sums<String> all = new Sums<>();
    private final Sums<Who> members = new Sums<>();
    private final Sums<String> classes = new Sums<>();
    private final Sums<String> courses = new Sums<>();
    private final Sums<String> purposes = new Sums<>();
    private final Sums<Long> months = new Sums<>();
    private final Map<String, Machine> machines = new HashMap<>();
    private final List<Duration> waits = new ArrayList<>();
    private final List<Duration> toPrint = new ArrayList<>();
    private final List<Duration> onTheShelf = new ArrayList<>();
    private final Occupancy occupancy;
    private Plastic plastic = Plastic.NOTHING;
    private Met inRange = Met.NOTHING;
    private Met notLater = Met.NOTHING;
    private Met asTold = Met.NOTHING;
    private Met inTime = Met.NOTHING;

    /** @param now the period lasts no longer */
    public Use(Period period, ZoneId zone, Instant now) {
        this.period = period;
        Instant end = period.end(zone);
        this.occupancy = new Occupancy(period.start(zone), end.isBefore(now) ? end : now, zone);
    }

    /** What one machine did. */
    public record Machine(String printer, long runs, long failed, double hours) {

        Machine with(Ran ran) {
            return new Machine(printer, runs + 1, failed + (ran.failed() ? 1 : 0), hours + ran.seconds() / 3600);
        }
    }

    public void add(Entry entry) {
        if (period.contains(entry.month())) {
            all.add(ALL, entry);
            members.add(entry.member(), entry);
            classes.add(entry.memberClass(), entry);
            courses.add(entry.course(), entry);
            purposes.add(entry.purpose(), entry);
            months.add(number(entry.month()), entry);
            plastic = plastic.plus(Plastic.of(entry));
        }
    }

    public void add(Ran ran) {
        if (period.contains(ran.month())) {
            machines.merge(ran.printer(), new Machine(ran.printer(), 0, 0, 0).with(ran), (machine, first) -> machine.with(ran));
            occupancy.add(ran.from(), ran.seconds());
            if (ran.within() != Within.UNTOLD) {
                inRange = inRange.and(ran.within() == Within.IN_RANGE);
                notLater = notLater.and(ran.within() != Within.LATER);
            }
        }
    }

    public void add(HandedOut ticket) {
        if (period.contains(ticket.month())) {
            waits.add(ticket.waited());
            Instant ready = ticket.ready();
            if (ready != null) {
                toPrint.add(Duration.between(ticket.came(), ready));
                onTheShelf.add(Duration.between(ready, ticket.out()));
                inTime = met(inTime, ready, ticket.neededBy());
                asTold = met(asTold, ready, ticket.collectBy());
            }
        }
    }

    private static Met met(Met met, Instant ready, @Nullable Instant by) {
        return by == null ? met : met.and(!ready.isAfter(by));
    }

    public Period period() {
        return period;
    }

    public Sum all() {
        return all.of(ALL);
    }

    public Sums<Who> members() {
        return members;
    }

    /** By the class of the member, after which her price goes. */
    public Sums<String> classes() {
        return classes;
    }

    public Sums<String> courses() {
        return courses;
    }

    public Sums<String> purposes() {
        return purposes;
    }

    public Sum month(YearMonth month) {
        return months.of(number(month));
    }

    /** A month's own hash leaves most of a table empty. */
    private static long number(YearMonth month) {
        return month.getLong(ChronoField.PROLEPTIC_MONTH);
    }

    /** The one that printed longest first. */
    public List<Machine> machines() {
        return machines.values().stream().sorted(Comparator.comparingDouble(Machine::hours).reversed().thenComparing(Machine::printer)).toList();
    }

    public Occupancy occupancy() {
        return occupancy;
    }

    public Plastic plastic() {
        return plastic;
    }

    /** From the counter until it was handed out. */
    public Waits waits() {
        return new Waits(waits);
    }

    /** From the counter until it was printed. */
    public Waits toPrint() {
        return new Waits(toPrint);
    }

    /** From printed until it was handed out. */
    public Waits onTheShelf() {
        return new Waits(onTheShelf);
    }

    /** Runs that came out well and took as long as was promised, between its bounds. */
    public Met inRange() {
        return inRange;
    }

    /** Runs that came out well and took no longer than promised. */
    public Met notLater() {
        return notLater;
    }

    /** Tickets that were printed by the time that their members were told last. */
    public Met asTold() {
        return asTold;
    }

    /** Tickets that were printed by the time at which their members needed them. */
    public Met inTime() {
        return inTime;
    }
}
