package fabbrica.core.schedule;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import fabbrica.core.schedule.FloorView.Machine;
import fabbrica.core.schedule.FloorView.Option;
import fabbrica.core.schedule.FloorView.Waiting;
import java.time.Duration;
import java.time.Instant;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Random;
import org.junit.jupiter.api.Test;

class ChancesTest {

    private static final Setup RED = new Setup("PLA", "red", "", 0);

    @Test
    void a_print_alone_is_over_by_its_latest_nine_times_in_ten_and_by_its_usual_time_half_of_the_time() {
        FloorView floor = floor(List.of(Floors.span(0, 600)), print(1, 100, true));
        Chances chances = chances(floor, new Spread(Duration.ofMinutes(90), Duration.ofMinutes(100), Duration.ofMinutes(130)));
        assertThat(minutes(chances, 1, 0.9)).isCloseTo(130, within(6.0));
        assertThat(minutes(chances, 1, 0.5)).isCloseTo(100, within(4.0));
        assertThat(minutes(chances, 1, 0.1)).isCloseTo(90, within(3.0));
    }

    @Test
    void a_chain_is_surer_than_its_links_together() {
        Waiting[] four = {print(1, 100, true), print(2, 100, true), print(3, 100, true), print(4, 100, true)};
        Chances chances = chances(floor(List.of(Floors.span(0, 2000)), four), new Spread(Duration.ofMinutes(70), Duration.ofMinutes(100), Duration.ofMinutes(130)));
        double four130 = 4 * 130 + 3 * 5, fourAtOnce = 4 * 100 + 3 * 5 + 2 * 30;
        assertThat(minutes(chances, 4, 0.9)).as("deviations add up by squares").isCloseTo(fourAtOnce, within(12.0)).isLessThan(four130 - 40);
    }

    @Test
    void what_may_not_be_over_before_closing_is_late_by_a_night() {
        FloorView floor = floor(List.of(Floors.span(0, 230), Floors.span(1440, 1840)), print(1, 100, false), print(2, 100, false));
        Chances chances = chances(floor, new Spread(Duration.ofMinutes(70), Duration.ofMinutes(100), Duration.ofMinutes(130)));
        assertThat(minutes(chances, 2, 0.5)).isLessThan(240);
        assertThat(minutes(chances, 2, 0.9)).isGreaterThan(1440);
    }

    /** Of two that are each over in time in eighty of a hundred cases, both are in fewer. */
    @Test
    void all_of_some_plates_are_promised_for_later_than_each() {
        FloorView floor = new FloorView(Floors.NOW, List.of(Floors.span(0, 2000)), List.of(), List.of(), Map.of(), List.of(
                new Machine("M", Floors.NOW, false, RED, List.of(), Floors.HANDLING), new Machine("M1", Floors.NOW, false, RED, List.of(), Floors.HANDLING)),
                List.of(print(1, 100, true), Waiting.on(2, new Option("M1", RED, Duration.ofMinutes(100), Duration.ZERO, 0, true, 0))), Rules.OF_A_LAB);
        Chances chances = chances(floor, new Spread(Duration.ofMinutes(70), Duration.ofMinutes(100), Duration.ofMinutes(130)));
        assertThat(chances.printedBy(List.of(1L, 2L), 0.8).orElseThrow()).isAfter(chances.printedBy(1, 0.8).orElseThrow()).isAfter(chances.printedBy(2, 0.8).orElseThrow())
                .isEqualTo(chances.printedBy(List.of(2L, 1L), 0.8).orElseThrow());
        assertThat(chances.printedBy(List.of(), 0.8)).isEmpty();
        assertThat(chances.printedBy(List.of(1L, 3L), 0.8)).isEmpty();
    }

    @Test
    void a_plate_that_is_not_in_the_plan_is_promised_for_nothing() {
        FloorView floor = floor(List.of(), print(1, 100, true));
        assertThat(chances(floor, Spread.exactly(Duration.ofMinutes(100))).printedBy(1, 0.8)).isEmpty();
    }

    /** Five hundred weeks of five machines and twenty plates, nights and closing times in between; chance has no part in which they are. */
    @Test
    void of_promises_at_eighty_per_cent_eighty_per_cent_are_kept() {
        int kept = 0, made = 0;
        for (int week = 0; week < 500; week++) {
            Random random = new Random(week);
            List<Span> staffed = new ArrayList<>();
            for (int day = 0; day < 30; day++) {
                staffed.add(Floors.span(day * 1440 + 60, day * 1440 + 600));
            }
            List<Machine> machines = new ArrayList<>();
            for (int i = 0; i < 5; i++) {
                machines.add(new Machine("M" + i, Floors.NOW, false, RED, List.of(), Floors.HANDLING));
            }
            List<Waiting> plates = new ArrayList<>();
            List<Spread> spreads = new ArrayList<>(), truths = new ArrayList<>();
            for (int j = 0; j < 20; j++) {
                int usual = 40 + random.nextInt(400);
                spreads.add(new Spread(Duration.ofMinutes(Math.round(usual * 0.9)), Duration.ofMinutes(usual), Duration.ofMinutes(Math.round(usual * 1.2))));
                truths.add(Spread.exactly(Duration.ofSeconds(spreads.get(j).seconds(random.nextGaussian()))));
                plates.add(Waiting.on(j, new Option("M" + j % 5, RED, Duration.ofMinutes(usual), Duration.ZERO, 0, true, 0)));
            }
            FloorView floor = new FloorView(Floors.NOW, staffed, List.of(), List.of(), Map.of(), machines, plates, Rules.OF_A_LAB);
            Schedule plan = new FirstCome().plan(floor, Duration.ZERO);
            Chances promised = Chances.of(floor, plan, plate -> spreads.get(plate.intValue()), machine -> Optional.empty(), 1);
            Chances came = Chances.of(floor, plan, plate -> truths.get(plate.intValue()), machine -> Optional.empty(), 1);
            for (int j = 0; j < 20; j++) {
                made++;
                kept += came.printedBy(j, 0.5).orElseThrow().isAfter(promised.printedBy(j, 0.8).orElseThrow()) ? 0 : 1;
            }
        }
        assertThat(100.0 * kept / made).isCloseTo(80, within(5.0));
    }

    private static Waiting print(long plate, int minutes, boolean unattended) {
        return Waiting.on(plate, new Option("M", RED, Duration.ofMinutes(minutes), Duration.ZERO, 0, unattended, 0));
    }

    private static FloorView floor(List<Span> staffed, Waiting... plates) {
        return new FloorView(Floors.NOW, staffed, List.of(), List.of(), Map.of(), List.of(new Machine("M", Floors.NOW, false, RED, List.of(), Floors.HANDLING)),
                List.of(plates), Rules.OF_A_LAB);
    }

    private static Chances chances(FloorView floor, Spread each) {
        return Chances.of(floor, new FirstCome().plan(floor, Duration.ZERO), plate -> each, machine -> Optional.empty(), 7);
    }

    private static double minutes(Chances chances, long plate, double share) {
        Instant by = chances.printedBy(plate, share).orElseThrow();
        return Duration.between(Floors.NOW, by).toSeconds() / 60.0;
    }
}
