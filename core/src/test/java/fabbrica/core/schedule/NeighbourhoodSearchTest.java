package fabbrica.core.schedule;

import static org.assertj.core.api.Assertions.assertThat;

import fabbrica.core.schedule.FloorView.Machine;
import fabbrica.core.schedule.FloorView.Option;
import fabbrica.core.schedule.FloorView.Place;
import fabbrica.core.schedule.FloorView.Waiting;
import fabbrica.core.schedule.Schedule.Slot;
import java.time.Duration;
import java.time.Instant;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.stream.Collectors;
import java.util.stream.IntStream;
import java.util.stream.LongStream;
import org.jspecify.annotations.Nullable;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.parallel.Execution;
import org.junit.jupiter.api.parallel.ExecutionMode;

@Execution(ExecutionMode.CONCURRENT)
class NeighbourhoodSearchTest {

    private static final Scheduler SEARCH = new NeighbourhoodSearch(2, 1);

    @Test
    void of_two_hundred_tiny_floors_it_finds_the_best_plan_there_is() {
        List<Long> solvable = LongStream.range(0, 400).boxed().filter(number -> EveryPlan.leastObjective(Floors.tiny(number)) < Long.MAX_VALUE).limit(200).toList();
        assertThat(solvable).hasSize(200);
        assertThat(solvable).allSatisfy(number -> {
            FloorView floor = Floors.tiny(number);
            long least = EveryPlan.leastObjective(floor);
            Audit audit = audit(floor, Duration.ofMillis(20));
            for (int more = 100; audit.objective() != least && more < 30_000; more *= 4) {
                audit = audit(floor, Duration.ofMillis(more));
            }
            assertThat(audit.broken()).isEmpty();
            assertThat(audit.objective()).as("floor " + number).isEqualTo(least);
        });
    }

    @Test
    void no_floor_however_odd_makes_it_fail_or_break_a_rule() {
        assertThat(LongStream.range(0, 1000)).allSatisfy(number ->
                assertThat(audit(Floors.odd(number), Duration.ofMillis(5)).broken()).as("floor " + number).allMatch(sentence -> sentence.endsWith("is not planned.")));
    }

    @Test
    void what_is_searched_for_is_what_the_rules_say() {
        assertThat(LongStream.range(0, 300)).allSatisfy(number -> {
            FloorView floor = Floors.odd(number);
            Timing timing = new Timing(floor);
            Annealing.Plan plan = new Annealing(timing, number).best();
            Schedule schedule = timing.schedule(plan);
            assertThat(plan.cost() % timing.leftOut()).as("floor " + number).isEqualTo(Tally.of(floor, schedule).sum());
        });
    }

    /** Twelve plates on four machines, of which the first breaks: what is on the others stays there, and starts when it was to. */
    @Test
    void when_a_machine_breaks_only_what_waited_for_it_moves() {
        FloorView floor = twelveOnFour(Floors.NOW, null);
        Schedule published = SEARCH.plan(floor, Duration.ofMillis(300));
        Set<Long> hit = published.slots().stream().filter(slot -> slot.machine().equals("M0")).map(Slot::plate).collect(Collectors.toSet());
        assertThat(hit).isNotEmpty();
        Schedule mended = SEARCH.plan(twelveOnFour(null, published), Duration.ofMillis(300));
        assertThat(mended.slots()).hasSize(12).noneMatch(slot -> slot.machine().equals("M0"));
        assertThat(mended.slots()).filteredOn(slot -> !hit.contains(slot.plate())).allSatisfy(slot ->
                assertThat(slot.machine()).isEqualTo(published.of(slot.plate()).orElseThrow().machine()));
    }

    private static FloorView twelveOnFour(@Nullable Instant ready, @Nullable Schedule published) {
        Setup red = new Setup("PLA", "red", "", 0);
        List<Machine> machines = IntStream.range(0, 4).mapToObj(i -> new Machine("M" + i, i == 0 ? ready : Floors.NOW, false, red, List.of(), Floors.HANDLING)).toList();
        List<Waiting> plates = LongStream.range(0, 12).mapToObj(j -> new Waiting(j, machines.stream().map(machine -> new Option(machine.id(), red,
                Duration.ofMinutes(60 + 10 * j), Duration.ZERO, 0, true, 0)).toList(), null, Floors.minute(5000), 1, 0, null,
                published == null ? null : published.of(j).map(slot -> new Place(slot.machine(), slot.start())).orElseThrow())).toList();
        return new FloorView(Floors.NOW, List.of(Floors.span(0, 5000)), List.of(), List.of(), Map.of(), machines, plates,
                published == null ? Rules.OF_A_LAB : Rules.OF_A_LAB_MENDING);
    }

    private static Audit audit(FloorView floor, Duration budget) {
        return Audit.of(floor, SEARCH.plan(floor, budget), plate -> "Plate " + plate);
    }
}
