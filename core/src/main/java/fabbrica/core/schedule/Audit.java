package fabbrica.core.schedule;

import fabbrica.core.schedule.FloorView.Limit;
import fabbrica.core.schedule.FloorView.Machine;
import fabbrica.core.schedule.FloorView.Option;
import fabbrica.core.schedule.FloorView.Person;
import fabbrica.core.schedule.FloorView.Waiting;
import fabbrica.core.schedule.Schedule.Slot;
import java.time.Duration;
import java.time.Instant;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.HashMap;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.Optional;
import java.util.Set;
import java.util.function.LongFunction;
import org.jspecify.annotations.Nullable;

/**
 * A plan read by somebody who did not make it: which rules it breaks, and what it comes to. It shares nothing with
 * {@link Timing}, which makes plans.
 *
 * @param broken     a sentence for each rule that is broken, plate by plate
 * @param lateness   minutes after the moments by which plates are needed, times their weights
 * @param changes    minutes of changing filament and nozzles
 * @param completion minutes until each plate is printed, summed up
 */
public record Audit(List<String> broken, long lateness, long changes, long completion) {

    private static final Duration PRESSING_START = Duration.ofMinutes(1);

    public Audit {
        broken = List.copyOf(broken);
    }

    /** @param names how plates are called in sentences */
    public static Audit of(FloorView view, Schedule schedule, LongFunction<String> names) {
        return new Auditor(view, schedule, names).audit();
    }

    /** What a schedule file asks to minimise. */
    public long objective() {
        return 1000 * lateness + 10 * changes + completion;
    }

    /** Somebody's work at a machine, ending with a start. */
    private record Work(Slot slot, Set<Task> tasks, Instant begin) {

        Instant over() {
            return slot.start().plus(PRESSING_START);
        }

        boolean overlaps(Work other) {
            return begin.isBefore(other.over()) && other.begin.isBefore(over());
        }
    }

    private static final class Auditor {

        private final FloorView view;
        private final Schedule schedule;
        private final LongFunction<String> names;
        private final Map<Long, Waiting> plates = new HashMap<>();
        private final List<String> broken = new ArrayList<>();
        private final List<Work> works = new ArrayList<>();
        private long changes;

        Auditor(FloorView view, Schedule schedule, LongFunction<String> names) {
            this.view = view;
            this.schedule = schedule;
            this.names = names;
            view.waiting().forEach(plate -> plates.put(plate.plate(), plate));
        }

        private void breaks(String sentence, Object... with) {
            broken.add(sentence.formatted(with));
        }

        private String name(Slot slot) {
            return names.apply(slot.plate());
        }

        Audit audit() {
            Set<Long> planned = new HashSet<>();
            List<Slot> sound = new ArrayList<>();
            for (Slot slot : schedule.slots()) {
                if (!plates.containsKey(slot.plate())) {
                    breaks("%s is not one of the plates that wait.", name(slot));
                } else if (!planned.add(slot.plate())) {
                    breaks("%s is planned more than once.", name(slot));
                } else {
                    sound.add(slot);
                }
            }
            view.waiting().stream().filter(plate -> !planned.contains(plate.plate())).forEach(plate -> breaks("%s is not planned.", names.apply(plate.plate())));
            sound.forEach(this::checkAlone);
            view.machines().forEach(machine -> checkMachine(machine, sound.stream().filter(slot -> slot.machine().equals(machine.id()))
                    .sorted(Comparator.comparing(Slot::start).thenComparing(Slot::end).thenComparing(this::cool)).toList(), sound));
            checkPeople();
            checkSpools(sound);
            return new Audit(broken, sound.stream().mapToLong(this::late).sum(), changes,
                    sound.stream().mapToLong(slot -> Duration.between(view.now(), slot.end()).toMinutes()).sum());
        }

        private long late(Slot slot) {
            Waiting plate = plate(slot);
            return plate.due() == null ? 0 : plate.weight() * Math.max(0, Duration.between(plate.due(), slot.end()).toMinutes());
        }

        private Waiting plate(Slot slot) {
            return Objects.requireNonNull(plates.get(slot.plate()));
        }

        private Optional<Option> option(Slot slot) {
            return plate(slot).options().stream().filter(option -> option.machine().equals(slot.machine()) && option.setup().equals(slot.setup()))
                    .findFirst();
        }

        private Instant cool(Slot slot) {
            return slot.end().plus(option(slot).map(Option::cools).orElse(Duration.ZERO));
        }

        private void checkAlone(Slot slot) {
            Waiting plate = plate(slot);
            if (view.machines().stream().noneMatch(machine -> machine.id().equals(slot.machine()))) {
                breaks("%s is on the unknown printer %s.", name(slot), slot.machine());
            }
            Duration takes = Duration.between(slot.start(), slot.end());
            option(slot).ifPresentOrElse(option -> {
                if (!option.takes().equals(takes)) {
                    breaks("%s takes %d min on %s, not %d.", name(slot), option.takes().toMinutes(), slot.machine(), takes.toMinutes());
                }
            }, () -> breaks("%s may not be printed on %s.", name(slot), slot.machine()));
            if (plate.release() != null && slot.start().isBefore(plate.release())) {
                breaks("%s starts before it is released.", name(slot));
            }
            if (plate.pinned() != null && !(plate.pinned().machine().equals(slot.machine()) && plate.pinned().start().equals(slot.start()))) {
                breaks("%s is not where it is pinned.", name(slot));
            }
        }

        private void checkMachine(Machine machine, List<Slot> row, List<Slot> all) {
            Setup standing = machine.setup();
            Instant free = machine.ready();
            Instant printed = machine.ready();
            boolean covered = machine.covered();
            String before = "";
            List<Chore> chores = machine.chores();
            for (Slot slot : row) {
                standing = isTakenAway(standing, printed, slot, all) ? standing.withoutSpool() : standing;
                Duration changing = machine.handling().changing(standing, slot.setup());
                changes += changing.toMinutes();
                List<Chore> owed = chores.stream().filter(chore -> isOwed(chore, slot.start())).toList();
                if (!owed.stream().map(Chore::what).toList().equals(slot.chores())) {
                    breaks("%s is started on %s without what is owed to it.", name(slot), machine.id());
                }
                Set<Task> tasks = tasks(standing, slot.setup(), covered);
                owed.forEach(chore -> tasks.add(chore.who()));
                Duration keeping = owed.stream().map(Chore::takes).reduce(Duration.ZERO, Duration::plus);
                Work work = new Work(slot, tasks, slot.start().minus(covered ? changing.plus(machine.handling().clear()) : changing).minus(keeping));
                works.add(work);
                chores = chores.stream().map(chore -> after(chore, owed.contains(chore), slot)).toList();
                if (free == null || work.begin().isBefore(free)) {
                    breaks(before.isEmpty() ? "Work at %s begins before %s is ready.%s" : "Work at %s on %s begins before %s is done.", name(slot),
                            machine.id(), before);
                } else if (work.begin().isBefore(view.now())) {
                    breaks("Work at %s begins before now.", name(slot));
                }
                checkHours(machine, work);
                standing = slot.setup();
                covered = true;
                printed = slot.end();
                free = cool(slot);
                before = name(slot);
            }
        }

        private static boolean isOwed(Chore chore, Instant start) {
            return chore.everyPrinting() != null && chore.printed().compareTo(chore.everyPrinting()) >= 0
                    || chore.every() != null && !chore.last().plus(chore.every()).isAfter(start);
        }

        private static Chore after(Chore chore, boolean done, Slot slot) {
            return new Chore(chore.what(), chore.takes(), chore.who(), chore.everyPrinting(), (done ? Duration.ZERO : chore.printed()).plus(Duration.between(slot.start(),
                    slot.end())), chore.every(), done ? slot.start() : chore.last());
        }

        /** Whether the spool that a machine was left with has gone to another machine since. */
        private static boolean isTakenAway(Setup standing, @Nullable Instant since, Slot next, List<Slot> all) {
            return !standing.spool().isEmpty() && since != null && all.stream().anyMatch(other -> other.setup().spool().equals(standing.spool())
                    && !other.machine().equals(next.machine()) && !other.start().isBefore(since) && other.start().isBefore(next.start()));
        }

        private static Set<Task> tasks(Setup standing, Setup wanted, boolean covered) {
            Set<Task> tasks = new HashSet<>(Set.of(Task.START));
            if (standing.changeTo(wanted) != Setup.Change.NONE) {
                tasks.add(Task.CHANGE_FILAMENT);
            }
            if (!standing.sameNozzle(wanted)) {
                tasks.add(Task.CHANGE_NOZZLE);
            }
            if (covered) {
                tasks.add(Task.CLEAR);
            }
            return tasks;
        }

        private void checkHours(Machine machine, Work work) {
            Slot slot = work.slot();
            List<Span> inside = view.staffed().stream().filter(span -> !span.from().isAfter(work.begin()) && !slot.start().isAfter(span.to())).toList();
            if (inside.isEmpty()) {
                breaks("Work and start of %s are not within one stretch of staffed time.", name(slot));
            } else if (!option(slot).map(Option::unattended).orElse(true) && inside.stream().allMatch(span -> slot.end().isAfter(span.to()))) {
                breaks("%s runs on %s while nobody is there.", name(slot), machine.id());
            }
            for (Span down : machine.down()) {
                if (!down.from().isAfter(down.to()) && work.begin().isBefore(down.to()) && down.from().isBefore(slot.end())) {
                    breaks("%s is on %s while that is down.", name(slot), machine.id());
                }
            }
        }

        private void checkPeople() {
            for (Limit limit : view.limits()) {
                for (Work work : works) {
                    Instant at = work.begin().isBefore(limit.during().from()) ? limit.during().from() : work.begin();
                    if (at.isBefore(limit.during().to()) && at.isBefore(work.over()) && works.stream().filter(other -> !other.begin().isAfter(at)
                            && at.isBefore(other.over())).count() > limit.pieces()) {
                        breaks("With %s more goes on than %d can do.", name(work.slot()), limit.pieces());
                    }
                }
            }
            if (!view.people().isEmpty()) {
                works.forEach(this::checkPerson);
            }
        }

        private void checkPerson(Work work) {
            Slot slot = work.slot();
            Optional<Person> person = view.people().stream().filter(one -> one.name().equals(slot.person())).findFirst();
            if (person.isEmpty() || !person.get().may().containsAll(work.tasks())) {
                breaks("Nobody who may do it starts %s.", name(slot));
            } else if (person.get().onDuty().stream().noneMatch(span -> !span.from().isAfter(work.begin()) && !slot.start().isAfter(span.to()))) {
                breaks("%s is not on duty for %s.", person.get().name(), name(slot));
            }
            works.stream().filter(other -> other.slot().plate() > slot.plate() && Objects.equals(other.slot().person(), slot.person())
                    && work.overlaps(other)).forEach(other -> breaks("One person is at %s and %s at once.", name(slot), name(other.slot())));
        }

        private void checkSpools(List<Slot> slots) {
            Map<String, Double> taken = new HashMap<>();
            for (Slot slot : slots) {
                String spool = slot.setup().spool();
                if (!spool.isEmpty()) {
                    taken.merge(spool, option(slot).map(Option::grams).orElse(0.0), Double::sum);
                    slots.stream().filter(other -> other.plate() > slot.plate() && other.setup().spool().equals(spool)
                            && !other.machine().equals(slot.machine()) && slot.start().isBefore(other.end()) && other.start().isBefore(slot.end()))
                            .forEach(other -> breaks("%s and %s want one spool at once.", name(slot), name(other)));
                }
            }
            taken.forEach((spool, grams) -> {
                if (grams > view.stock().getOrDefault(spool, Double.POSITIVE_INFINITY) + 1e-6) {
                    breaks("There is not enough on spool %s.", spool);
                }
            });
        }
    }
}
