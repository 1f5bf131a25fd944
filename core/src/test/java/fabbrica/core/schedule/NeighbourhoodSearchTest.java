package fabbrica.core.schedule;

import static org.assertj.core.api.Assertions.assertThat;

import java.time.Duration;
import java.util.List;
import java.util.stream.LongStream;
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

    private static Audit audit(FloorView floor, Duration budget) {
        return Audit.of(floor, SEARCH.plan(floor, budget), plate -> "Plate " + plate);
    }
}
