package fabbrica.core.judge;

import static org.assertj.core.api.Assertions.assertThat;

import fabbrica.core.bed.Allowance;
import fabbrica.core.bed.BedFit;
import fabbrica.core.bed.Footprint;
import fabbrica.core.bed.Layout;
import fabbrica.core.estimate.Estimate;
import fabbrica.core.estimate.Phase;
import fabbrica.core.gcode.Replay;
import fabbrica.core.inspect.Inspection;
import fabbrica.core.judge.Obstacle.Cause;
import fabbrica.core.judge.People.Person;
import fabbrica.core.mesh.model.Mesh;
import fabbrica.core.mesh.model.Shapes;
import fabbrica.core.printing.Printed;
import fabbrica.core.recipe.Adhesion;
import fabbrica.core.recipe.BuiltIn;
import fabbrica.core.recipe.LineWork;
import fabbrica.core.recipe.Material;
import fabbrica.core.recipe.Nozzle;
import fabbrica.core.recipe.Plate;
import fabbrica.core.recipe.Printer;
import fabbrica.core.recipe.Recipe;
import fabbrica.core.recipe.Spool;
import fabbrica.core.recipe.StartingPoint;
import fabbrica.core.recipe.Supports;
import fabbrica.core.toolpath.Toolpath;
import fabbrica.core.units.Progress;
import java.io.ByteArrayInputStream;
import java.io.ByteArrayOutputStream;
import java.io.IOException;
import java.time.Instant;
import java.util.Currency;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import org.junit.jupiter.api.Test;

/** Each thing that may stand in the way, by itself. Rules of the house are its own; figures are common practice, no source. */
class ReadinessTest {

    private static final Printer STANDARD = BuiltIn.printer("standard").orElseThrow();
    private static final Printer FAST = BuiltIn.printer("fast").orElseThrow();
    private static final Recipe DAILY = StartingPoint.DAILY_BREAD.recipe(STANDARD.nozzle(), STANDARD.kinematics());
    private static final Mesh BOX = Shapes.box(20, 20, 20);
    private static final Instant NOON = Instant.parse("2026-03-04T11:00:00Z");

    @Test
    void a_plain_box_on_a_machine_in_order_may_be_printed() {
        assertThat(judge(job(BOX, DAILY), STANDARD)).isEmpty();
    }

    @Test
    void a_machine_that_is_down_busy_or_overdue() {
        MachineView plain = MachineView.of(STANDARD);
        assertThat(judge(job(BOX, DAILY), new MachineView(STANDARD, plain.limits(), false, true, "out of order: belt torn", null, "", true, UsedBy.EVERYBODY,
                List.of()))).extracting(Obstacle::reason).containsExactly("Standard is out of order: belt torn.");
        MachineView back = new MachineView(STANDARD, plain.limits(), false, true, "out of order: belt torn", NOON.plusSeconds(3600), "", true, UsedBy.EVERYBODY, List.of());
        assertThat(judge(job(BOX, DAILY), back)).as("a plate may wait for it").extracting(Obstacle::stops).containsExactly(false);
        assertThat(Readiness.of(job(BOX, DAILY), back, Stock.of(BuiltIn.PLA), new People(List.of(), NOON.plusSeconds(36_000), true), Policy.USUAL, NOON))
                .as("but not start").extracting(Obstacle::cause, Obstacle::stops).contains(tuple(Cause.MACHINE, true));
        assertThat(judge(job(BOX, DAILY), new MachineView(STANDARD, plain.limits(), false, false, "", null, "plate no. 7", true,
                UsedBy.EVERYBODY, List.of("Oil the rods")))).extracting(Obstacle::cause, Obstacle::stops)
                .containsExactly(tuple(Cause.BUSY, true), tuple(Cause.MAINTENANCE, false));
    }

    @Test
    void a_part_that_does_not_fit_and_by_how_much_it_would() {
        assertThat(reasons(job(Shapes.box(300, 300, 20), DAILY), STANDARD, BuiltIn.PLA)).singleElement().asString()
                .startsWith("Does not fit: Too large for the bed").contains("Largest scale 73.3 %");
    }

    @Test
    void a_material_that_the_machine_cannot_heat_close_in_or_bear_for_one_cause() {
        assertThat(reasons(job(BOX, DAILY), STANDARD, BuiltIn.ABS)).containsExactly("ABS needs an enclosed printer.");
        assertThat(reasons(job(BOX, DAILY), STANDARD, new Material("unlisted", "Unlisted", 1.2, 200, 50, false, false)))
                .containsExactly("Unlisted is not allowed on Standard.");
        assertThat(reasons(job(BOX, DAILY), STANDARD, BuiltIn.PLA_WOOD))
                .containsExactly("PLA with wood is abrasive and the nozzle of Standard is not hardened.");
        assertThat(reasons(job(BOX, DAILY), FAST, BuiltIn.PA_CARBON)).isEmpty();
        Material hot = new Material("pla", "Hot", 1.2, 320, 130, false, false);
        assertThat(reasons(job(BOX, DAILY), STANDARD, hot)).containsExactly("Hot needs 320 °C at the nozzle; Standard reaches 260 °C.");
    }

    @Test
    void a_nozzle_that_was_swapped_since() {
        assertThat(reasons(job(BOX, DAILY), STANDARD.with(new Nozzle(0.25, false)), BuiltIn.PLA)).contains(
                "Layer height 0.2 mm is outside the 0.25 mm nozzle's window (0.05 to 0.18 mm).");
        assertThat(reasons(job(BOX, DAILY), STANDARD.with(new Nozzle(0.8, false)), BuiltIn.PLA))
                .anyMatch(reason -> reason.startsWith("Line width 0.42 mm does not suit the 0.8 mm bore"));
    }

    @Test
    void more_plastic_than_the_nozzle_melts_is_said_and_does_not_stop() {
        Printer slow = STANDARD.with(STANDARD.kinematics().withMaxFlow(3));
        assertThat(judge(job(BOX, DAILY), slow)).singleElement().matches(obstacle -> obstacle.cause() == Cause.FLOW && !obstacle.stops());
    }

    @Test
    void grams_are_judged_for_all_copies_less_what_is_promised_with_a_reserve() {
        // Six copies of 16 g were once queued on a spool with 6 g.
        Job six = job(BOX, DAILY, estimate(96, 3600));
        assertThat(judge(six, stock(6, 0))).extracting(Obstacle::reason).containsExactly("95 g short: 6 g left, 96 g needed, and 5 g stay on it.");
        assertThat(judge(six, stock(150, 60))).extracting(Obstacle::reason)
                .containsExactly("11 g short: 150 g left, 60 g of it promised to plates that wait, 96 g needed, and 5 g stay on it.");
        assertThat(judge(six, stock(99, 0))).singleElement().matches(obstacle -> obstacle.cause() == Cause.GRAMS && obstacle.stops());
        assertThat(judge(six, stock(101, 0))).isEmpty();
    }

    @Test
    void a_spool_that_is_gone_feeds_another_run_or_is_too_thick() {
        Spool full = new Spool("1", "pla", "any", 900, 25, Currency.getInstance("EUR"));
        assertThat(judge(job(BOX, DAILY), new Stock(BuiltIn.PLA, full, 2.85, 0, "plate no. 3", true))).extracting(Obstacle::cause)
                .containsExactly(Cause.SPOOL, Cause.SPOOL, Cause.SPOOL);
        Printer thick = new Printer("thick", "Thick", STANDARD.bed(), STANDARD.nozzle(), STANDARD.kinematics(), STANDARD.preparation(), 2.85, false, 260,
                100, STANDARD.materialIds());
        assertThat(reasons(job(BOX, DAILY), thick, BuiltIn.PLA)).as("nobody has chosen a spool yet").isEmpty();
    }

    @Test
    void findings_supports_and_what_holds_the_first_layer() {
        assertThat(judge(job(Shapes.without(BOX, 1), DAILY), STANDARD)).anyMatch(obstacle -> obstacle.cause() == Cause.FINDING && obstacle.stops());
        Mesh table = Shapes.together(Shapes.box(10, 10, 20), Shapes.box(40, 40, 3).moved(-15, -15, 20));
        assertThat(causes(table, DAILY)).contains(Cause.SUPPORT);
        assertThat(causes(table, DAILY.with(Supports.of(Supports.Where.BED)))).doesNotContain(Cause.SUPPORT);
        Mesh pole = Shapes.cylinder(4, 60, 40);
        assertThat(causes(pole, DAILY)).contains(Cause.ADHESION);
        assertThat(causes(pole, DAILY.with(Adhesion.BRIM))).doesNotContain(Cause.ADHESION);
    }

    @Test
    void a_spiral_is_one_part_at_a_time() {
        Recipe spiral = DAILY.with(LineWork.USUAL.asSpiral());
        Plate two = new Plate(List.of(copy(60), copy(140)), Plate.Sequence.TOGETHER, spiral);
        assertThat(judge(new Job(two, free(), List.of(), Optional.empty()), STANDARD)).extracting(Obstacle::cause).containsExactly(Cause.FIT);
        Plate after = new Plate(two.copies(), Plate.Sequence.ONE_BY_ONE, spiral);
        assertThat(judge(new Job(after, free(), List.of(), Optional.empty()), STANDARD)).isEmpty();
    }

    @Test
    void badges_minors_and_fair_use_stop_where_the_house_says_so() {
        Person pupil = new Person("Odo", true, false, false, 90, 1, 0.5);
        People one = new People(List.of(pupil), null, false);
        Job job = job(BOX, DAILY, estimate(30, 7200));
        MachineView trained = new MachineView(STANDARD, MachineView.of(STANDARD).limits(), false, false, "", null, "", true, UsedBy.TRAINED,
                List.of());
        Stock stock = Stock.of(BuiltIn.PLA);
        assertThat(Readiness.of(job, trained, stock, one, Policy.USUAL, NOON)).extracting(Obstacle::cause, Obstacle::stops)
                .containsExactly(tuple(Cause.BADGE, false), tuple(Cause.MINOR, false));
        Policy strict = new Policy(100, 1.5, true, true, true, true, 0, 0, 0, "", BedCare.USUAL);
        assertThat(Readiness.of(job, trained, stock, one, strict, NOON)).extracting(Obstacle::cause, Obstacle::stops).containsExactly(
                tuple(Cause.BADGE, true), tuple(Cause.MINOR, true), tuple(Cause.FAIR_USE, true), tuple(Cause.FAIR_USE, true));
        assertThat(Readiness.of(job, trained, stock, one, strict, NOON)).extracting(Obstacle::reason)
                .contains("Odo would have had 105 g this month; fair use is 100 g.");
    }

    @Test
    void half_an_hour_for_a_trinket_is_worth_a_question() {
        Job trinket = new Job(plate(DAILY), free(), List.of(new Job.Item("charm", Inspection.of(Shapes.box(15, 15, 3)), true)), Optional.of(estimate(1, 2400)));
        assertThat(judge(trinket, STANDARD)).extracting(Obstacle::cause).containsExactly(Cause.TRINKET);
        Job useful = new Job(plate(DAILY), free(), List.of(new Job.Item("clip", Inspection.of(Shapes.box(15, 15, 3)), false)), Optional.of(estimate(1, 2400)));
        assertThat(judge(useful, STANDARD)).isEmpty();
    }

    @Test
    void what_runs_on_after_closing_needs_a_machine_and_a_house_that_allow_it() {
        Job hours = job(BOX, DAILY, estimate(10, 4 * 3600));
        People until = new People(List.of(), NOON.plusSeconds(3 * 3600), true);
        MachineView attended = new MachineView(STANDARD, MachineView.of(STANDARD).limits(), false, false, "", null, "", false, UsedBy.EVERYBODY,
                List.of());
        Stock stock = Stock.of(BuiltIn.PLA);
        assertThat(Readiness.of(hours, attended, stock, until, Policy.USUAL, NOON)).extracting(Obstacle::reason)
                .containsExactly("It would run on after the lab has closed, and Standard may not.");
        assertThat(Readiness.of(hours, MachineView.of(STANDARD), stock, until, Policy.USUAL, NOON)).singleElement().matches(o -> !o.stops());
        assertThat(Readiness.of(hours, attended, stock, new People(List.of(), NOON.plusSeconds(5 * 3600), true), Policy.USUAL, NOON)).isEmpty();
        assertThat(Readiness.of(hours, attended, stock, new People(List.of(), null, true), Policy.USUAL, NOON)).extracting(Obstacle::reason)
                .containsExactly("Nobody is there: the lab is closed.");
    }

    private static org.assertj.core.groups.Tuple tuple(Object... values) {
        return org.assertj.core.groups.Tuple.tuple(values);
    }

    private static List<Obstacle> judge(Job job, Printer printer) {
        return judge(job, MachineView.of(printer));
    }

    private static List<Obstacle> judge(Job job, MachineView machine) {
        return Readiness.of(job, machine, Stock.of(BuiltIn.PLA), People.NOBODY, Policy.USUAL, NOON);
    }

    private static List<Obstacle> judge(Job job, Stock stock) {
        return Readiness.of(job, MachineView.of(STANDARD), stock, People.NOBODY, Policy.USUAL, NOON);
    }

    @Test
    void a_file_sliced_elsewhere_is_judged_by_what_it_does_and_not_by_a_recipe() throws IOException {
        Printer large = BuiltIn.printer("large").orElseThrow();
        Recipe recipe = StartingPoint.DAILY_BREAD.recipe(large.nozzle(), large.kinematics());
        ByteArrayOutputStream file = new ByteArrayOutputStream();
        Printed.file(Toolpath.of(Shapes.box(30, 30, 3), recipe, Progress.IGNORED), recipe, large, 300, 300).write(file);
        assertThat(ofFile(file.toByteArray(), large)).isEmpty();
        assertThat(ofFile(file.toByteArray(), STANDARD)).extracting(Obstacle::cause, Obstacle::stops).contains(tuple(Cause.FIT, true))
                .as("its nozzle is no wider than what the file was made for").contains(tuple(Cause.NOZZLE, false));
    }

    /** On a plate whose recipe no machine could print by. */
    private static List<Obstacle> ofFile(byte[] file, Printer printer) throws IOException {
        Plate plate = plate(DAILY.withLayerHeight(0.42, 0.42));
        return judge(new Job(plate, free(), List.of(), Optional.empty(), Replay.of(new ByteArrayInputStream(file), printer)), printer);
    }

    private static List<String> reasons(Job job, Printer printer, Material material) {
        return Readiness.of(job, MachineView.of(printer), Stock.of(material), People.NOBODY, Policy.USUAL, NOON).stream()
                .map(Obstacle::reason).toList();
    }

    private static List<Cause> causes(Mesh mesh, Recipe recipe) {
        return judge(job(mesh, recipe), STANDARD).stream().map(Obstacle::cause).toList();
    }

    private static Stock stock(double remainingG, double promisedG) {
        return new Stock(BuiltIn.PLA, new Spool("1", "pla", "any", remainingG, 25, Currency.getInstance("EUR")), 1.75, promisedG, "", false);
    }

    private static Job job(Mesh mesh, Recipe recipe) {
        BedFit fit = BedFit.of(Footprint.of(mesh), STANDARD.bed(), Allowance.NONE);
        return new Job(plate(recipe), Layout.of(fit), List.of(new Job.Item("part", Inspection.of(mesh), false)), Optional.empty());
    }

    private static Job job(Mesh mesh, Recipe recipe, Takes takes) {
        Job job = job(mesh, recipe);
        return new Job(job.plate(), job.layout(), job.items(), Optional.of(takes));
    }

    private static Plate plate(Recipe recipe) {
        return new Plate(List.of(copy(110)), Plate.Sequence.TOGETHER, recipe);
    }

    private static Plate.Copy copy(double x) {
        return new Plate.Copy(Printed.part("it"), new Plate.Place(x, 110, 0));
    }

    private static Layout free() {
        return new Layout(List.of(), Double.POSITIVE_INFINITY);
    }

    private static Takes estimate(double grams, double seconds) {
        return new Takes(grams, seconds);
    }
}
