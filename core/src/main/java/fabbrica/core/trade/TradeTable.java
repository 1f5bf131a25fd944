package fabbrica.core.trade;

import fabbrica.core.estimate.Estimate.LayerHeights;
import fabbrica.core.estimate.Expected;
import fabbrica.core.units.Spoken;
import java.time.Duration;
import java.time.Instant;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.List;
import java.util.Optional;
import java.util.stream.Stream;

/**
 * Ways of printing one part side by side, without those that another beats in time and plastic and is as good as in
 * every other respect.
 *
 * @param rows the plan first, then the quickest first
 */
public record TradeTable(List<Row> rows) {

    /** Above this share of a part's surface, steps on shallow slopes catch the eye. */
    private static final double SHOWS = 0.05;
    /** Letters and gaps below this many bores close up (common practice, no source). */
    private static final double CLOSES_PER_BORE = 2;
    private static final double NOTICED_MM = 0.005;
    /** Walls that are laid faster by less look the same. */
    private static final double SAME_SPEED = 1.02;
    private static final double ECHOES = 1.05;
    /** Layers up to half the bore and 0.2 mm still look right at arm's length (common practice, no source). */
    private static final double LOOKS_RIGHT_PER_BORE = 0.5;
    private static final double LOOKS_RIGHT_MM = 0.2;
    private static final double LOOKS_RIGHT_BORE_MM = 0.4;

    /**
     * What a part shows of how it was printed.
     *
     * @param shallowShare share of its surface on slopes where steps show, 0 to 1
     * @param thinnestMm   its thinnest wall; infinite when none is thin
     */
    public record Shape(double shallowShare, double thinnestMm) {
    }

    /**
     * @param expected of all its plates together
     * @param plates   how many it takes
     * @param start    of getting ready
     * @param ready    when all of it can be had
     * @param gained   what is gained and lost, a sentence
     */
    public record Row(Way way, Expected expected, int plates, Instant start, Instant ready, String gained) {

        /** On one plate. */
        public static Row of(Way way, Expected expected, Instant nextFree) {
            Duration takes = Duration.ofSeconds(Math.round(way.setupS() + expected.totalSeconds()));
            return of(way, List.of(expected), nextFree, nextFree.plus(takes));
        }

        /** @param plates one after another, at least one */
        public static Row of(Way way, List<Expected> plates, Instant start, Instant ready) {
            return new Row(way, Expected.together(plates), plates.size(), start, ready, "");
        }

        public boolean inTime(Instant neededBy) {
            return !ready.isAfter(neededBy);
        }

        /**
         * Whether this row is in no respect worse than the other but for time and plastic: every layer as fine as the finest
         * of the other, and all that its way says, where the same printer lays walls as calmly.
         */
        private boolean asGoodAs(Row other) {
            return expected.raw().heights().coarsestMm() <= other.expected.raw().heights().finestMm() + 1e-9 && way.asGoodAs(other.way)
                    && (!way.printer().id().equals(other.way.printer().id())
                            || expected.raw().outerWallMmS() <= other.expected.raw().outerWallMmS() * SAME_SPEED);
        }

        private boolean beats(Row other) {
            return asGoodAs(other) && !ready.isAfter(other.ready)
                    && expected.grams() <= other.expected.grams() + 1e-9
                    && (ready.isBefore(other.ready) || expected.grams() < other.expected.grams() - 1e-9
                            || !other.asGoodAs(this));
        }
    }

    public TradeTable {
        rows = List.copyOf(rows);
    }

    /** @param rows the plan first */
    public static TradeTable of(List<Row> rows, Shape shape) {
        if (rows.isEmpty()) {
            return new TradeTable(rows);
        }
        Row plan = rows.getFirst();
        List<Row> kept = new ArrayList<>(List.of(plan));
        rows.stream().skip(1).filter(row -> !isUniform(row))
                .filter(row -> rows.stream().noneMatch(other -> other != row && other.beats(row)))
                .sorted(Comparator.comparing(Row::ready)).forEach(kept::add);
        return new TradeTable(kept.stream().map(row -> new Row(row.way(), row.expected(), row.plates(), row.start(), row.ready(),
                row == plan ? "The plan." : gained(plan, row, shape))).toList());
    }

    /** Layers that were to follow slopes where there are none. */
    private static boolean isUniform(Row row) {
        LayerHeights heights = row.expected().raw().heights();
        return row.way().recipe().lines().variableLayers() && heights.coarsestMm() - heights.finestMm() < NOTICED_MM;
    }

    /** The quickest whose layers, nozzle and size nobody would fault. */
    public Optional<Row> fastestThatLooksRight() {
        return ready().filter(row -> looksRight(row.way()))
                .min(Comparator.comparing(Row::ready));
    }

    public Optional<Row> leastPlastic() {
        return ready().min(Comparator.comparingDouble(row -> row.expected().grams()));
    }

    public Optional<Row> finestReadyBy(Instant neededBy) {
        return ready().filter(row -> row.inTime(neededBy))
                .min(Comparator.comparingDouble((Row row) -> row.way().recipe().layerHeightMm())
                        .thenComparingDouble(row -> row.way().printer().nozzle().boreMm())
                        .thenComparing(Row::ready));
    }

    /** Rows of the size asked for, on printers as they stand. */
    private Stream<Row> ready() {
        return rows.stream().filter(row -> row.way().scale() == 1 && row.way().setupS() == 0);
    }

    private static boolean looksRight(Way way) {
        double bore = way.printer().nozzle().boreMm();
        return way.recipe().layerHeightMm() <= Math.min(LOOKS_RIGHT_MM, LOOKS_RIGHT_PER_BORE * bore) + NOTICED_MM
                && bore <= LOOKS_RIGHT_BORE_MM + 0.02 && way.recipe().wallMm() >= 0.8;
    }

    private static String gained(Row plan, Row row, Shape shape) {
        List<String> sentences = new ArrayList<>();
        double minutes = (row.ready().getEpochSecond() - plan.ready().getEpochSecond()) / 60.0;
        double grams = row.expected().grams() - plan.expected().grams();
        String time = Math.abs(minutes) < 1 ? "ready at the same time" : "ready %s %s".formatted(
                Spoken.duration(Math.abs(minutes) * 60), minutes < 0 ? "sooner" : "later");
        String plastic = Math.abs(grams) < 0.1 ? "" : ", %s %s".formatted(Spoken.grams(Math.abs(grams)),
                grams < 0 ? "less" : "more");
        String plates = row.plates() == plan.plates() ? "" : ", %d %s instead of %d".formatted(row.plates(), row.plates() == 1 ? "plate" : "plates",
                plan.plates());
        sentences.add(Character.toUpperCase(time.charAt(0)) + time.substring(1) + plastic + plates + ".");
        sentences.addAll(losses(plan, row, shape));
        return String.join(" ", sentences);
    }

    private static List<String> losses(Row planned, Row row, Shape shape) {
        List<String> losses = new ArrayList<>();
        Way plan = planned.way(), way = row.way();
        double layer = way.recipe().layerHeightMm() - plan.recipe().layerHeightMm();
        double bore = way.printer().nozzle().boreMm(), usual = plan.printer().nozzle().boreMm();
        if (layer > NOTICED_MM) {
            losses.add(shape.shallowShare() > SHOWS ? "Steps on shallow slopes will show." : "Layers show a little more.");
        } else if (layer < -NOTICED_MM) {
            losses.add(shape.shallowShare() > SHOWS ? "Shallow slopes come out smoother." : "Finer, which few will see.");
        }
        if (way.recipe().lines().variableLayers() && !plan.recipe().lines().variableLayers()) {
            losses.add("Slopes finer, walls coarser.");
        }
        if (bore > usual + 0.02) {
            losses.add("Text and gaps under %s mm will close%s.".formatted(Spoken.number(CLOSES_PER_BORE * bore, 1),
                    shape.thinnestMm() < bore ? "; walls of %s mm become one blurred line".formatted(
                            Spoken.number(shape.thinnestMm(), 2)) : ""));
        } else if (bore < usual - 0.02) {
            losses.add("Details down to %s mm.".formatted(Spoken.number(CLOSES_PER_BORE * bore, 1)));
        }
        double wall = way.recipe().wallMm() - plan.recipe().wallMm();
        if (Math.abs(wall) > 0.05) {
            losses.add("%s walls (%s mm).".formatted(wall < 0 ? "Thinner" : "Thicker",
                    Spoken.number(way.recipe().wallMm(), 2)));
        }
        double inside = way.recipe().infill() - plan.recipe().infill();
        if (Math.abs(inside) > 0.005) {
            losses.add(inside < 0 ? way.recipe().infill() < 0.1 ? "For looking at, not for loads." : "Weaker inside."
                    : way.recipe().infill() > 0.2 ? "Stronger, mostly with plastic." : "Stronger inside.");
        }
        if (way.printer().id().equals(plan.printer().id()) && bore == usual && way.scale() == plan.scale()
                && way.turned() == plan.turned()) {
            double speed = row.expected().raw().outerWallMmS() / Math.max(planned.expected().raw().outerWallMmS(), 1e-9);
            if (speed > ECHOES) {
                losses.add("Edges may echo on flat walls.");
            } else if (speed < 1 / ECHOES) {
                losses.add("Calmer walls.");
            }
        }
        if (way.recipe().supports().any() != plan.recipe().supports().any() && !way.turned()) {
            losses.add(way.recipe().supports().any() ? "Supports leave marks underneath."
                    : "Undersides that hang free may droop.");
        }
        if (way.turned()) {
            losses.add("Layers run another way; look at the pose first.");
        }
        if (way.scale() < 1) {
            losses.add("Thin places get thinner too and gaps close.");
        }
        return losses;
    }
}
