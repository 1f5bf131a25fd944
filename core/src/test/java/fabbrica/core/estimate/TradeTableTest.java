package fabbrica.core.estimate;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import fabbrica.core.estimate.TradeTable.Row;
import fabbrica.core.estimate.TradeTable.Shape;
import fabbrica.core.mesh.model.Shapes;
import fabbrica.core.recipe.BuiltIn;
import fabbrica.core.recipe.Nozzle;
import fabbrica.core.recipe.Printer;
import fabbrica.core.recipe.Recipe;
import fabbrica.core.recipe.StartingPoint;
import fabbrica.core.toolpath.Progress;
import java.time.Instant;
import java.util.List;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.Test;

/** A small figure with a dome; which ways are offered and which are not worth it is common practice, no source. */
class TradeTableTest {

    private static final Printer STANDARD = BuiltIn.printer("standard").orElseThrow();
    private static final Recipe DAILY = StartingPoint.DAILY_BREAD.recipe(STANDARD.nozzle(), STANDARD.kinematics());
    private static final Instant NOON = Instant.parse("2026-05-04T12:00:00Z");
    private static final Shape DOME = new Shape(0.3, 0.5);

    private static List<Way> ways;
    private static List<Row> all;
    private static TradeTable table;

    @BeforeAll
    static void work() {
        ways = Ways.of(STANDARD, DAILY, BuiltIn.PLA, true, List.of(new Nozzle(0.6, false)),
                List.of(BuiltIn.printer("fast").orElseThrow()));
        Trader trader = new Trader(Shapes.sphere(12, 48, 36));
        all = ways.stream().map(way -> Row.of(way, trader.estimate(way, 0, BuiltIn.PLA, Progress.IGNORED), NOON)).toList();
        table = TradeTable.of(all, DOME);
    }

    @Test
    void the_ways_keep_to_the_nozzles_window_and_walls_of_a_millimetre() {
        assertThat(ways.getFirst().recipe()).isEqualTo(DAILY);
        assertThat(ways).extracting(Way::change).contains("layers of 0.28 mm", "layers of 0.08 mm", "10 % infill",
                "supports from the bed", "lying another way", "nozzle of 0.6 mm, layers of 0.3 mm", "on Fast enclosed").doesNotHaveDuplicates();
        assertThat(ways).allSatisfy(way -> {
            assertThat(way.printer().nozzle().canLay(way.recipe().layerHeightMm())).isTrue();
            assertThat(way.recipe().wallMm()).isGreaterThan(0.95);
        });
    }

    @Test
    void no_row_is_beaten_by_another_in_everything() {
        assertThat(table.rows().size()).isBetween(8, all.size());
        for (Row row : table.rows().subList(1, table.rows().size())) {
            assertThat(all).noneMatch(other -> other != row && other.way().asGoodAs(row.way())
                    && other.ready().isBefore(row.ready()) && other.estimate().grams() < row.estimate().grams());
        }
    }

    @Test
    void coarser_layers_are_ready_sooner_and_the_row_says_what_they_cost() {
        Row coarse = row("layers of 0.28 mm");
        assertThat(coarse.ready()).isBefore(table.rows().getFirst().ready());
        assertThat(coarse.gained()).startsWith("Ready ").contains("sooner").contains("Steps on shallow slopes will show.");
        assertThat(row("layers of 0.08 mm").gained()).contains("later").contains("smoother");
        assertThat(all.stream().filter(row -> row.way().setupS() > 0).findFirst().orElseThrow().ready())
                .as("a nozzle has to be swapped first").isAfter(NOON.plusSeconds(900));
    }

    @Test
    void what_most_people_ask_for_is_one_row_each() {
        Row fastest = table.fastestThatLooksRight().orElseThrow(), least = table.leastPlastic().orElseThrow();
        assertThat(fastest.way().recipe().layerHeightMm()).isLessThanOrEqualTo(0.2);
        assertThat(table.rows()).filteredOn(row -> row.way().scale() == 1 && row.way().setupS() == 0)
                .allMatch(row -> row.estimate().grams() >= least.estimate().grams());
        Instant by = row("layers of 0.12 mm").ready();
        assertThat(table.finestReadyBy(by).orElseThrow().way().recipe().layerHeightMm()).isLessThanOrEqualTo(0.12);
        assertThat(table.finestReadyBy(NOON)).isEmpty();
    }

    @Test
    void every_minute_between_two_rows_is_explained() {
        Estimate plan = table.rows().getFirst().estimate(), coarse = row("layers of 0.28 mm").estimate();
        double explained = Difference.between(plan, coarse).stream().mapToDouble(Difference::moreSeconds).sum();
        assertThat(explained).isCloseTo(coarse.totalSeconds() - plan.totalSeconds(), within(1e-6));
        assertThat(Difference.between(plan, coarse).getFirst().moreSeconds()).isNegative();
    }

    @Test
    void ways_that_differ_in_speed_alone_share_their_toolpath() {
        Way plan = ways.getFirst(), faster = ways.stream().filter(way -> way.change().startsWith("at ")
                && way.recipe().speedMmS() > DAILY.speedMmS()).findFirst().orElseThrow();
        assertThat(plan.recipe().geometry()).isEqualTo(faster.recipe().geometry());
        assertThat(row(faster.change()).estimate().grams()).isEqualTo(table.rows().getFirst().estimate().grams());
    }

    private static Row row(String change) {
        return table.rows().stream().filter(row -> row.way().change().equals(change)).findFirst().orElseThrow();
    }
}
