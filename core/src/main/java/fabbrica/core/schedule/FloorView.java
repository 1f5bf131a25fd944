package fabbrica.core.schedule;

import fabbrica.core.units.OutOfRange;
import java.time.Duration;
import java.time.Instant;
import java.util.List;
import java.util.Map;
import java.util.Set;
import org.jspecify.annotations.Nullable;

/**
 * What a scheduler has to know of a floor.
 *
 * @param staffed when somebody is there
 * @param people  who they are; empty where whoever is there can do everything, several things at once
 * @param limits  how many pieces of work may go on at once
 * @param stock   grams that may be taken from a spool; of one that is not named there is plenty
 * @param waiting those that come earlier came first
 */
public record FloorView(Instant now, List<Span> staffed, List<Person> people, List<Limit> limits, Map<String, Double> stock, List<Machine> machines,
                        List<Waiting> waiting, Rules rules) {

    public FloorView {
        staffed = List.copyOf(staffed);
        people = List.copyOf(people);
        limits = List.copyOf(limits);
        stock = Map.copyOf(stock);
        machines = List.copyOf(machines);
        waiting = List.copyOf(waiting);
    }

    /** The same floor with other plates waiting. */
    public FloorView with(List<Waiting> others) {
        return new FloorView(now, staffed, people, limits, stock, machines, others, rules);
    }

    /** The same floor with other people there at other hours. */
    public FloorView with(List<Span> hours, List<Person> others) {
        return new FloorView(now, hours, others, limits, stock, machines, waiting, rules);
    }

    /** The same floor, judged by other rules. */
    public FloorView by(Rules others) {
        return new FloorView(now, staffed, people, limits, stock, machines, waiting, others);
    }

    /** One who does one thing at a time, while on duty. */
    public record Person(String name, Set<Task> may, List<Span> onDuty) {

        public Person {
            may = Set.copyOf(may);
            onDuty = List.copyOf(onDuty);
        }
    }

    /** At most so many pieces of work at any moment of a stretch of time. */
    public record Limit(Span during, int pieces) {
    }

    /**
     * A machine.
     *
     * @param ready   when work at it may begin: when what it prints is expected to be cool, or it is expected back; null when
     *                nobody knows
     * @param covered whether something lies on its bed, or will when it is ready
     * @param down    when neither work nor print may go on
     * @param chores  what keeps it; more than {@link #MOST_CHORES} are not planned
     */
    public record Machine(String id, @Nullable Instant ready, boolean covered, Setup setup, List<Span> down, Handling handling, List<Chore> chores) {

        /** More than these nobody could tell apart in a set of bits. */
        public static final int MOST_CHORES = 31;

        public Machine {
            down = List.copyOf(down);
            chores = List.copyOf(chores);
        }

        /** One to which nothing is owed. */
        public Machine(String id, @Nullable Instant ready, boolean covered, Setup setup, List<Span> down, Handling handling) {
            this(id, ready, covered, setup, down, handling, List.of());
        }
    }

    /** How long the work of people at a machine takes. */
    public record Handling(Duration changeColour, Duration changeMaterial, Duration changeNozzle, Duration clear) {

        public Handling {
            if (changeColour.isNegative() || changeMaterial.isNegative() || changeNozzle.isNegative() || clear.isNegative()) {
                throw new OutOfRange("Work at a machine takes no less than no time.");
            }
        }

        /** To change filament and nozzle from what a machine stands at to what a plate wants. */
        Duration changing(Setup standing, Setup wanted) {
            Duration filament = switch (standing.changeTo(wanted)) {
                case NONE -> Duration.ZERO;
                case COLOUR -> changeColour;
                case MATERIAL -> changeMaterial;
            };
            return standing.sameNozzle(wanted) ? filament : filament.plus(changeNozzle);
        }
    }

    /**
     * A plate that waits to be printed.
     *
     * @param options   where it may be printed and how: one of them is chosen; nothing stops any of them now
     * @param release   no start before; null for any time
     * @param due       needed by; null when nobody waits for it
     * @param weight    how much a minute of lateness weighs, 1 for an ordinary plate
     * @param patience  how little whoever wants it has had of the floor, from 0 to 1
     * @param pinned    where and when it is to start, come what may; null for a plate that may be moved
     * @param published where it was in the last plan; null when it was not
     */
    public record Waiting(long plate, List<Option> options, @Nullable Instant release, @Nullable Instant due, long weight, double patience,
                          @Nullable Place pinned, @Nullable Place published) {

        public Waiting {
            options = List.copyOf(options);
            if (weight < 0 || patience < 0 || patience > 1) {
                throw new OutOfRange("A plate has a weight of no less than nothing.");
            }
        }

        /** One that nobody needs by a moment, with one way to print it. */
        public static Waiting on(long plate, Option option) {
            return new Waiting(plate, List.of(option), null, null, 1, 0, null, null);
        }
    }

    /** A start on a machine. */
    public record Place(String machine, Instant start) {
    }

    /**
     * A way to print a plate.
     *
     * @param takes      from start to end
     * @param cools      from the end until the bed can be cleared
     * @param grams      taken from the spool of the setup; 0 where nobody counts
     * @param unattended whether it may run while nobody is there
     * @param failing    share of runs that fail there
     */
    public record Option(String machine, Setup setup, Duration takes, Duration cools, double grams, boolean unattended, double failing) {

        public Option {
            if (takes.isNegative() || cools.isNegative() || !(grams >= 0)) {
                throw new OutOfRange("A print takes no less than no time and no plastic.");
            }
        }
    }
}
