package fabbrica.core.printing;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import fabbrica.core.bed.Clearance;
import fabbrica.core.bed.Layout;
import fabbrica.core.bed.Outline;
import fabbrica.core.estimate.Estimate;
import fabbrica.core.estimate.Portions;
import fabbrica.core.gcode.Replay;
import fabbrica.core.mesh.model.Mesh;
import fabbrica.core.mesh.model.Shapes;
import fabbrica.core.printing.PrintShop.Shelf;
import fabbrica.core.recipe.Adhesion;
import fabbrica.core.recipe.BuiltIn;
import fabbrica.core.recipe.Plate;
import fabbrica.core.recipe.Plate.Place;
import fabbrica.core.recipe.Plate.Sequence;
import fabbrica.core.recipe.Printer;
import fabbrica.core.recipe.Recipe;
import fabbrica.core.recipe.StartingPoint;
import fabbrica.core.recipe.Supports;
import fabbrica.core.toolpath.WalledSlices;
import fabbrica.core.units.Progress;
import java.io.ByteArrayInputStream;
import java.io.ByteArrayOutputStream;
import java.io.IOException;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import org.assertj.core.util.DoubleComparator;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.EnumSource;

/** Plates of several parts: what they take, what is whose, and that the file lays what was promised. */
class PrintShopTest {

    private static final Printer STANDARD = BuiltIn.printer("standard").orElseThrow();
    private static final Printer FAST = BuiltIn.printer("fast").orElseThrow();
    private static final Recipe DAILY = StartingPoint.DAILY_BREAD.recipe(STANDARD.nozzle(), STANDARD.kinematics());
    private static final Mesh TAG = Shapes.box(40, 18, 3);
    private static final Mesh CUBE = Shapes.box(20, 20, 20);
    private final PrintShop shop = Printed.shop(Map.of("tag", TAG, "cube", CUBE));

    @Test
    void twelve_tags_share_one_warm_up() {
        // Getting ready is real time (common practice, no source): twelve plates of one take eleven warm-ups more.
        Plate plate = nest("tag", 12, Sequence.TOGETHER).plates().getFirst();
        assertThat(plate.copies()).hasSize(12);
        Estimate twelve = shop.estimate(plate, STANDARD, BuiltIn.PLA, Progress.IGNORED);
        Estimate one = shop.estimate(nest("tag", 1, Sequence.TOGETHER).plates().getFirst(), STANDARD, BuiltIn.PLA, Progress.IGNORED);
        assertThat(twelve.prepareSeconds()).isEqualTo(one.prepareSeconds());
        double plastic = one.grams() - one.purgedG() - one.grams(fabbrica.core.toolpath.PathType.ADHESION);
        assertThat(twelve.grams() - twelve.purgedG() - twelve.grams(fabbrica.core.toolpath.PathType.ADHESION)).isCloseTo(12 * plastic, within(0.02 * 12 * plastic));
        assertThat(twelve.totalSeconds()).isLessThan(12 * one.totalSeconds() - 10 * one.prepareSeconds());
    }

    @ParameterizedTest
    @EnumSource(Sequence.class)
    void the_file_of_a_plate_takes_what_the_plate_was_estimated_to(Sequence sequence) throws IOException {
        for (Printer printer : List.of(STANDARD, FAST)) {
            Recipe recipe = StartingPoint.DAILY_BREAD.recipe(printer.nozzle(), printer.kinematics());
            Plate plate = Nester.of(List.of(new Nester.Wanted(Printed.part("tag"), 2), new Nester.Wanted(Printed.part("cube"), 1)), recipe, printer,
                    sequence, part -> part.sha256().equals("tag") ? TAG : CUBE).plates().getFirst();
            Estimate estimate = shop.estimate(plate, printer, BuiltIn.PLA, Progress.IGNORED);
            ByteArrayOutputStream file = new ByteArrayOutputStream();
            shop.file(plate, printer, BuiltIn.PLA, List.of(), Progress.IGNORED).write(file);
            Replay replay = Replay.of(new ByteArrayInputStream(file.toByteArray()), printer);
            assertThat(replay.totalSeconds()).isCloseTo(estimate.totalSeconds(), within(estimate.totalSeconds() * 0.001));
            assertThat(replay.onKeepOut()).isZero();
            double drawnBack = printer.kinematics().retractionMm();
            assertThat(replay.totalFilamentMm() + drawnBack).isCloseTo(estimate.filamentMm(), within(estimate.filamentMm() * 0.001));
        }
    }

    /** Walls are where they are, whatever fills them; only where all is solid do they take narrow places as well. */
    @Test
    void recipes_that_differ_in_what_is_inside_share_their_walls_and_take_what_they_would_alone() {
        Map<PrintShop.Walled, WalledSlices> walls = new HashMap<>();
        PrintShop sharing = new PrintShop(part -> CUBE, Shelf.empty(), (key, make) -> walls.computeIfAbsent(key, make), Shelf.empty(), Shelf.empty());
        List<Recipe> recipes = List.of(DAILY, DAILY.withInfill(0.05), DAILY.with(Adhesion.BRIM), DAILY.with(Supports.of(Supports.Where.BED)),
                DAILY.faster(1.25), DAILY.withInfill(0), DAILY.withInfill(1), DAILY.withWalls(2, 0.52), DAILY.withLayerHeight(0.16, 0.24));
        for (Recipe recipe : recipes) {
            Plate plate = Plate.of(Printed.part("cube"), new Place(60, 60, 0), recipe);
            assertThat(sharing.estimate(plate, STANDARD, BuiltIn.PLA, Progress.IGNORED))
                    .isEqualTo(Printed.shop(Map.of("cube", CUBE)).estimate(plate, STANDARD, BuiltIn.PLA, Progress.IGNORED));
        }
        assertThat(walls).as("as planned, solid, of two lines, in finer layers").hasSize(4);
    }

    @Test
    void a_plate_is_the_same_print_wherever_it_lies() {
        Estimate here = shop.estimate(Plate.of(Printed.part("cube"), new Place(60, 60, 0), DAILY), STANDARD, BuiltIn.PLA, Progress.IGNORED);
        Estimate there = shop.estimate(Plate.of(Printed.part("cube"), new Place(150, 90, 0), DAILY), STANDARD, BuiltIn.PLA, Progress.IGNORED);
        assertThat(there).isEqualTo(here);
    }

    @Test
    void what_is_laid_for_each_copy_is_shared_out_by_its_lines() {
        // A cube of 20 mm and a tag of 40 × 18 × 3 mm, both mostly walls and skin: shares follow what each takes alone, skirts aside.
        Plate plate = new Plate(List.of(copy("tag", 60), copy("cube", 110), copy("tag", 160)), Sequence.TOGETHER, DAILY.with(Adhesion.NONE));
        Portions portions = shop.portions(plate, STANDARD, part -> Outline.of(part.sha256().equals("tag") ? TAG : CUBE), Progress.IGNORED);
        double tag = alone("tag"), cube = alone("cube"), all = 2 * tag + cube;
        assertThat(portions.plastic()).usingElementComparator(new DoubleComparator(0.003)).containsExactly(tag / all, cube / all, tag / all);
        assertThat(portions.seconds().stream().mapToDouble(Double::doubleValue).sum()).isCloseTo(1, within(1e-9));
        assertThat(portions.seconds().get(1)).isGreaterThan(portions.seconds().getFirst());
    }

    @Test
    void copies_that_overlap_leave_the_bed_or_stand_in_each_others_way_are_troubles() {
        Outline cube = Outline.of(CUBE);
        Layout.Room skirt = Nester.room(DAILY), brim = Nester.room(DAILY.with(Adhesion.BRIM));
        assertThat(layout(skirt, null, cube.placed(60, 60, 0), cube.placed(75, 60, 0)).troubles()).singleElement().extracting(Layout.Trouble::reason)
                .isEqualTo("Copies 1 and 2 are too close: they overlap.");
        assertThat(layout(skirt, null, cube.placed(60, 60, 0), cube.placed(82, 60, 0)).nearestMm()).isCloseTo(2, within(0.2));
        assertThat(layout(brim, null, cube.placed(60, 60, 0), cube.placed(86, 60, 0)).troubles()).hasSize(1);
        assertThat(layout(skirt, null, cube.placed(12, 60, 0)).troubles()).extracting(Layout.Trouble::reason).containsExactly("Copy 1 reaches beyond the bed.");
        assertThat(layout(skirt, null, cube.placed(110, 110, 45)).troubles()).isEmpty();
        assertThat(layout(skirt, Clearance.USUAL, cube.placed(60, 60, 0), cube.placed(100, 60, 0)).troubles()).extracting(Layout.Trouble::reason)
                .containsExactly("Copies 1 and 2 are 20 mm apart; one after another the head needs 35 mm.");
    }

    @Test
    void what_the_nester_lays_has_no_troubles() {
        for (Sequence sequence : Sequence.values()) {
            for (Adhesion adhesion : List.of(Adhesion.SKIRT, Adhesion.BRIM, Adhesion.RAFT)) {
                Nester nested = Nester.of(List.of(new Nester.Wanted(Printed.part("tag"), 30)), DAILY.with(adhesion), FAST, sequence, part -> TAG);
                Outline outline = Outline.of(TAG);
                for (Plate plate : nested.plates()) {
                    assertThat(Layout.of(plate.copies().stream().map(copy -> outline.placed(copy.place().xMm(), copy.place().yMm(),
                            copy.place().turnDeg())).toList(), FAST.freeBed(), Nester.room(plate.recipe()),
                            sequence == Sequence.ONE_BY_ONE ? Clearance.USUAL : null).troubles()).as("%s %s", sequence, adhesion).isEmpty();
                }
                assertThat(nested.plates().stream().mapToInt(plate -> plate.copies().size()).sum()).isEqualTo(30);
            }
        }
    }

    private static Layout layout(Layout.Room room, Clearance head, Outline... outlines) {
        return Layout.of(List.of(outlines), STANDARD.freeBed(), room, head);
    }

    private double alone(String part) {
        Estimate estimate = shop.estimate(new Plate(List.of(copy(part, 110)), Sequence.TOGETHER, DAILY.with(Adhesion.NONE)), STANDARD, BuiltIn.PLA,
                Progress.IGNORED);
        return estimate.grams() - estimate.purgedG();
    }

    private static Plate.Copy copy(String part, double x) {
        return new Plate.Copy(Printed.part(part), new Place(x, 110, 0));
    }

    private static Nester nest(String part, int copies, Sequence sequence) {
        return Nester.of(List.of(new Nester.Wanted(Printed.part(part), copies)), DAILY, STANDARD, sequence, p -> part.equals("tag") ? TAG : CUBE);
    }
}
