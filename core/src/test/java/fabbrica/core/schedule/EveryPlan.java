package fabbrica.core.schedule;

import fabbrica.core.schedule.FloorView.Limit;
import fabbrica.core.schedule.FloorView.Machine;
import fabbrica.core.schedule.FloorView.Option;
import fabbrica.core.schedule.FloorView.Waiting;
import java.time.Duration;
import java.time.Instant;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import org.jspecify.annotations.Nullable;

/**
 * The least objective of a floor without spools and people with names, by trying every order of the plates on every machine,
 * each as soon as the rules allow, minute by minute. It knows nothing of how plans are searched for.
 */
final class EveryPlan {

    private static final int HORIZON = 1500;
    private static final long NOTHING_FOUND = Long.MAX_VALUE;

    private record Laid(Waiting plate, Option option, int work, int start, int end) {
    }

    private final FloorView floor;
    private long least = NOTHING_FOUND;

    private EveryPlan(FloorView floor) {
        this.floor = floor;
    }

    /** @return {@link Long#MAX_VALUE} when there is no plan with all plates in it */
    static long leastObjective(FloorView floor) {
        EveryPlan all = new EveryPlan(floor);
        all.extend(new ArrayList<>());
        return all.least;
    }

    private int at(Instant moment) {
        return (int) Duration.between(floor.now(), moment).toMinutes();
    }

    private void extend(List<Laid> laid) {
        if (objective(laid) >= least) {
            return;
        }
        if (laid.size() == floor.waiting().size()) {
            least = objective(laid);
            return;
        }
        for (Waiting plate : floor.waiting()) {
            if (laid.stream().noneMatch(one -> one.plate == plate)) {
                for (Option option : plate.options()) {
                    Laid next = soonest(plate, option, laid);
                    if (next != null) {
                        laid.add(next);
                        extend(laid);
                        laid.removeLast();
                    }
                }
            }
        }
    }

    private Machine machine(Option option) {
        return floor.machines().stream().filter(machine -> machine.id().equals(option.machine())).findFirst().orElseThrow();
    }

    private static Laid last(List<Laid> laid, String machine) {
        return laid.stream().filter(one -> one.option.machine().equals(machine)).reduce((before, after) -> after).orElse(null);
    }

    private static int changeMinutes(Machine machine, Setup from, Setup to) {
        return (int) switch (from.changeTo(to)) {
            case NONE -> 0;
            case COLOUR -> machine.handling().changeColour().toMinutes();
            case MATERIAL -> machine.handling().changeMaterial().toMinutes();
        };
    }

    private @Nullable Laid soonest(Waiting plate, Option option, List<Laid> laid) {
        Machine machine = machine(option);
        Laid before = last(laid, machine.id());
        int free = before == null ? Math.max(0, at(Objects.requireNonNull(machine.ready()))) : before.end;
        int work = changeMinutes(machine, before == null ? machine.setup() : before.option.setup(), option.setup())
                + (before != null || machine.covered() ? (int) machine.handling().clear().toMinutes() : 0);
        for (int begin = free; begin < HORIZON; begin++) {
            int start = begin + work;
            for (int owed = owedMinutes(machine, laid, start); start < begin + work + owed; owed = owedMinutes(machine, laid, start)) {
                start = begin + work + owed;
            }
            Laid at = new Laid(plate, option, begin, start, start + (int) option.takes().toMinutes());
            if ((plate.pinned() == null || plate.pinned().machine().equals(machine.id()) && at(plate.pinned().start()) == at.start) && allowed(at, machine, laid)) {
                return at;
            }
        }
        return null;
    }

    /** Of what keeps a machine, before a start that late. */
    private int owedMinutes(Machine machine, List<Laid> laid, int start) {
        return machine.chores().stream().mapToInt(chore -> {
            int printed = (int) chore.printed().toMinutes(), last = at(chore.last());
            for (Laid one : laid) {
                if (one.option.machine().equals(machine.id())) {
                    if (isOwed(chore, printed, last, one.start)) {
                        printed = 0;
                        last = one.start;
                    }
                    printed += one.end - one.start;
                }
            }
            return isOwed(chore, printed, last, start) ? (int) chore.takes().toMinutes() : 0;
        }).sum();
    }

    private static boolean isOwed(Chore chore, int printed, int last, int start) {
        return chore.everyPrinting() != null && printed >= chore.everyPrinting().toMinutes() || chore.every() != null && start >= last + chore.every().toMinutes();
    }

    private boolean allowed(Laid one, Machine machine, List<Laid> laid) {
        return one.start >= at(Objects.requireNonNull(one.plate.release()))
                && floor.staffed().stream().anyMatch(open -> at(open.from()) <= one.work && one.start <= at(open.to())
                        && (one.option.unattended() || one.end <= at(open.to())))
                && machine.down().stream().noneMatch(down -> one.work < at(down.to()) && at(down.from()) < one.end)
                && floor.limits().stream().allMatch(limit -> withinLimit(one, limit, laid));
    }

    private boolean withinLimit(Laid one, Limit limit, List<Laid> laid) {
        for (int minute = one.work; minute <= one.start; minute++) {
            int now = minute;
            if (minute >= at(limit.during().from()) && minute < at(limit.during().to())
                    && 1 + laid.stream().filter(other -> other.work <= now && now <= other.start).count() > limit.pieces()) {
                return false;
            }
        }
        return true;
    }

    private long objective(List<Laid> laid) {
        long sum = 0;
        Map<String, Setup> standing = new HashMap<>();
        floor.machines().forEach(machine -> standing.put(machine.id(), machine.setup()));
        for (Laid one : laid) {
            Machine machine = machine(one.option);
            sum += 1000 * one.plate.weight() * Math.max(0, one.end - at(Objects.requireNonNull(one.plate.due())))
                    + 10L * changeMinutes(machine, Objects.requireNonNull(standing.put(machine.id(), one.option.setup())), one.option.setup()) + one.end;
        }
        return sum;
    }
}
