package fabbrica.core.gcode;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatCode;
import static org.assertj.core.api.Assertions.assertThatThrownBy;
import static org.assertj.core.api.Assertions.within;

import fabbrica.core.bed.Bed;
import fabbrica.core.bed.BedFit;
import fabbrica.core.bed.BedRoute;
import fabbrica.core.bed.Footprint;
import fabbrica.core.bed.Nesting;
import fabbrica.core.estimate.Estimate;
import fabbrica.core.mesh.model.Mesh;
import fabbrica.core.mesh.model.Shapes;
import fabbrica.core.printing.Printed;
import fabbrica.core.recipe.Adhesion;
import fabbrica.core.recipe.BuiltIn;
import fabbrica.core.recipe.InfillPattern;
import fabbrica.core.recipe.LineWork;
import fabbrica.core.recipe.OwnWay;
import fabbrica.core.recipe.Printer;
import fabbrica.core.recipe.PurgeLine;
import fabbrica.core.recipe.Recipe;
import fabbrica.core.recipe.StartingPoint;
import fabbrica.core.recipe.Supports;
import fabbrica.core.toolpath.Layer;
import fabbrica.core.toolpath.PathType;
import fabbrica.core.toolpath.Toolpath;
import fabbrica.core.units.OutOfRange;
import fabbrica.core.units.Progress;
import java.io.ByteArrayInputStream;
import java.io.ByteArrayOutputStream;
import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.util.List;
import java.util.Random;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import org.junit.jupiter.params.provider.EnumSource;
import org.junit.jupiter.params.provider.ValueSource;
import org.locationtech.jts.geom.Coordinate;
import org.locationtech.jts.geom.Geometry;
import org.locationtech.jts.geom.GeometryFactory;

/** What is laid where on the bed, and every way of the head between. */
class PlateTest {

    private static final Printer STANDARD = BuiltIn.printer("standard").orElseThrow();
    private static final Printer FAST = BuiltIn.printer("fast").orElseThrow();
    private static final Recipe DAILY = StartingPoint.DAILY_BREAD.recipe(STANDARD.nozzle(), STANDARD.kinematics());
    private static final GeometryFactory PLANE = new GeometryFactory();

    @ParameterizedTest
    @ValueSource(ints = {2, 4, 9, 16, 25})
    void copies_are_never_laid_on_the_purge_line(int copies) {
        Mesh cube = Shapes.box(30, 30, 5);
        Nesting nesting = Nesting.of(List.of(new Nesting.Item(cube, DAILY.allowance(), copies)),
                STANDARD.freeBed(), 3);
        Bed.Zone purge = PurgeLine.on(STANDARD.bed()).zone();
        nesting.sheets().forEach(plate -> plate.placements().forEach(place -> {
            var box = cube.turned(place.rotationDeg()).moved(place.dx(), place.dy(), 0).bounds();
            assertThat(box.minX() < purge.maxX() && box.maxX() > purge.minX() && box.minY() < purge.maxY()).isFalse();
        }));
    }

    @ParameterizedTest
    @CsvSource({"2, 20, 90", "9, 30, 30", "16, 30, 30", "12, 20, 90"})
    void a_plate_of_copies_beside_what_is_kept_free_can_be_laid_with_its_skirt(int copies, double width, double depth) throws IOException {
        Recipe recipe = StartingPoint.ROUGH_CUT.recipe(FAST.nozzle(), FAST.kinematics());
        Mesh part = Shapes.box(width, depth, 1);
        Nesting nesting = Nesting.of(List.of(new Nesting.Item(part, recipe.allowance(), copies)),
                FAST.freeBed(), 3);
        assertThat(nesting.sheets()).hasSize(1);
        Mesh plate = Shapes.together(nesting.sheets().getFirst().placements().stream()
                .map(place -> part.turned(place.rotationDeg()).moved(place.dx(), place.dy(), 0)).toArray(Mesh[]::new));
        Toolpath path = Toolpath.of(plate, recipe, FAST.freeBed().keepOut(), Progress.IGNORED);
        assertThat(written(path, recipe, FAST, 0, 0)).isNotEmpty();
        assertThat(path.layers().getFirst().lengthMm(PathType.ADHESION)).isGreaterThan(2 * (plate.bounds().sizeX() + plate.bounds().sizeY()));
    }

    @Test
    void a_plate_that_needs_the_place_of_the_purge_line_is_said_not_to_fit() {
        assertThat(fit(Shapes.box(215, 215, 4), Adhesion.NONE, STANDARD).fits()).isTrue();
        assertThat(fit(Shapes.box(219, 219, 4), Adhesion.NONE, STANDARD).fits()).isFalse();
    }

    @Test
    void the_head_never_comes_where_the_bed_is_to_be_kept_free_once_it_has_left_home() throws IOException {
        Mesh box = Shapes.box(40, 40, 2);
        Recipe recipe = StartingPoint.DAILY_BREAD.recipe(FAST.nozzle(), FAST.kinematics());
        String file = written(Toolpath.of(box, recipe, Progress.IGNORED), recipe, FAST, 30, 60);
        double x = 0, y = 0;
        boolean left = false;
        int moves = 0;
        for (String line : file.lines().filter(text -> text.startsWith("G0") || text.startsWith("G1")).toList()) {
            double toX = word(line, 'X', x), toY = word(line, 'Y', y);
            if (left) {
                assertThat(BedRoute.crosses(FAST.bed(), x, y, toX, toY)).as(line).isFalse();
                moves++;
            }
            left |= !FAST.bed().keepsFree(toX, toY) && toX + toY > 0;
            x = toX;
            y = toY;
        }
        assertThat(moves).isGreaterThan(500);
    }

    @Test
    void after_the_labs_own_start_the_head_goes_around_what_is_kept_free_too() throws IOException {
        Printer own = own(new Bed(220, 220, 250, List.of(new Bed.Zone(90, 0, 110, 80))),
                "M140 S{bed}\nM109 S{nozzle}\nG28\nG90\nG1 X10 Y40 Z5 F6000", "");
        String file = written(Toolpath.of(Shapes.box(20, 20, 2), DAILY, Progress.IGNORED), DAILY, own, 150, 30);
        double x = 10, y = 40;
        for (String line : file.lines().filter(text -> text.startsWith("G0") && text.contains("X")).limit(4).toList()) {
            double toX = word(line, 'X', x), toY = word(line, 'Y', y);
            assertThat(BedRoute.crosses(own.bed(), x, y, toX, toY)).as(line).isFalse();
            x = toX;
            y = toY;
        }
        assertThat(x).isGreaterThan(110);
    }

    @Test
    void between_parts_and_from_layer_to_layer_the_head_is_led_around_what_is_kept_free() throws IOException {
        Bed bed = new Bed(220, 220, 250, List.of(new Bed.Zone(90, 60, 110, 160)));
        Printer printer = own(bed, "", "");
        Mesh both = Shapes.together(Shapes.box(20, 20, 2).moved(60, 100, 0), Shapes.box(20, 20, 2).moved(140, 100, 0));
        Recipe recipe = DAILY.with(Adhesion.NONE);
        Toolpath path = Toolpath.of(both, recipe, Progress.IGNORED);
        String file = written(path, recipe, printer, 0, 0);
        double x = 0, y = 0;
        int around = 0;
        for (String line : file.lines().filter(text -> text.startsWith("G0") || text.startsWith("G1")).toList()) {
            double toX = word(line, 'X', x), toY = word(line, 'Y', y);
            assertThat(BedRoute.crosses(bed, x, y, toX, toY)).as(line).isFalse();
            around += toX > 88 && toX < 112 ? 1 : 0;
            x = toX;
            y = toY;
        }
        assertThat(around).isGreaterThan(path.layers().size());
        Replay replay = Replay.of(new ByteArrayInputStream(file.getBytes(StandardCharsets.UTF_8)), printer);
        assertThat(replay.totalFilamentMm() + printer.kinematics().retractionMm()).isCloseTo(
                Printed.estimate(path, recipe, printer).filamentMm(), within(0.01));
    }

    @Test
    void the_labs_own_start_or_end_that_drives_through_what_is_kept_free_is_refused_with_its_line() {
        Bed bed = new Bed(220, 220, 250, List.of(new Bed.Zone(90, 0, 110, 80), new Bed.Zone(0, 200, 40, 220)));
        Toolpath path = Toolpath.of(Shapes.box(20, 20, 2), DAILY, Progress.IGNORED);
        assertThatThrownBy(() -> written(path, DAILY, own(bed, "G28\nG1 X10 Y40 Z0.3 F6000\nG1 X200 E12", ""), 150, 150))
                .isInstanceOf(OutOfRange.class).hasMessage("The own start of Own drives the head through what is to be kept free, "
                        + "0.3 mm above the bed: G1 X200 E12. Lift it over, or lead it around.");
        assertThatThrownBy(() -> written(path, DAILY, own(bed, "", "M104 S0\nG1 X10 Y10"), 150, 20))
                .isInstanceOf(OutOfRange.class).hasMessageContaining("The own end of Own drives the head");
        assertThatCode(() -> written(path, DAILY, own(bed, "G28\nG1 X10 Y40 Z6 F6000\nG1 X200", "G91\nG1 Z10\nG90\nG1 X10 Y10"),
                150, 20)).doesNotThrowAnyException();
        assertThatCode(() -> written(path, DAILY, own(bed, "G28\nG1 X20 Y190 Z1\nG1 Y210 E5\nG1 Y190", ""), 150, 20))
                .as("into a purge block and back").doesNotThrowAnyException();
    }

    private static Printer own(Bed bed, String start, String end) {
        return new Printer("own", "Own", bed, STANDARD.nozzle(), STANDARD.kinematics(), STANDARD.preparation(), 1.75, false, 260, 100,
                STANDARD.materialIds(), new OwnWay(start, end));
    }

    @ParameterizedTest
    @EnumSource(value = Adhesion.class, names = {"NONE", "SKIRT", "BRIM", "RAFT"})
    void what_fits_can_be_laid_and_what_does_not_fit_cannot(Adhesion adhesion) throws IOException {
        Random chance = new Random(adhesion.ordinal());
        int fitting = 0, refused = 0;
        for (int round = 0; round < 60; round++) {
            Printer printer = round % 2 == 0 ? STANDARD : FAST;
            Recipe recipe = StartingPoint.ROUGH_CUT.recipe(printer.nozzle(), printer.kinematics()).with(adhesion);
            Mesh part = prism(chance);
            BedFit fit = fit(part, adhesion, printer);
            Mesh turned = part.turned(fit.rotationDeg());
            Toolpath path = Toolpath.of(turned, recipe, Progress.IGNORED);
            if (fit.fits()) {
                fitting++;
                Printed.file(path, recipe, printer, turned.bounds(), fit).write(new ByteArrayOutputStream());
            } else {
                refused++;
                var box = turned.bounds();
                double dx = printer.bed().widthMm() / 2 - (box.minX() + box.maxX()) / 2;
                double dy = printer.bed().depthMm() / 2 - (box.minY() + box.maxY()) / 2;
                assertThat(stays(path, printer, dx, dy)).as("%s on %s", fit, printer.name()).isFalse();
            }
        }
        assertThat(fitting).isGreaterThan(10);
        assertThat(refused).isGreaterThan(5);
    }

    @ParameterizedTest
    @EnumSource(value = Adhesion.class, names = {"SKIRT", "BRIM", "RAFT"})
    void a_flared_cup_needs_room_beside_its_foot_only_and_can_be_laid(Adhesion adhesion) throws IOException {
        Recipe recipe = StartingPoint.ROUGH_CUT.recipe(STANDARD.nozzle(), STANDARD.kinematics()).with(adhesion);
        double widest = STANDARD.bed().depthMm() - PurgeLine.on(STANDARD.bed()).zone().maxY() - 0.5;
        Mesh cup = Shapes.cone(50, widest / 2, 60, 90);
        BedFit fit = fit(cup, adhesion, STANDARD);
        assertThat(fit.fits()).as(fit.why()).isTrue();
        ByteArrayOutputStream out = new ByteArrayOutputStream();
        Printed.file(Toolpath.of(cup, recipe, Progress.IGNORED), recipe, STANDARD, cup.bounds(), fit).write(out);
        assertThat(out.size()).isGreaterThan(100_000);
        assertThat(Nesting.copiesThatFit(cup, recipe.allowance(), STANDARD.freeBed(), 3)).isEqualTo(1);
        assertThat(BedFit.of(Footprint.of(cup), STANDARD.freeBed(), recipe.with(new Supports(Supports.Where.BED, 40, 0.15, 0.2, 2)).allowance()).fits())
                .as("supports stand on the bed under the rim, and the skirt around them").isFalse();
        BedFit larger = BedFit.of(Footprint.of(cup).scaled(1.2), STANDARD.freeBed(), recipe.allowance());
        assertThat(larger.fits()).isFalse();
        assertThat(larger.largestScale() * 1.2).isBetween(1.0, 1.02);
    }

    @Test
    void nothing_is_dragged_dry_over_holes() {
        Geometry plate = Shapes.rectangle(0, 0, 60, 60);
        for (int i = 0; i < 9; i++) {
            plate = plate.difference(Shapes.disc(10 + 20 * (i % 3), 10 + 20 * (i / 3), 3, 48));
        }
        Toolpath path = Toolpath.of(Shapes.extrusion((org.locationtech.jts.geom.Polygon) plate, 3), DAILY, Progress.IGNORED);
        for (Layer layer : path.layers()) {
            for (int p = 0; p < layer.pathCount(); p++) {
                if (layer.type(p) == PathType.TRAVEL && !layer.retracted(p) && layer.lengthMm(p) > Layer.SHORT_HOP_MM) {
                    for (int i = layer.start(p) + 1; i < layer.end(p); i++) {
                        Geometry hop = PLANE.createLineString(new Coordinate[] {new Coordinate(layer.x(i - 1), layer.y(i - 1)),
                            new Coordinate(layer.x(i), layer.y(i))});
                        assertThat(hop.difference(plate.buffer(5)).getLength() + hop.intersection(holes()).getLength())
                                .as("layer at %s", layer.topMm()).isLessThan(Layer.SHORT_HOP_MM);
                    }
                }
            }
        }
    }

    @Test
    void layers_without_anything_on_them_do_not_slow_the_head_down() throws IOException {
        // Two plates one over the other with 2 mm of air: the head goes up, and then across at its usual speed.
        Mesh plates = Shapes.together(Shapes.box(20, 20, 2), Shapes.box(20, 20, 2).moved(60, 0, 4));
        Toolpath path = Toolpath.of(plates, DAILY, Progress.IGNORED);
        assertThat(path.layers()).anyMatch(layer -> layer.pathCount() == 0);
        Estimate estimate = Printed.estimate(path, DAILY, STANDARD);
        String file = written(path, DAILY, STANDARD, 50, 50);
        assertThat(file.lines().filter(line -> line.startsWith("G0") && line.contains("X") && line.contains("Z"))).isEmpty();
        Replay replay = Replay.of(new ByteArrayInputStream(file.getBytes(StandardCharsets.UTF_8)), STANDARD);
        assertThat(replay.totalSeconds()).isCloseTo(estimate.totalSeconds(), within(estimate.totalSeconds() * 0.001));
    }

    @Test
    void a_change_that_cannot_be_made_is_said_and_one_after_another_is_changed_back() {
        Recipe striped = DAILY.with(LineWork.USUAL.withChanges(List.of(3.0, 40.0)));
        Toolpath part = Toolpath.of(Shapes.box(10, 10, 6), striped, Progress.IGNORED);
        assertThat(part.changes()).hasSize(1);
        assertThat(part.cautions()).containsExactly("The filament is not changed at 40 mm: the last layer begins below.");
        Toolpath three = Toolpath.oneAfterAnother(List.of(part, part, part));
        int layers = part.layers().size();
        // To the second filament and back to the first for each part that follows.
        assertThat(three.changes()).extracting(Toolpath.Change::layer).containsExactly(part.changes().getFirst().layer(), layers,
                layers + part.changes().getFirst().layer(), 2 * layers, 2 * layers + part.changes().getFirst().layer());
        assertThat(three.cautions()).hasSize(1);
    }

    @ParameterizedTest
    @ValueSource(doubles = {0.7, 0.9, 1.0})
    void dense_waves_are_written_in_steps_that_a_machine_can_follow(double density) throws IOException {
        Recipe waves = new Recipe(0.2, 0.2, 0.42, 2, 0, 0, density, InfillPattern.GYROID, Adhesion.NONE, 60);
        Toolpath path = Toolpath.of(Shapes.box(14, 14, 2), waves, Progress.IGNORED);
        int points = path.layers().stream().mapToInt(Layer::pointCount).sum();
        double length = path.lengthMm(PathType.INFILL) + path.lengthMm(PathType.INNER_WALL) + path.lengthMm(PathType.OUTER_WALL);
        assertThat(length / points).as("mm to a step").isGreaterThan(0.15);
        Estimate estimate = Printed.estimate(path, waves, STANDARD);
        Replay replay = Replay.of(new ByteArrayInputStream(written(path, waves, STANDARD, 50, 50).getBytes(StandardCharsets.UTF_8)),
                STANDARD);
        assertThat(replay.totalSeconds()).isCloseTo(estimate.totalSeconds(), within(estimate.totalSeconds() * 0.002));
        assertThat(replay.totalFilamentMm() + STANDARD.kinematics().retractionMm())
                .isCloseTo(estimate.filamentMm(), within(estimate.filamentMm() * 0.002));
    }

    private static Geometry holes() {
        Geometry holes = Shapes.disc(10, 10, 2.9, 48);
        for (int i = 1; i < 9; i++) {
            holes = holes.union(Shapes.disc(10 + 20 * (i % 3), 10 + 20 * (i / 3), 2.9, 48));
        }
        return holes;
    }

    /** A thin prism over a polygon of three to nine corners, about as large as a bed. */
    private static Mesh prism(Random chance) {
        int corners = 3 + chance.nextInt(7);
        double[] ring = new double[2 * corners];
        double stretch = 0.3 + 0.7 * chance.nextDouble(), radius = 85 + 80 * chance.nextDouble();
        for (int i = 0; i < corners; i++) {
            double angle = 2 * Math.PI * (i + 0.6 * chance.nextDouble()) / corners;
            ring[2 * i] = radius * Math.cos(angle);
            ring[2 * i + 1] = radius * stretch * Math.sin(angle);
        }
        return Shapes.extrusion(Shapes.polygon(ring), 0.6);
    }

    /** Whether all lines, as wide as they are, stay on the bed and off what is to be kept free, with a hair's breadth. */
    private static boolean stays(Toolpath path, Printer printer, double dx, double dy) {
        for (Layer layer : path.layers()) {
            for (int p = 0; p < layer.pathCount(); p++) {
                double half = layer.widthMm(p) / 2 + 0.02;
                for (int i = layer.start(p); i < layer.end(p); i++) {
                    double x = layer.x(i) + dx, y = layer.y(i) + dy;
                    if (x < half || y < half || x > printer.bed().widthMm() - half || y > printer.bed().depthMm() - half
                            || i > layer.start(p) && BedRoute.crosses(printer.freeBed(), layer.x(i - 1) + dx, layer.y(i - 1) + dy, x, y)
                            || printer.freeBed().keepOut().stream().anyMatch(zone -> x > zone.minX() - half && x < zone.maxX() + half
                                    && y > zone.minY() - half && y < zone.maxY() + half)) {
                        return false;
                    }
                }
            }
        }
        return true;
    }

    private static BedFit fit(Mesh mesh, Adhesion adhesion, Printer printer) {
        Recipe recipe = StartingPoint.ROUGH_CUT.recipe(printer.nozzle(), printer.kinematics());
        return BedFit.of(Footprint.of(mesh), printer.freeBed(), recipe.with(adhesion).allowance());
    }

    private static double word(String line, char letter, double otherwise) {
        int at = line.indexOf(" " + letter);
        return at < 0 ? otherwise : Double.parseDouble(line.substring(at + 2).split(" ")[0]);
    }

    private static String written(Toolpath path, Recipe recipe, Printer printer, double dx, double dy) throws IOException {
        ByteArrayOutputStream out = new ByteArrayOutputStream();
        Printed.file(path, recipe, printer, dx, dy).write(out);
        return out.toString(StandardCharsets.UTF_8);
    }
}
