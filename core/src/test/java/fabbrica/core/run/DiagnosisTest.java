package fabbrica.core.run;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import fabbrica.core.recipe.Adhesion;
import fabbrica.core.recipe.BuiltIn;
import fabbrica.core.recipe.Printer;
import fabbrica.core.recipe.Recipe;
import fabbrica.core.recipe.StartingPoint;
import fabbrica.core.recipe.Supports;
import fabbrica.core.run.Circumstances.History;
import fabbrica.core.run.Circumstances.LaidLayer;
import fabbrica.core.run.Circumstances.Shape;
import fabbrica.core.run.Diagnosis.Likely;
import fabbrica.core.run.Diagnosis.Retry;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.EnumSet;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.TreeMap;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

/** Rows of what goes wrong in the trade: a sign, its usual causes, and the first thing to try (common practice, no source). */
class DiagnosisTest {

    private static final Printer PRINTER = BuiltIn.printer("standard").orElseThrow();
    private static final Recipe DAILY = StartingPoint.DAILY_BREAD.recipe(PRINTER.nozzle(), PRINTER.kinematics()).with(Adhesion.SKIRT).with(Supports.NONE);
    private static final Shape FIRM = new Shape(40, 1500, 30, 60, 0, List.of(), 0, Double.POSITIVE_INFINITY, Double.POSITIVE_INFINITY, false);
    private static final Shape THIN_TOWER = new Shape(120, 24, 5, 20, 0, List.of(), 0, 3, Double.POSITIVE_INFINITY, false);
    private static final History KEPT = new History(4, false, false, 100, 6, 0, 4, 0, 12, 400, 40, true);
    private static final History UNWASHED = new History(19, false, false, 100, 6, 0, 4, 0, 12, 400, 40, true);

    private static Circumstances run(Shape shape, Recipe recipe, History history, Remedy... tried) {
        return new Circumstances(shape, List.of(), recipe, BuiltIn.PLA, PRINTER, history, Set.of(tried), false);
    }

    private static Diagnosis of(Defect defect, Double atMm, Circumstances run) {
        return Diagnosis.of(List.of(new Sign(defect, defect.usualSite(), atMm)), run);
    }

    @Test
    void of_300_failures_the_cause_is_named_first_in_four_of_five_and_among_the_first_three_in_nineteen_of_twenty() {
        List<Failures.Made> failures = new Failures(20261128).some(300);
        Map<String, Integer> missed = new TreeMap<>();
        int first = 0, three = 0;
        for (Failures.Made each : failures) {
            List<String> causes = Diagnosis.of(each.signs(), each.run()).causes().stream().map(likely -> likely.cause().name()).toList();
            first += causes.getFirst().equals(each.cause()) ? 1 : 0;
            three += causes.subList(0, 3).contains(each.cause()) ? 1 : 0;
            missed.merge("%s taken for %s".formatted(each.cause(), causes.getFirst()), 1, Integer::sum);
        }
        assertThat(first).as(missed.toString()).isGreaterThanOrEqualTo(240);
        assertThat(three).as(missed.toString()).isGreaterThanOrEqualTo(285);
    }

    @Test
    void the_reasons_of_a_cause_stand_with_it() {
        Likely first = of(Defect.CAME_OFF, 31.0, run(THIN_TOWER, DAILY, UNWASHED)).causes().getFirst();
        assertThat(first.cause()).isEqualTo(Cause.SMALL_CONTACT);
        assertThat(first.reasons()).containsExactly("contact 24 mm² for 120 mm of height");
        Likely dirty = of(Defect.CAME_OFF, 31.0, run(FIRM, DAILY, UNWASHED)).causes().getFirst();
        assertThat(dirty.cause()).isEqualTo(Cause.DIRTY_PLATE);
        assertThat(dirty.reasons()).containsExactly("the plate was washed 19 runs ago");
    }

    @Test
    void all_causes_together_are_one_whole() {
        assertThat(of(Defect.STRINGS, null, run(FIRM, DAILY, KEPT)).causes().stream().mapToDouble(Likely::share).sum()).isCloseTo(1, within(1e-9));
        assertThat(of(Defect.STRINGS, null, run(FIRM, DAILY, KEPT)).causes()).extracting(Likely::cause).containsExactlyInAnyOrder(Cause.values());
    }

    /** Sign, cause that the circumstances speak for, first thing to try. */
    @ParameterizedTest
    @CsvSource({"CAME_OFF, DIRTY_PLATE, WASH_PLATE", "CAME_OFF, SMALL_CONTACT, BRIM", "KNOCKED_OFF, TALL_AND_THIN, BRIM", "TORN, NOT_LEVEL, LEVEL", "LIFTED, DIRTY_PLATE, WASH_PLATE",
            "GAPS, SNAGGED, CHECK_SPOOL", "GAPS, CLOGGED, CHECK_NOZZLE", "GAPS, TOO_MUCH_FLOW, SLOWER", "RAN_OUT, SPOOL_EMPTY, OTHER_SPOOL", "STRINGS, WET, DRY_FILAMENT",
            "STRINGS, TOO_HOT, COOLER", "DROOPED, NO_SUPPORT, SUPPORTS", "DROOPED, POOR_COOLING, LONGER_LAYERS", "STEPS, THICK_LAYERS, THINNER_LAYERS", "ECHOES, TOO_FAST, SLOWER_OUTER",
            "BLURRED, WIDE_NOZZLE, FINER_NOZZLE", "SHIFTED, LOOSE_BELT, TIGHTEN_BELTS", "FUSED, NARROW_GAP, LARGER", "SNAPPED, TOO_THIN, LARGER", "SNAPPED, SUPPORT_IN_LOOP, NO_SUPPORTS",
            "ROUGH, CLOSE_SUPPORTS, LOOSER_SUPPORTS", "WRONG_SIZE, WRONG_UNIT, RIGHT_UNIT", "WRONG_SIZE, WRONG_FILE, CHECK_FILE", "WRONG_COLOUR, WRONG_SPOOL, RIGHT_SPOOL", "STOPPED, CUT_SHORT, JUST_AGAIN"})
    void each_sign_leads_to_its_cause_and_to_what_helps(Defect sign, Cause cause, Remedy remedy) {
        Diagnosis diagnosis = of(sign, 20.0, circumstances(cause));
        assertThat(diagnosis.causes().getFirst().cause()).isEqualTo(cause);
        assertThat(diagnosis.next().orElseThrow().remedy()).isEqualTo(remedy);
    }

    private static Circumstances circumstances(Cause cause) {
        Shape hanging = new Shape(40, 1500, 30, 60, 300, List.of(19.5), 0, 3, 3, false), fine = new Shape(40, 1500, 30, 60, 0, List.of(), 0, 0.6, 3, false);
        return switch (cause) {
            case DIRTY_PLATE -> run(FIRM, DAILY, UNWASHED);
            case SMALL_CONTACT -> run(new Shape(60, 24, 18, 60, 0, List.of(), 0, 3, 3, false), DAILY, KEPT);
            case TALL_AND_THIN -> run(THIN_TOWER, DAILY, KEPT);
            case NOT_LEVEL -> run(FIRM, DAILY, new History(4, true, false, 100, 6, 0, 4, 0, 12, 400, 40, true));
            case CLOGGED -> run(FIRM, DAILY, new History(4, false, false, 600, 6, 3, 4, 0, 12, 400, 40, true));
            case TOO_MUCH_FLOW -> run(FIRM, DAILY.faster(4), KEPT);
            case SPOOL_EMPTY -> run(FIRM, DAILY, new History(4, false, false, 100, 6, 0, 4, 0, 12, 20, 40, true));
            case WET -> run(FIRM, DAILY, new History(4, false, false, 100, 6, 0, 4, 2, 60, 400, 40, true));
            case TOO_HOT -> run(FIRM, DAILY, new History(4, false, false, 100, 6, 0, 4, 0, 2, 400, 40, true));
            case NO_SUPPORT -> run(hanging, DAILY, KEPT);
            case POOR_COOLING -> new Circumstances(FIRM, List.of(new LaidLayer(19.8, 40, 300, false), new LaidLayer(20, 6, 20, false)), DAILY, BuiltIn.PLA, PRINTER, KEPT, Set.of(), false);
            case THICK_LAYERS -> run(new Shape(40, 1500, 30, 60, 0, List.of(), 0.3, 3, 3, false), DAILY, KEPT);
            case TOO_FAST -> run(FIRM, DAILY.with(DAILY.pace().withOuterWall(90)), KEPT);
            case WIDE_NOZZLE, TOO_THIN -> run(fine, DAILY, KEPT);
            case LOOSE_BELT -> run(FIRM, DAILY, new History(4, false, true, 100, 6, 2, 4, 0, 12, 400, 40, true));
            case NARROW_GAP -> run(new Shape(40, 1500, 30, 60, 0, List.of(), 0, 3, 0.18, false), DAILY, KEPT);
            case SUPPORT_IN_LOOP, CLOSE_SUPPORTS -> run(new Shape(40, 1500, 30, 60, 0, List.of(), 0, 1.2, 3, false), DAILY.with(Supports.of(Supports.Where.EVERYWHERE)), KEPT);
            case WRONG_UNIT -> run(new Shape(2, 4, 30, 2, 0, List.of(), 0, 3, 3, true), DAILY, KEPT);
            case WRONG_FILE -> run(FIRM, DAILY, new History(4, false, false, 100, 6, 0, 4, 0, 12, 400, 40, false));
            default -> run(FIRM, DAILY, KEPT);
        };
    }

    @Test
    void a_part_that_keeps_coming_off_is_tried_with_a_washed_plate_then_a_brim_then_glue_then_a_level_bed() {
        Set<Remedy> tried = EnumSet.noneOf(Remedy.class);
        List<Remedy> order = new ArrayList<>();
        Recipe recipe = DAILY;
        History history = UNWASHED;
        for (int run = 0; run < 4; run++) {
            Retry next = of(Defect.CAME_OFF, 2.0, run(new Shape(50, 140, 20, 40, 0, List.of(), 0, 3, 3, false), recipe, history, tried.toArray(Remedy[]::new))).next().orElseThrow();
            order.add(next.remedy());
            tried.add(next.remedy());
            recipe = next.recipe();
            history = KEPT;
        }
        assertThat(order).containsExactly(Remedy.WASH_PLATE, Remedy.BRIM, Remedy.GLUE, Remedy.LEVEL);
    }

    @Test
    void what_was_tried_in_vain_is_not_proposed_again_and_what_is_in_the_recipe_neither() {
        Diagnosis once = of(Defect.CAME_OFF, 31.0, run(THIN_TOWER, DAILY.with(Adhesion.BRIM), KEPT));
        assertThat(once.next().map(Retry::remedy)).isPresent().get().isNotEqualTo(Remedy.BRIM);
        Diagnosis all = of(Defect.CAME_OFF, 31.0, run(THIN_TOWER, DAILY, KEPT, Remedy.values()));
        assertThat(all.next()).isEmpty();
    }

    @Test
    void where_it_shows_tells_causes_apart() {
        Circumstances run = run(FIRM, DAILY, KEPT);
        assertThat(share(Defect.TORN, Site.CORNER, Cause.NOT_LEVEL, run)).isGreaterThan(share(Defect.TORN, Site.BOTTOM, Cause.NOT_LEVEL, run));
        assertThat(share(Defect.GAPS, Site.TOP, Cause.SPOOL_EMPTY, run)).isGreaterThan(share(Defect.GAPS, Site.SIDE, Cause.SPOOL_EMPTY, run));
        assertThat(share(Defect.GAPS, Site.ALL_OVER, Cause.CLOGGED, run)).isGreaterThan(share(Defect.GAPS, Site.SIDE, Cause.CLOGGED, run));
    }

    private static double share(Defect defect, Site site, Cause cause, Circumstances run) {
        return Diagnosis.of(List.of(new Sign(defect, site, null)), run).causes().stream().filter(likely -> likely.cause() == cause).mapToDouble(Likely::share).sum();
    }

    @Test
    void of_a_file_sliced_elsewhere_no_recipe_is_changed() {
        Circumstances fixed = new Circumstances(Shape.UNKNOWN, List.of(), DAILY, BuiltIn.PLA, PRINTER, KEPT, Set.of(), true);
        for (Defect defect : Defect.values()) {
            assertThat(of(defect, 20.0, fixed).next().map(next -> next.remedy().kind())).as(defect.name()).isNotEqualTo(Optional.of(Remedy.Kind.RECIPE));
        }
    }

    @Test
    void a_retry_changes_one_thing_of_the_recipe_and_nothing_else() {
        Recipe supported = DAILY.with(Supports.of(Supports.Where.BED));
        for (Remedy remedy : Remedy.values()) {
            Recipe from = remedy == Remedy.LOOSER_SUPPORTS || remedy == Remedy.NO_SUPPORTS ? supported : DAILY;
            assertThat(remedy.in(from, PRINTER).isPresent()).as(remedy.name()).isEqualTo(remedy.kind() == Remedy.Kind.RECIPE);
            remedy.in(from, PRINTER).ifPresent(changed -> assertThat(changed).as(remedy.name()).isNotEqualTo(from));
        }
        assertThat(Remedy.BRIM.in(DAILY, PRINTER)).contains(DAILY.with(Adhesion.BRIM));
        Recipe calm = Remedy.SLOWER_OUTER.in(DAILY, PRINTER).orElseThrow();
        assertThat(calm.with(calm.pace().withOuterWall(DAILY.pace().outerWallMmS()))).isEqualTo(DAILY);
        assertThat(Remedy.THINNER_LAYERS.in(DAILY, PRINTER).orElseThrow().layerHeightMm()).isEqualTo(0.15);
    }

    @Test
    void the_filament_comes_before_the_recipe_and_the_part_last() {
        assertThat(of(Defect.STRINGS, null, run(FIRM, DAILY, KEPT)).next().orElseThrow().remedy().kind()).isEqualTo(Remedy.Kind.BY_HAND);
        assertThat(Cause.values()).allSatisfy(cause -> assertThat(cause.remedies()).isNotEmpty().doesNotHaveDuplicates());
        assertThat(Remedy.values()).allSatisfy(remedy -> assertThat(Arrays.stream(Cause.values()).anyMatch(cause -> cause.remedies().contains(remedy))).as(remedy.name()).isTrue());
    }
}
