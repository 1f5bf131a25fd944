package fabbrica.core.schedule;

import fabbrica.core.schedule.Calendar.Staffed;
import java.time.Duration;
import java.time.Instant;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;

/**
 * Plates in the order in which they wait, each on the machine it waits for. Before a start somebody clears the bed and changes
 * the spool; that work and the start lie in one stretch of staffed time, and so does the end on a machine that may not run
 * unattended. A print that should have ended is taken to end now.
 */
public final class FirstCome implements Scheduler {

    /** Cooling, lifting the print off and putting the plate back (common practice, no source). */
    public static final Duration CLEARING = Duration.ofMinutes(10);

    /** What a machine stands at. */
    private record At(Instant free, boolean covered, String loaded) {
    }

    @Override
    public Schedule plan(FloorView floor, Duration budget) {
        Map<String, FloorView.Machine> machines = new HashMap<>();
        Map<String, At> standing = new HashMap<>();
        for (FloorView.Machine machine : floor.machines()) {
            machines.put(machine.id(), machine);
            Instant until = machine.until(), back = machine.back();
            Instant free = until == null || until.isBefore(floor.now()) ? floor.now() : until;
            if (machine.down() && back != null && back.isAfter(free)) {
                free = back;
            }
            if (!machine.down() || back != null) {
                standing.put(machine.id(), new At(free, until != null, machine.loaded()));
            }
        }
        List<Schedule.Slot> slots = new ArrayList<>();
        for (FloorView.Waiting waiting : floor.waiting()) {
            FloorView.Machine machine = machines.get(waiting.machine());
            At at = standing.get(waiting.machine());
            if (machine != null && at != null) {
                place(waiting, machine, at, floor.calendar()).ifPresentOrElse(slot -> {
                    slots.add(slot);
                    standing.put(machine.id(), new At(slot.end(), true, waiting.spool()));
                }, () -> standing.remove(machine.id()));
            }
        }
        return new Schedule(slots);
    }

    private static Optional<Schedule.Slot> place(FloorView.Waiting waiting, FloorView.Machine machine, At at, Calendar calendar) {
        Duration work = at.covered ? CLEARING : Duration.ZERO;
        if (!at.loaded.equals(waiting.spool())) {
            work = work.plus(machine.change());
        }
        Duration staffed = machine.unattended() ? work : work.plus(waiting.takes());
        Optional<Staffed> room = calendar.roomFor(staffed, at.free);
        if (room.isEmpty()) {
            return Optional.empty();
        }
        Instant begin = room.get().from(), start = begin.plus(work), end = start.plus(waiting.takes());
        return Optional.of(new Schedule.Slot(waiting.plate(), machine.id(), begin, start, end, calendar.nextStaffed(end).orElse(end)));
    }
}
