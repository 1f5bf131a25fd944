package fabbrica.core.trade;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import fabbrica.core.estimate.Difference;
import fabbrica.core.estimate.Estimate;
import fabbrica.core.estimate.Expected;
import fabbrica.core.inspect.Poses;
import fabbrica.core.mesh.model.Mesh;
import fabbrica.core.mesh.model.Rotation;
import fabbrica.core.mesh.model.Shapes;
import fabbrica.core.printing.Printed;
import fabbrica.core.recipe.BuiltIn;
import fabbrica.core.recipe.Nozzle;
import fabbrica.core.recipe.Printer;
import fabbrica.core.recipe.Recipe;
import fabbrica.core.recipe.StartingPoint;
import fabbrica.core.trade.TradeTable.Row;
import fabbrica.core.trade.TradeTable.Shape;
import java.time.Instant;
import java.util.List;
import java.util.function.Function;
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
        ways = Ways.of(STANDARD, DAILY, BuiltIn.PLA, true, true, List.of(new Nozzle(0.6, false)),
                List.of(BuiltIn.printer("fast").orElseThrow()));
        Mesh ball = Shapes.sphere(12, 48, 36);
        Function<Way, Estimate> estimates = Printed.ways(ball, best(ball));
        all = ways.stream().map(way -> Row.of(way, Expected.unlearned(estimates.apply(way)), NOON)).toList();
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
    void no_row_is_beaten_by_another_shown_or_dropped_in_time_plastic_and_every_quality_it_names() {
        for (Mesh part : List.of(Shapes.sphere(12, 48, 36), Shapes.box(20, 20, 8), Shapes.cone(12, 4, 20, 40))) {
            Function<Way, Estimate> estimates = Printed.ways(part, best(part));
            List<Row> rows = ways.stream().map(way -> Row.of(way, Expected.unlearned(estimates.apply(way)), NOON))
                    .toList();
            List<Row> shown = TradeTable.of(rows, DOME).rows();
            assertThat(shown.size()).isBetween(6, rows.size());
            for (Row row : shown.subList(1, shown.size())) {
                assertThat(rows).as(row.way().change()).noneMatch(other -> other != row && !other.ready().isAfter(row.ready())
                        && other.expected().grams() <= row.expected().grams() && beatsInQuality(other, row)
                        && (other.ready().isBefore(row.ready()) || other.expected().grams() < row.expected().grams() - 1e-6));
            }
        }
    }

    /** Every quality that a row's sentence can name, compared one by one. */
    private static boolean beatsInQuality(Row row, Row other) {
        Way a = row.way(), b = other.way();
        return row.expected().raw().heights().coarsestMm() <= other.expected().raw().heights().finestMm() + 1e-9
                && a.printer().nozzle().boreMm() <= b.printer().nozzle().boreMm()
                && a.recipe().wallMm() >= b.recipe().wallMm() && a.recipe().infill() >= b.recipe().infill()
                && a.printer().id().equals(b.printer().id())
                && row.expected().raw().outerWallMmS() <= other.expected().raw().outerWallMmS()
                && a.recipe().supports().any() == b.recipe().supports().any() && a.turned() == b.turned()
                && a.scale() >= b.scale();
    }

    @Test
    void layers_follow_slopes_only_where_there_are_any() {
        Way sloping = ways.stream().filter(way -> way.recipe().lines().variableLayers()).findFirst().orElseThrow();
        Row plan = row(Shapes.box(20, 20, 8), ways.getFirst()), box = row(Shapes.box(20, 20, 8), sloping);
        Row dome = row(Shapes.sphere(12, 48, 36), sloping);
        assertThat(TradeTable.of(List.of(plan, box), DOME).rows()).containsExactly(TradeTable.of(List.of(plan), DOME).rows().getFirst());
        assertThat(dome.expected().raw().heights().finestMm()).isLessThan(dome.expected().raw().heights().coarsestMm() / 2);
        // A plain row as fine as its finest layer, were it as quick, would leave no reason for it; a coarser one does not.
        Row fine = row(Shapes.sphere(12, 48, 36), ways.stream().filter(way -> way.change().equals("layers of 0.28 mm"))
                .findFirst().orElseThrow());
        assertThat(TradeTable.of(List.of(row(Shapes.sphere(12, 48, 36), ways.getFirst()), dome, fine), DOME).rows())
                .extracting(shown -> shown.way().change()).contains("layers as the slope asks", "layers of 0.28 mm");
    }

    @Test
    void lying_another_way_is_no_way_when_it_lies_at_its_best() {
        assertThat(best(Shapes.box(30, 20, 4)).sameWayUp(Rotation.NONE)).isTrue();
        assertThat(best(Shapes.box(4, 20, 30)).sameWayUp(Rotation.NONE)).isFalse();
        assertThat(Ways.of(STANDARD, DAILY, BuiltIn.PLA, true, false, List.of(), List.of())).noneMatch(Way::turned);
    }

    @Test
    void speed_is_spoken_of_only_where_walls_are_really_laid_faster() {
        // The plan already asks for more than the machine's acceleration lets a small ring reach.
        Recipe hasty = DAILY.faster(2);
        Way plan = new Way(STANDARD, hasty, false, 1, "as planned", 0);
        Way hastier = new Way(STANDARD, hasty.faster(1.25), false, 1, "faster still", 0);
        List<Row> rows = List.of(row(Shapes.cylinder(2, 10, 24), plan), row(Shapes.cylinder(2, 10, 24), hastier));
        assertThat(rows.get(1).expected().raw().outerWallMmS() / rows.get(0).expected().raw().outerWallMmS()).isLessThan(1.05);
        assertThat(TradeTable.of(rows, DOME).rows()).noneMatch(row -> row.gained().contains("echo"));
    }

    @Test
    void a_way_that_takes_fewer_plates_says_so_and_counts_all_of_them() {
        Expected one = all.getFirst().expected();
        Way other = ways.stream().filter(way -> !way.printer().id().equals(STANDARD.id())).findFirst().orElseThrow();
        TradeTable table = TradeTable.of(List.of(Row.of(ways.getFirst(), List.of(one, one, one), NOON, NOON.plusSeconds(9000)),
                Row.of(other, List.of(one), NOON, NOON.plusSeconds(3000))), DOME);
        assertThat(table.rows().getFirst().expected().grams()).isCloseTo(3 * one.grams(), within(1e-9));
        assertThat(table.rows().getLast().gained()).startsWith("Ready 1 h 40 min sooner, ").contains("1 plate instead of 3.");
    }

    private static Row row(Mesh part, Way way) {
        return Row.of(way, Expected.unlearned(Printed.ways(part, best(part)).apply(way)), NOON);
    }

    private static Rotation best(Mesh part) {
        return Poses.of(part).getFirst().rotation();
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
                .allMatch(row -> row.expected().grams() >= least.expected().grams());
        Instant by = row("layers of 0.12 mm").ready();
        assertThat(table.finestReadyBy(by).orElseThrow().way().recipe().layerHeightMm()).isLessThanOrEqualTo(0.12);
        assertThat(table.finestReadyBy(NOON)).isEmpty();
    }

    @Test
    void every_minute_between_two_rows_is_explained() {
        Expected plan = table.rows().getFirst().expected(), coarse = row("layers of 0.28 mm").expected();
        double explained = Difference.between(plan, coarse).stream().mapToDouble(Difference::moreSeconds).sum();
        assertThat(explained).isCloseTo(coarse.totalSeconds() - plan.totalSeconds(), within(1e-6));
        assertThat(Difference.between(plan, coarse).getFirst().moreSeconds()).isNegative();
    }

    @Test
    void ways_that_differ_in_speed_alone_share_their_toolpath() {
        Way plan = ways.getFirst(), faster = ways.stream().filter(way -> way.change().startsWith("at ")
                && way.recipe().speedMmS() > DAILY.speedMmS()).findFirst().orElseThrow();
        assertThat(plan.recipe().geometry()).isEqualTo(faster.recipe().geometry());
        assertThat(row(faster.change()).expected().grams()).isEqualTo(table.rows().getFirst().expected().grams());
    }

    private static Row row(String change) {
        return table.rows().stream().filter(row -> row.way().change().equals(change)).findFirst().orElseThrow();
    }
}
