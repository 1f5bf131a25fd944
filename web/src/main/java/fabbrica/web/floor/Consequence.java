package fabbrica.web.floor;

import fabbrica.core.schedule.Schedule.Slot;
import fabbrica.core.units.Spoken;
import fabbrica.web.platform.Moments;
import java.time.Duration;
import java.util.ArrayList;
import java.util.List;
import java.util.Objects;
import java.util.Optional;
import java.util.Set;
import java.util.stream.Collectors;

/**
 * What another place for a plate does to it and to all others, in sentences.
 *
 * @param slot      that it would have; nothing when it would have none
 * @param sentences in the order of their weight; those that say that somebody gets theirs late begin with the mark of what stops
 */
record Consequence(Optional<Slot> slot, List<String> sentences) {

    static Consequence of(FloorPlan before, FloorPlan after, long plate, Moments moments) {
        List<Moved> moved = Moved.between(after.floor().waiting(), before.schedule(), after.schedule(), after.needed());
        List<String> sentences = new ArrayList<>();
        Optional<Slot> slot = after.slot(plate);
        sentences.add(slot.map(there -> "%s would start %s on %s and could be handed out %s.".formatted(after.plate(plate).name(), moments.say(there.start()),
                after.printer(there.machine()).name(), moments.say(there.handOut()))).orElseGet(() -> "■ %s would have no place there.".formatted(after.plate(plate).name())));
        Set<Long> known = before.placed().stream().map(Placed::plate).collect(Collectors.toSet());
        moved.stream().filter(one -> known.contains(one.plate().id()) ? one.late() : after.late(one.plate().id()))
                .forEach(one -> sentences.add("■ %s would be too late: needed %s, %s.".formatted(one.plate().name(),
                moments.say(Objects.requireNonNull(one.neededBy())), one.after().map(there -> "handed out " + moments.say(there.handOut())).orElse("with no place"))));
        moved.stream().filter(one -> known.contains(one.plate().id()) && one.saved()).forEach(one -> sentences.add("● %s would be in time.".formatted(one.plate().name())));
        List<Moved> others = moved.stream().filter(one -> one.plate().id() != plate && known.contains(one.plate().id())).toList();
        long later = others.stream().filter(one -> one.after().isEmpty() || one.before().isPresent() && one.after().get().start().isAfter(one.before().get().start())).count();
        if (later > 0) {
            sentences.add("%d other %s later.".formatted(later, later == 1 ? "plate starts" : "plates start"));
        }
        if (others.size() > later) {
            sentences.add("%d %s sooner.".formatted(others.size() - later, others.size() - later == 1 ? "other plate starts" : "other plates start"));
        }
        Duration work = work(after).minus(work(before));
        if (work.abs().toMinutes() > 0) {
            sentences.add("%s %s work at the printers.".formatted(Spoken.duration(work.abs().toSeconds()), work.isNegative() ? "less" : "more"));
        }
        return new Consequence(slot, sentences);
    }

    /** Of people: clearing, changing filament and nozzle. */
    private static Duration work(FloorPlan plan) {
        return plan.schedule().slots().stream().map(slot -> Duration.between(slot.work(), slot.start())).reduce(Duration.ZERO, Duration::plus);
    }
}
