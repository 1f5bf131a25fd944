package fabbrica.core.schedule;

import static org.assertj.core.api.Assertions.assertThat;

import fabbrica.core.schedule.FloorView.Machine;
import fabbrica.core.schedule.FloorView.Option;
import fabbrica.core.schedule.FloorView.Person;
import fabbrica.core.schedule.FloorView.Place;
import fabbrica.core.schedule.FloorView.Waiting;
import fabbrica.core.schedule.Reasons.Alternative;
import fabbrica.core.schedule.Reasons.Hold;
import java.time.Duration;
import java.time.Instant;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Set;
import org.junit.jupiter.api.Test;
import org.jspecify.annotations.Nullable;

/** A lab that is open from minute 0 to 600 and from 1440 to 2040, with machines A and B that stand at red. */
class ReasonsTest {

    private static final Setup RED = new Setup("PLA", "red", "", 0);
    private static final Setup BLUE = new Setup("PLA", "blue", "", 0);

    private List<Span> staffed = List.of(Floors.span(0, 600), Floors.span(1440, 2040));
    private final List<Person> people = new ArrayList<>();
    private final List<Span> down = new ArrayList<>();
    private @Nullable Instant ready = Floors.NOW;
    private Map<String, Double> stock = Map.of();

    @Test
    void a_plate_that_starts_at_once_is_held_by_nothing_and_one_behind_another_by_its_machine() {
        assertThat(hold(1, plate(1, 100, true), plate(2, 100, true))).isEqualTo(Hold.NOTHING);
        assertThat(hold(2, plate(1, 100, true), plate(2, 100, true))).isEqualTo(Hold.MACHINE);
    }

    @Test
    void a_plate_is_held_by_opening_hours() {
        staffed = List.of(Floors.span(60, 600));
        assertThat(hold(1, plate(1, 100, true))).isEqualTo(Hold.HOURS);
    }

    @Test
    void a_plate_that_would_run_past_closing_is_held_by_that() {
        assertThat(hold(2, plate(1, 550, true), plate(2, 100, false))).isEqualTo(Hold.UNATTENDED);
    }

    @Test
    void a_plate_is_held_by_its_release_and_by_a_machine_that_is_down() {
        assertThat(hold(1, with(plate(1, 100, true), Floors.minute(30), null))).isEqualTo(Hold.RELEASE);
        down.add(Floors.span(0, 60));
        assertThat(hold(1, plate(1, 100, true))).isEqualTo(Hold.DOWN);
    }

    @Test
    void a_plate_is_held_by_people_who_are_busy() {
        people.add(new Person("Ada", Set.of(Task.values()), staffed));
        people.add(new Person("Ben", Set.of(), staffed));
        assertThat(hold(2, on(1, "A", BLUE), on(2, "B", RED))).isEqualTo(Hold.PEOPLE);
    }

    @Test
    void a_plate_is_held_by_its_spool_on_another_machine() {
        Setup reel = new Setup("PLA", "red", "7", 0);
        assertThat(hold(2, on(1, "A", reel), on(2, "B", reel))).isEqualTo(Hold.SPOOL);
    }

    @Test
    void a_pinned_plate_is_held_by_its_pin() {
        assertThat(hold(1, with(plate(1, 100, true), null, new Place("A", Floors.minute(40))))).isEqualTo(Hold.PIN);
    }

    @Test
    void a_plate_that_gives_way_is_held_by_others() {
        FloorView floor = floor(plate(1, 100, true), plate(2, 100, true));
        Schedule late = new Schedule(new FirstCome().plan(floor, Duration.ZERO).slots().stream().filter(slot -> slot.plate() == 2).toList());
        assertThat(new Reasons(floor, late).hold(2)).isEqualTo(Hold.OTHERS);
    }

    @Test
    void elsewhere_costs_what_the_rules_say() {
        Waiting both = new Waiting(1, List.of(option("A", RED, 100), option("B", BLUE, 160)), null, Floors.minute(120), 2, 0, null, null);
        FloorView floor = floor(both, on(2, "A", RED));
        Alternative other = new Reasons(floor, new FirstCome().plan(floor, Duration.ZERO)).alternatives(1).getFirst();
        assertThat(other.slot().orElseThrow().start()).isEqualTo(Floors.minute(6));
        assertThat(other.more().lateness()).as("46 minutes late, of weight 2").isEqualTo(Rules.OF_A_LAB.lateness() * 2 * 46);
        assertThat(other.more().changes()).as("six minutes for a colour").isEqualTo(Rules.OF_A_LAB.changes() * 6);
        assertThat(other.more().earlyFinish()).isEqualTo(Rules.OF_A_LAB.earlyFinish() * 66);
    }

    @Test
    void for_a_plate_without_a_place_the_things_that_would_give_it_one_are_named() {
        assertThat(remedies(plate(1, 700, false))).as("too long for a day").containsExactly(Hold.UNATTENDED, Hold.HOURS);
        stock = Map.of("7", 5.0);
        assertThat(remedies(new Waiting(1, List.of(new Option("A", new Setup("PLA", "red", "7", 0), Duration.ofMinutes(100), Duration.ZERO, 9, true, 0)), null,
                null, 1, 0, null, null))).as("not enough on the spool").containsExactly(Hold.SPOOL);
        ready = null;
        assertThat(remedies(plate(1, 100, true))).as("out of order, and nobody knows until when").containsExactly(Hold.MACHINE);
    }

    private List<Hold> remedies(Waiting plate) {
        FloorView floor = floor(plate);
        Schedule plan = new FirstCome().plan(floor, Duration.ZERO);
        assertThat(plan.slots()).isEmpty();
        return new Reasons(floor, plan).remedies(plate.plate());
    }

    private Hold hold(long plate, Waiting... waiting) {
        FloorView floor = floor(waiting);
        return new Reasons(floor, new FirstCome().plan(floor, Duration.ZERO)).hold(plate);
    }

    private FloorView floor(Waiting... waiting) {
        return new FloorView(Floors.NOW, staffed, people, List.of(), stock, List.of(new Machine("A", ready, false, RED, down, Floors.HANDLING),
                new Machine("B", Floors.NOW, false, RED, List.of(), Floors.HANDLING)), List.of(waiting), Rules.OF_A_LAB);
    }

    private static Option option(String machine, Setup setup, int minutes) {
        return new Option(machine, setup, Duration.ofMinutes(minutes), Duration.ZERO, 0, true, 0);
    }

    private static Waiting plate(long number, int minutes, boolean unattended) {
        return Waiting.on(number, new Option("A", RED, Duration.ofMinutes(minutes), Duration.ZERO, 0, unattended, 0));
    }

    private static Waiting on(long number, String machine, Setup setup) {
        return Waiting.on(number, option(machine, setup, 100));
    }

    private static Waiting with(Waiting plate, @Nullable Instant release, @Nullable Place pinned) {
        return new Waiting(plate.plate(), plate.options(), release, plate.due(), plate.weight(), plate.patience(), pinned, plate.published());
    }
}
