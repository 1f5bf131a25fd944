package fabbrica.core.toolpath;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import fabbrica.core.mesh.model.Mesh;
import fabbrica.core.mesh.model.Shapes;
import fabbrica.core.motion.Motion;
import fabbrica.core.recipe.Adhesion;
import fabbrica.core.recipe.BuiltIn;
import fabbrica.core.recipe.InfillPattern;
import fabbrica.core.recipe.LineWork;
import fabbrica.core.recipe.LineWork.Seam;
import fabbrica.core.recipe.Pace;
import fabbrica.core.recipe.Printer;
import fabbrica.core.recipe.Recipe;
import fabbrica.core.recipe.StartingPoint;
import fabbrica.core.recipe.Supports;
import fabbrica.core.recipe.Supports.Where;
import fabbrica.core.recipe.Zone;
import fabbrica.core.units.Progress;
import java.util.List;
import java.util.stream.IntStream;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.EnumSource;
import org.junit.jupiter.params.provider.EnumSource.Mode;
import org.locationtech.jts.geom.Polygon;

/** What recipes can ask for beyond walls and infill, on shapes small enough to work out by hand. */
class FeaturesTest {

    /** Distance between lines of 0.4 mm on layers of 0.2 mm. */
    private static final double SPACING = 0.4 - 0.2 * (1 - Math.PI / 4);
    private static final Recipe PLAIN =
            new Recipe(0.2, 0.2, 0.4, 2, 4, 4, 0.15, InfillPattern.LINES, Adhesion.NONE, 60);
    /** A plate of 30 × 30 × 2 mm, 10 mm up, on a leg of 10 × 10 mm. */
    private static final Mesh TABLE = Shapes.together(Shapes.box(10, 10, 10.5).moved(10, 10, 0),
            Shapes.box(30, 30, 2).moved(0, 0, 10));
    /** Two posts of 6 × 20 mm, 12 mm apart, with a roof of 2 mm over both. */
    private static final Mesh GATE = Shapes.together(Shapes.box(6, 20, 10.5), Shapes.box(6, 20, 10.5).moved(18, 0, 0),
            Shapes.box(24, 20, 2).moved(0, 0, 10));

    @Test
    void a_fin_too_thin_for_two_lines_gets_a_single_one_as_wide_as_itself() {
        for (double thickness : new double[] {0.2, 0.25, 0.4, 0.5}) {
            Toolpath path = lay(Shapes.box(30, thickness, 1), PLAIN);
            assertThat(path.lengthMm(PathType.OUTER_WALL)).as("%s", thickness).isZero();
            double mm3 = mm3(path, PathType.THIN_LINE);
            assertThat(mm3).as("%s", thickness).isCloseTo(30 * thickness, within(30 * thickness * 0.01));
            assertThat(path.lengthMm(PathType.THIN_LINE)).isCloseTo(5 * 30, within(5 * 2.0));
        }
    }

    @Test
    void a_wall_that_gets_thinner_loses_its_lines_one_by_one_and_none_of_its_plastic() {
        // A wedge from 4 mm down to nothing over 40 mm: whatever its thickness, 100 % infill holds its volume.
        Mesh wedge = Shapes.extrusion(Shapes.polygon(0, 0, 40, 2, 0, 4), 1);
        Toolpath path = lay(wedge, new Recipe(0.2, 0.2, 0.4, 2, 0, 0, 1, InfillPattern.LINES, Adhesion.NONE, 60));
        assertThat(path.lengthMm(PathType.THIN_LINE)).isPositive();
        double mm3 = IntStream.range(0, PathType.values().length).mapToDouble(i -> mm3(path, PathType.values()[i])).sum();
        assertThat(mm3).isCloseTo(80, within(80 * 0.04));
    }

    @Test
    void a_fin_on_a_block_that_tapers_without_a_point_is_not_lost() {
        Mesh block = Shapes.extrusion(Shapes.polygon(0, 0, 20, 0, 20, 9.8, 40, 9.9, 40, 10.1, 20, 10.2, 20, 20, 0, 20), 1);
        Toolpath path = lay(block, PLAIN);
        assertThat(path.lengthMm(PathType.THIN_LINE) / 5).isBetween(17.0, 21.0);
    }

    @Test
    void the_time_of_a_cup_grows_with_its_wall_and_jumps_only_by_a_line_that_is_added() {
        Printer printer = BuiltIn.printer("standard").orElseThrow();
        Recipe recipe = StartingPoint.DAILY_BREAD.recipe(printer.nozzle(), printer.kinematics());
        double before = 0;
        int linesBefore = 0;
        for (int step = 40; step <= 400; step++) {
            double wall = step * 0.005;
            Toolpath path = lay(Shapes.revolution(new double[] {30 - wall, 0, 30, 0, 30, 1, 30 - wall, 1}, 256), recipe);
            Layer layer = path.layers().get(2);
            int lines = (int) IntStream.range(0, layer.pathCount()).filter(p -> layer.type(p) != PathType.TRAVEL).count();
            double seconds = Motion.of(path, recipe, printer, Progress.IGNORED).layers().get(2).seconds();
            assertThat(lines).as("lines at %.3f", wall).isLessThan(12);
            if (step > 40) {
                assertThat(seconds / before).as("time at %.3f", wall)
                        .isBetween(0.97, 1.03 + (lines > linesBefore ? 1.3 / lines : 0));
            }
            before = seconds;
            linesBefore = lines;
        }
    }

    @ParameterizedTest
    @EnumSource(mode = Mode.MATCH_NONE, names = {"STAR.*", "TAPER"})
    void lines_take_as_long_as_they_are_however_thick_the_wall(WallShapes shape) {
        Printer printer = BuiltIn.printer("standard").orElseThrow();
        Recipe daily = StartingPoint.DAILY_BREAD.recipe(printer.nozzle(), printer.kinematics()).with(Adhesion.NONE);
        double speed = daily.speedMmS(), before = 0;
        Recipe recipe = daily.with(new Pace(speed, speed, speed, 2000, 1, 0, 10));
        for (int step = 40; step <= 200; step++) {
            double wall = step * 0.005;
            Motion motion = Motion.of(lay(Shapes.extrusion((Polygon) shape.of(wall), 0.4), recipe), recipe, printer, Progress.IGNORED);
            double seconds = 0, length = 0;
            for (Motion.Share share : motion.byType().values()) {
                seconds += share.seconds();
                length += share.lengthMm();
            }
            double perMm = seconds / length;
            if (step > 40) {
                assertThat(perMm / before).as("%s at %.3f", shape, wall).isBetween(0.96, 1.04);
            }
            before = perMm;
        }
    }

    @Test
    void a_layer_of_one_open_line_begins_where_the_one_below_has_ended() {
        Toolpath path = lay(Shapes.box(30, 0.3, 2), PLAIN);
        for (int i = 1; i < path.layers().size(); i++) {
            Layer below = path.layers().get(i - 1), layer = path.layers().get(i);
            int last = below.pointCount() - 1;
            assertThat(Math.hypot(layer.x(0) - below.x(last), layer.y(0) - below.y(last))).isLessThan(0.01);
        }
    }

    @Test
    void what_is_too_thin_for_any_line_is_said() {
        Mesh fin = Shapes.box(30, 0.12, 4);
        assertThat(lay(fin, PLAIN).cautions()).containsExactly(
                "Walls thinner than 0.19 mm cannot be laid and are left out: 100 % of the part.");
        assertThat(lay(Shapes.together(Shapes.box(20, 20, 4), fin.moved(0, 30, 0)), PLAIN).cautions()).isEmpty();
        assertThat(lay(Shapes.box(30, 0.2, 4), PLAIN).cautions()).isEmpty();
    }

    @Test
    void without_thin_lines_a_fin_is_what_fits_of_its_walls() {
        Recipe recipe = PLAIN.with(LineWork.USUAL.withThinLines(false));
        assertThat(lay(Shapes.box(30, 0.25, 1), recipe).lengthMm(PathType.THIN_LINE)).isZero();
        // Two lines, each half as wide as the fin, on its way round.
        assertThat(lay(Shapes.box(30, 0.6, 1), recipe).lengthMm(PathType.OUTER_WALL))
                .isCloseTo(5 * 2 * (29.7 + 0.3), within(0.5));
    }

    @Test
    void a_roof_over_two_posts_is_laid_across_from_one_to_the_other() {
        Toolpath path = lay(GATE, PLAIN);
        Layer roof = path.layers().get(50);
        assertThat(roof.topMm()).isCloseTo(10.2, within(1e-9));
        assertThat(roof.lengthMm(PathType.BRIDGE)).isGreaterThan(12 * 18 / SPACING);
        for (int p = 0; p < roof.pathCount(); p++) {
            if (roof.type(p) == PathType.BRIDGE) {
                assertThat(roof.y(roof.start(p) + 1)).isCloseTo(roof.y(roof.start(p)), within(1e-6));
            }
        }
        assertThat(path.lengthMm(PathType.BRIDGE)).isEqualTo(roof.lengthMm(PathType.BRIDGE));
    }

    @Test
    void a_table_is_propped_up_to_one_gap_below_its_top() {
        Recipe recipe = PLAIN.with(Supports.of(Where.BED));
        Toolpath path = lay(TABLE, recipe);
        double density = 0.15, free = 30 * 30 - 10 * 10;
        double body = path.layers().get(10).lengthMm(PathType.SUPPORT) * SPACING / density;
        assertThat(body).as("area supported, less what is kept free around the leg").isBetween(free * 0.8, free);
        assertThat(path.layers().get(49).lengthMm(PathType.SUPPORT_FACE)).as("the gap").isZero();
        assertThat(path.layers().get(49).lengthMm(PathType.SUPPORT)).isZero();
        assertThat(path.layers().get(48).lengthMm(PathType.SUPPORT_FACE) * SPACING / 0.8).isBetween(free * 0.8, free);
        assertThat(path.layers().get(48).lengthMm(PathType.SUPPORT)).isZero();
        assertThat(path.layers().get(46).lengthMm(PathType.SUPPORT_FACE)).isZero();
        assertThat(path.layers().get(55).lengthMm(PathType.SUPPORT)).isZero();
    }

    @Test
    void supports_from_the_bed_leave_out_what_hangs_over_the_part_itself() {
        // A plate over a wider foot: nothing under it reaches the bed.
        Mesh spool = Shapes.together(Shapes.box(30, 30, 2), Shapes.box(10, 10, 10).moved(10, 10, 1),
                Shapes.box(28, 28, 2).moved(1, 1, 10));
        assertThat(lay(spool, PLAIN.with(Supports.of(Where.BED))).lengthMm(PathType.SUPPORT)).isZero();
        Toolpath everywhere = lay(spool, PLAIN.with(Supports.of(Where.EVERYWHERE)));
        assertThat(everywhere.layers().get(30).lengthMm(PathType.SUPPORT)).isPositive();
        assertThat(everywhere.layers().get(10).lengthMm(PathType.SUPPORT)).as("a gap above the foot").isZero();
    }

    @Test
    void a_cone_on_its_tip_needs_support_only_when_it_leans_out_farther_than_the_angle() {
        Mesh steep = Shapes.cone(2, 8, 10, 60), flat = Shapes.cone(2, 12, 5, 60);
        Recipe recipe = PLAIN.with(Supports.of(Where.BED));
        assertThat(lay(steep, recipe).lengthMm(PathType.SUPPORT)).as("31° from the vertical").isZero();
        assertThat(lay(flat, recipe).lengthMm(PathType.SUPPORT)).as("63°").isPositive();
        assertThat(lay(flat, recipe.with(Supports.of(Where.BED).withAngle(70))).lengthMm(PathType.SUPPORT)).isZero();
        assertThat(lay(steep, recipe.with(Supports.of(Where.BED).withAngle(20))).lengthMm(PathType.SUPPORT)).isPositive();
    }

    @Test
    void short_bridges_hold_without_support_and_long_ones_do_not() {
        Mesh narrow = Shapes.together(Shapes.box(6, 20, 10.5), Shapes.box(6, 20, 10.5).moved(14, 0, 0),
                Shapes.box(20, 20, 2).moved(0, 0, 10));
        Recipe recipe = PLAIN.with(Supports.of(Where.BED));
        assertThat(lay(narrow, recipe).lengthMm(PathType.SUPPORT)).isZero();
        assertThat(lay(GATE, recipe).lengthMm(PathType.SUPPORT)).isPositive();
    }

    @Test
    void boxes_block_and_enforce_supports_and_open_the_skin() {
        Zone half = Zone.box(-1, -1, 0, 15, 31, 12);
        double all = lay(TABLE, PLAIN.with(Supports.of(Where.BED))).lengthMm(PathType.SUPPORT);
        double blocked = lay(TABLE, PLAIN.with(Supports.of(Where.BED))
                .with(LineWork.USUAL.withZones(List.of(half.with(Zone.Support.BLOCKED))))).lengthMm(PathType.SUPPORT);
        assertThat(blocked / all).isBetween(0.4, 0.6);
        double only = lay(TABLE, PLAIN.with(LineWork.USUAL.withZones(List.of(half.with(Zone.Support.ENFORCED)))))
                .lengthMm(PathType.SUPPORT);
        assertThat(only / all).isBetween(0.4, 0.6);
        Recipe shallow = PLAIN.with(Supports.of(Where.BED).withAngle(89));
        Mesh cone = Shapes.cone(2, 12, 5, 60);
        assertThat(lay(cone, shallow.with(LineWork.USUAL.withZones(
                List.of(Zone.box(-20, -20, 0, 20, 20, 6).with(Zone.Support.ENFORCED))))).lengthMm(PathType.SUPPORT))
                .isPositive();
        Mesh box = Shapes.box(20, 20, 4);
        Toolpath open = lay(box, PLAIN.with(LineWork.USUAL.withZones(
                List.of(Zone.box(0, 0, 0, 10, 20, 5).withClosed(0, 0)))));
        double side = 20 - 0.4 - 3 * SPACING + 0.08;
        assertThat(open.layers().getLast().lengthMm(PathType.SOLID) * SPACING).isCloseTo(side * side / 2, within(4.0));
        Toolpath dense = lay(box, PLAIN.with(LineWork.USUAL.withZones(
                List.of(Zone.box(0, 0, 0, 10, 20, 5).withInfill(1)))));
        assertThat(dense.layers().get(10).lengthMm(PathType.INFILL) * SPACING)
                .isCloseTo(side * side * (1 + 0.15) / 2, within(8.0));
    }

    @Test
    void a_box_turns_with_the_part_it_was_drawn_on() {
        Zone box = Zone.box(0, 0, 0, 10, 20, 5).withClosed(0, 0);
        Recipe recipe = PLAIN.with(LineWork.USUAL.withZones(List.of(box)));
        Mesh plate = Shapes.box(20, 20, 2);
        double straight = lay(plate, recipe).lengthMm(PathType.SOLID);
        Mesh elsewhere = plate.moved(-35, 12, 0);
        assertThat(lay(elsewhere.turned(30), recipe.placed(elsewhere::bounds, 30)).lengthMm(PathType.SOLID))
                .isCloseTo(straight, within(straight * 0.03));
        Zone moved = box.placed(-35, 12, 30).moved(50, -8);
        assertThat(lay(elsewhere.turned(30).moved(50, -8, 0), recipe.with(LineWork.USUAL.withZones(List.of(moved))))
                .lengthMm(PathType.SOLID)).isCloseTo(straight, within(straight * 0.03));
        assertThat(lay(plate.scaled(2), recipe.scaled(2).with(Supports.NONE)).lengthMm(PathType.SOLID))
                .isCloseTo(lay(plate.scaled(2), recipe.with(LineWork.USUAL.withZones(
                        List.of(Zone.box(0, 0, 0, 20, 40, 10).withClosed(0, 0))))).lengthMm(PathType.SOLID), within(1e-6));
    }

    @Test
    void a_change_of_filament_lands_on_the_first_layer_that_begins_no_lower() {
        // Worked example (common practice, no source): 25.0 mm lands at 25.2 with 0.3 mm layers.
        Recipe recipe = new Recipe(0.3, 0.3, 0.6, 2, 3, 3, 0.1, InfillPattern.LINES, Adhesion.NONE, 60)
                .with(LineWork.USUAL.withChanges(List.of(25.0)));
        Toolpath path = lay(Shapes.box(10, 10, 30), recipe);
        assertThat(path.changes()).singleElement().satisfies(change -> {
            assertThat(change.landsAtMm()).isCloseTo(25.2, within(1e-9));
            assertThat(path.layers().get(change.layer() - 1).topMm()).isCloseTo(25.2, within(1e-9));
        });
    }

    @Test
    void a_purge_tower_grows_to_the_last_change_and_holds_what_is_purged_there() {
        Recipe recipe = PLAIN.with(LineWork.USUAL.withChanges(List.of(2.0)).withTower(60));
        Toolpath path = lay(Shapes.box(10, 10, 4), recipe);
        Layer change = path.layers().get(path.changes().getFirst().layer());
        assertThat(change.lengthMm(PathType.PURGE) * recipe.lineAreaMm2(0.2)).isCloseTo(60, within(6.0));
        assertThat(path.layers().get(path.changes().getFirst().layer() + 1).lengthMm(PathType.PURGE)).isZero();
    }

    @Test
    void a_spiral_is_one_wall_that_rises_above_a_closed_bottom() {
        Recipe recipe = PLAIN.with(LineWork.USUAL.asSpiral());
        Toolpath path = lay(Shapes.cylinder(10, 10, 60), recipe);
        Layer wall = path.layers().get(20);
        assertThat(wall.spiral()).isTrue();
        assertThat(wall.pathCount()).isEqualTo(1);
        assertThat(wall.lengthMm(PathType.OUTER_WALL)).isCloseTo(120 * (10 - SPACING / 2) * Math.sin(Math.PI / 60), within(0.1));
        assertThat(path.layers().get(2).lengthMm(PathType.SOLID)).isPositive();
    }

    @Test
    void layers_get_thinner_where_the_surface_gets_flatter() {
        Recipe recipe = PLAIN.with(LineWork.USUAL.withVariableLayers(true));
        Slices dome = Slices.of(Shapes.sphere(15, 80, 60), recipe, Progress.IGNORED);
        Slices box = Slices.of(Shapes.box(10, 10, 30), recipe, Progress.IGNORED);
        int middle = IntStream.range(0, dome.count()).filter(layer -> dome.stack().topMm(layer) > 15).findFirst().orElse(0);
        assertThat(dome.heightMm(dome.count() - 2)).isLessThan(0.12);
        assertThat(dome.heightMm(middle)).isGreaterThan(0.24);
        assertThat(box.heightMm(5)).isGreaterThan(0.24);
        double volume = IntStream.range(0, dome.count()).mapToDouble(l -> dome.areaMm2(l) * dome.heightMm(l)).sum();
        assertThat(volume).isCloseTo(4 / 3.0 * Math.PI * 3375, within(volume * 0.01));
    }

    @Test
    void seams_lie_at_the_back_or_in_the_sharpest_corner_or_all_over() {
        Mesh notched = Shapes.extrusion(Shapes.polygon(0, 0, 20, 0, 20, 20, 12, 20, 10, 12, 8, 20, 0, 20), 4);
        assertThat(seamY(lay(notched, PLAIN.with(LineWork.USUAL.withSeam(Seam.REAR))), 5)).isCloseTo(20 - SPACING / 2, within(0.01));
        Toolpath corner = lay(notched, PLAIN.with(LineWork.USUAL.withSeam(Seam.CORNER)));
        assertThat(seamY(corner, 5)).as("in the notch").isCloseTo(11.2, within(1.0));
        Mesh round = Shapes.cylinder(10, 4, 60);
        Toolpath spread = lay(round, PLAIN.with(LineWork.USUAL.withSeam(Seam.SPREAD)));
        assertThat(IntStream.range(1, 12).mapToDouble(layer -> Math.round(seamY(spread, layer))).distinct().count())
                .isGreaterThan(6);
    }

    @Test
    void infill_can_be_laid_in_several_or_wider_lines_for_the_same_plastic() {
        Mesh box = Shapes.box(40, 40, 4);
        double single = mm3(lay(box, PLAIN), PathType.INFILL);
        double doubled = mm3(lay(box, PLAIN.with(LineWork.USUAL.withInfillLines(2, 1))), PathType.INFILL);
        double wider = mm3(lay(box, PLAIN.with(LineWork.USUAL.withInfillLines(1, 1.5))), PathType.INFILL);
        assertThat(doubled).isCloseTo(single, within(single * 0.06));
        assertThat(wider).isCloseTo(single, within(single * 0.06));
    }

    @Test
    void ears_hold_the_corners_and_nothing_else() {
        Toolpath path = lay(Shapes.box(60, 40, 1), PLAIN.with(Adhesion.EARS));
        double disc = 12 * 64 * Math.sin(Math.PI / 12);
        assertThat(path.lengthMm(PathType.ADHESION) * SPACING).isCloseTo(4 * disc * 0.75, within(4 * disc * 0.06));
    }

    @Test
    void the_head_stays_inside_the_part_where_it_can_and_draws_back_where_it_cannot() {
        Mesh horseshoe = Shapes.extrusion((Polygon) Shapes.rectangle(0, 0, 20, 20).difference(
                Shapes.rectangle(8, 3, 12, 21)), 2);
        Mesh posts = Shapes.together(Shapes.box(4, 4, 2), Shapes.box(4, 4, 2).moved(30, 0, 0));
        Layer inside = lay(Shapes.box(20, 20, 2), PLAIN).layers().get(5);
        assertThat(IntStream.range(0, inside.pathCount()).anyMatch(inside::retracted)).isFalse();
        Layer apart = lay(posts, PLAIN).layers().get(5);
        assertThat(IntStream.range(0, apart.pathCount()).filter(apart::retracted).count()).isEqualTo(1);
        Layer bay = lay(horseshoe, PLAIN).layers().get(5);
        for (int p = 0; p < bay.pathCount(); p++) {
            for (int i = bay.start(p) + 1; bay.type(p) == PathType.TRAVEL && !bay.retracted(p) && i < bay.end(p); i++) {
                double x = (bay.x(i) + bay.x(i - 1)) / 2, y = (bay.y(i) + bay.y(i - 1)) / 2;
                assertThat(x > 8.01 && x < 11.99 && y > 3.01).as("%s, %s over the bay", x, y).isFalse();
            }
        }
    }

    private static double seamY(Toolpath path, int number) {
        Layer layer = path.layers().get(number);
        for (int p = 0; p < layer.pathCount(); p++) {
            if (layer.type(p) == PathType.OUTER_WALL) {
                return layer.y(layer.start(p));
            }
        }
        throw new AssertionError("no outer wall");
    }

    private static double mm3(Toolpath path, PathType type) {
        return path.layers().stream().mapToDouble(layer -> IntStream.range(0, layer.pathCount())
                .filter(p -> layer.type(p) == type)
                .mapToDouble(layer::mm3).sum()).sum();
    }

    private static Toolpath lay(Mesh mesh, Recipe recipe) {
        return Toolpath.of(mesh, recipe, Progress.IGNORED);
    }
}
