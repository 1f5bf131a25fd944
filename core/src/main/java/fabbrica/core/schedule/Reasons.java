package fabbrica.core.schedule;

import fabbrica.core.schedule.FloorView.Machine;
import fabbrica.core.schedule.FloorView.Option;
import fabbrica.core.schedule.FloorView.Person;
import fabbrica.core.schedule.FloorView.Place;
import fabbrica.core.schedule.FloorView.Waiting;
import fabbrica.core.schedule.Schedule.Slot;
import java.time.Duration;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.Comparator;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;

/**
 * Why a plate is where it is in a plan and not sooner, what it would cost anywhere else while all others stay where they are, and
 * for one that has no place what would give it one. Each answer comes from working the plate out anew with one thing let go.
 */
public final class Reasons {

    private static final Duration FAR = Duration.ofDays(400);
    private static final int MOST_REMEDIES = 2;

    /** What keeps a plate from starting sooner, or at all; where several do alike, the first that is named here. */
    public enum Hold {
        /** It starts as soon as may be. */
        NOTHING,
        /** It could, but the plan as a whole is better so. */
        OTHERS,
        /** What its machine prints before, or until when it is out of order. */
        MACHINE,
        /** It may not start before a moment. */
        RELEASE,
        /** It would run on while nobody is there. */
        UNATTENDED,
        /** Whoever may do the work is busy, or not there. */
        PEOPLE,
        /** Nobody is there. */
        HOURS,
        /** Its machine is down. */
        DOWN,
        /** Its spool is on another machine, or has not enough left. */
        SPOOL,
        /** It is pinned. */
        PIN
    }

    /**
     * Another way to print a plate.
     *
     * @param slot where it would be; nothing when there is no room
     * @param more what it would cost more than now, rule by rule
     */
    public record Alternative(Option option, Optional<Slot> slot, Tally more) {
    }

    private final FloorView view;
    private final Schedule schedule;
    private final Map<Long, Waiting> waiting = new HashMap<>();

    public Reasons(FloorView view, Schedule schedule) {
        this.view = view;
        this.schedule = schedule;
        view.waiting().forEach(plate -> waiting.put(plate.plate(), plate));
    }

    private Waiting waiting(long plate) {
        return Optional.ofNullable(waiting.get(plate)).orElseThrow();
    }

    private static Optional<Option> option(Waiting plate, Slot slot) {
        return plate.options().stream().filter(option -> option.machine().equals(slot.machine()) && option.setup().equals(slot.setup())).findFirst();
    }

    /** What keeps a plate of the plan from starting sooner on its machine. */
    public Hold hold(long plate) {
        Waiting waiting = waiting(plate);
        Slot slot = schedule.of(plate).orElseThrow();
        if (waiting.pinned() != null) {
            return Hold.PIN;
        }
        Option option = option(waiting, slot).orElseThrow();
        if (soonest(waiting, option, Hold.NOTHING).filter(sooner -> sooner.start().isBefore(slot.start())).isPresent()) {
            return Hold.OTHERS;
        }
        return Arrays.stream(Hold.values()).flatMap(hold -> soonest(waiting, option, hold).filter(sooner -> sooner.start().isBefore(slot.start())).stream()
                        .map(sooner -> Map.entry(hold, sooner.start()))).min(Map.Entry.comparingByValue()).map(Map.Entry::getKey)
                .orElse(slot.work().isAfter(view.now()) ? Hold.MACHINE : Hold.NOTHING);
    }

    /** The other ways to print a plate, the cheapest first; all ways to print one that is not in the plan. */
    public List<Alternative> alternatives(long plate) {
        Waiting waiting = waiting(plate);
        Optional<Option> now = schedule.of(plate).flatMap(slot -> option(waiting, slot));
        Tally stays = Tally.of(view, schedule);
        List<Alternative> alternatives = new ArrayList<>();
        for (Option option : waiting.options()) {
            if (!now.equals(Optional.of(option))) {
                Optional<Schedule> with = replanned(waiting, option, Hold.NOTHING);
                alternatives.add(new Alternative(option, with.flatMap(plan -> plan.of(plate)), with.map(plan -> Tally.of(view, plan).minus(stays))
                        .orElse(new Tally(0, 0, 0, 0, 0, 0))));
            }
        }
        return alternatives.stream().sorted(Comparator.comparing((Alternative one) -> one.slot().isEmpty()).thenComparing(one -> one.more().sum())).toList();
    }

    /** Of a plate that is not in the plan: up to two things each of which alone would give it a place, the soonest first. */
    public List<Hold> remedies(long plate) {
        Waiting waiting = waiting(plate);
        return Arrays.stream(Hold.values()).flatMap(hold ->
                        waiting.options().stream().flatMap(option -> soonest(waiting, option, hold).stream()).map(Slot::start).min(Comparator.naturalOrder())
                                .map(start -> Map.entry(hold, start)).stream()).sorted(Map.Entry.comparingByValue()).limit(MOST_REMEDIES).map(Map.Entry::getKey).toList();
    }

    private Optional<Slot> soonest(Waiting plate, Option option, Hold without) {
        return replanned(plate, option, without).flatMap(plan -> plan.of(plate.plate()));
    }

    /** The plan with a plate worked out anew in one way, all others where they are, and one thing let go; nothing when there is no room. */
    private Optional<Schedule> replanned(Waiting plate, Option option, Hold without) {
        Waiting alone = new Waiting(plate.plate(), List.of(without(option, without)), without == Hold.RELEASE ? null : plate.release(), plate.due(),
                plate.weight(), plate.patience(), without == Hold.PIN ? null : plate.pinned(), plate.published());
        List<Waiting> others = new ArrayList<>(List.of(alone));
        for (Slot slot : schedule.slots()) {
            if (slot.plate() != plate.plate()) {
                Waiting other = waiting(slot.plate());
                others.add(new Waiting(other.plate(), List.of(option(other, slot).orElseThrow()), other.release(), other.due(), other.weight(), other.patience(),
                        new Place(slot.machine(), slot.start()), other.published()));
            }
        }
        Timing timing = new Timing(without(others, option.machine(), without));
        timing.reset();
        boolean placed = timing.isPinned(0) || timing.place(0, timing.firstOption[0]);
        timing.finish();
        Schedule plan = timing.schedule();
        return placed && plan.of(plate.plate()).isPresent() ? Optional.of(plan) : Optional.empty();
    }

    private static Option without(Option option, Hold hold) {
        Setup setup = option.setup();
        return switch (hold) {
            case UNATTENDED -> new Option(option.machine(), setup, option.takes(), option.cools(), option.grams(), true, option.failing());
            case SPOOL -> setup.spool().isEmpty() ? option : new Option(option.machine(), new Setup(setup.material(), setup.colour(), "another", setup.nozzleMm()),
                    option.takes(), option.cools(), option.grams(), option.unattended(), option.failing());
            default -> option;
        };
    }

    private FloorView without(List<Waiting> plates, String machine, Hold hold) {
        Span always = new Span(view.now(), view.now().plus(FAR));
        List<Span> staffed = hold == Hold.HOURS ? List.of(always) : view.staffed();
        List<Person> people = switch (hold) {
            case PEOPLE -> List.of();
            case HOURS -> view.people().stream().map(one -> new Person(one.name(), one.may(), List.of(always))).toList();
            default -> view.people();
        };
        List<Machine> machines = view.machines().stream().map(any -> !any.id().equals(machine) ? any : new Machine(any.id(),
                hold == Hold.MACHINE && any.ready() == null ? view.now() : any.ready(), any.covered(), any.setup(), hold == Hold.DOWN ? List.of() : any.down(),
                any.handling(), any.chores())).toList();
        return new FloorView(view.now(), staffed, people, hold == Hold.PEOPLE ? List.of() : view.limits(), view.stock(), machines, plates, view.rules());
    }
}
