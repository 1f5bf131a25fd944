package fabbrica.core.gcode;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import fabbrica.core.inspect.Measures;
import fabbrica.core.inspect.Soundness;
import fabbrica.core.mesh.model.Bounds;
import fabbrica.core.mesh.model.Mesh;
import fabbrica.core.mesh.model.Shapes;
import fabbrica.core.printing.Printed;
import fabbrica.core.recipe.Adhesion;
import fabbrica.core.recipe.BuiltIn;
import fabbrica.core.recipe.Printer;
import fabbrica.core.recipe.Recipe;
import fabbrica.core.recipe.StartingPoint;
import fabbrica.core.toolpath.Toolpath;
import fabbrica.core.units.Progress;
import java.io.ByteArrayInputStream;
import java.io.ByteArrayOutputStream;
import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.util.List;
import java.util.Random;
import org.junit.jupiter.api.Test;
import org.locationtech.jts.geom.Polygon;

/** Against the solids that the files were made from. */
class LaidShapeTest {

    private static final Printer PRINTER = BuiltIn.printer("standard").orElseThrow();
    private static final Recipe DAILY = StartingPoint.DAILY_BREAD.recipe(PRINTER.nozzle(), PRINTER.kinematics());

    @Test
    void a_box_lies_where_the_file_lays_it_as_large_as_it_was_and_needs_few_triangles() throws IOException {
        Mesh laid = shape(sliced(Shapes.box(40, 30, 12), DAILY.with(Adhesion.BRIM)));
        Bounds box = laid.bounds();
        assertThat(box.minX()).isCloseTo(60, within(0.1));
        assertThat(box.minY()).isCloseTo(80, within(0.1));
        assertThat(box.minZ()).isZero();
        assertThat(box.sizeX()).isCloseTo(40, within(0.1));
        assertThat(box.sizeY()).isCloseTo(30, within(0.1));
        assertThat(box.sizeZ()).isCloseTo(12, within(0.11));
        assertThat(laid.triangleCount()).isLessThan(200);
        assertThat(Soundness.of(laid).watertight()).isTrue();
    }

    @Test
    void holes_and_slopes_are_kept_where_the_file_says_which_lines_are_walls() throws IOException {
        Mesh tube = Shapes.extrusion((Polygon) Shapes.disc(0, 0, 15, 64).difference(Shapes.disc(0, 0, 8, 64)), 10);
        assertThat(volume(shape(sliced(tube, DAILY)))).isCloseTo(volume(tube), within(0.03 * volume(tube)));
        Mesh cone = Shapes.cone(16, 4, 24, 64);
        assertThat(volume(shape(sliced(cone, DAILY)))).isCloseTo(volume(cone), within(0.03 * volume(cone)));
    }

    @Test
    void without_a_word_on_its_lines_it_is_the_hull_of_all() throws IOException {
        String mute = new String(sliced(Shapes.box(40, 30, 4), DAILY), StandardCharsets.UTF_8).replaceAll(";.*", "");
        Bounds box = shape(mute.getBytes(StandardCharsets.UTF_8)).bounds();
        assertThat(box.sizeX()).as("with the skirt around it").isGreaterThan(39);
        assertThat(volume(shape(mute.getBytes(StandardCharsets.UTF_8)))).isGreaterThan(0.95 * 40 * 30 * 4);
    }

    @Test
    void parts_that_are_printed_one_after_another_stand_side_by_side() throws IOException {
        Toolpath low = Toolpath.of(Shapes.box(15, 15, 4), DAILY, Progress.IGNORED);
        Toolpath high = Toolpath.of(Shapes.box(15, 15, 9).moved(60, 0, 0), DAILY, Progress.IGNORED);
        Mesh laid = shape(written(Toolpath.oneAfterAnother(List.of(high, low)), DAILY));
        assertThat(volume(laid)).isCloseTo(15 * 15 * (4 + 9), within(0.03 * 15 * 15 * 13));
        assertThat(laid.bounds().sizeX()).isCloseTo(75, within(0.2));
    }

    @Test
    void a_spiral_is_as_high_and_as_wide_as_it_was() throws IOException {
        Mesh vase = Shapes.cone(16, 12, 30, 64);
        Mesh laid = shape(sliced(vase, DAILY.with(DAILY.lines().asSpiral())));
        assertThat(volume(laid)).isCloseTo(volume(vase), within(0.05 * volume(vase)));
    }

    @Test
    void islands_within_holes_are_kept() throws IOException {
        Polygon ring = (Polygon) Shapes.disc(0, 0, 20, 64).difference(Shapes.disc(0, 0, 14, 64));
        Mesh target = Shapes.together(Shapes.extrusion(ring, 4), Shapes.extrusion(Shapes.disc(0, 0, 8, 64), 4));
        assertThat(volume(shape(sliced(target, DAILY)))).isCloseTo(volume(target), within(0.03 * volume(target)));
    }

    @Test
    void a_scribble_of_a_hundred_thousand_lines_that_calls_itself_a_wall_has_a_shape_as_well() throws IOException {
        StringBuilder scribble = new StringBuilder("; outer wall\nG28\nG92 E0\nG1 Z0.2 F600\n");
        Random chance = new Random(7);
        for (int i = 1; i <= 100_000; i++) {
            scribble.append("G1 X").append(50 + chance.nextInt(100)).append(" Y").append(50 + chance.nextInt(100)).append(" E").append(i).append('\n');
        }
        assertThat(shape(scribble.toString().getBytes(StandardCharsets.UTF_8)).bounds().sizeX()).isCloseTo(100, within(3.0));
    }

    @Test
    void a_file_that_lays_nothing_has_no_shape() throws IOException {
        assertThat(shape("G28\nG1 X10 Y10 F3000\n".getBytes(StandardCharsets.UTF_8)).triangleCount()).isZero();
    }

    @Test
    void the_start_of_a_file_tells_whether_it_is_g_code() {
        assertThat(starts("; made by hand\nG28")).isTrue();
        assertThat(starts("\uFEFF\n\n  g28 x0")).isTrue();
        assertThat(starts("%\nN10 G21")).isTrue();
        assertThat(starts("solid cube")).isFalse();
        assertThat(starts("# drawn\nv 0 0 0")).isFalse();
        assertThat(starts("g wheel\nv 0 0 0")).isFalse();
        assertThat(starts("G28\0\0")).isFalse();
        assertThat(starts("")).isFalse();
    }

    private static boolean starts(String text) {
        return GcodeReader.looksLikeGcode(text.getBytes(StandardCharsets.UTF_8));
    }

    private static Mesh shape(byte[] gcode) throws IOException {
        return LaidShape.of(new ByteArrayInputStream(gcode));
    }

    private static double volume(Mesh mesh) {
        return Measures.of(mesh, mesh.bounds()).volumeMm3();
    }

    /** Its middle at 80, 95 mm. */
    private static byte[] sliced(Mesh mesh, Recipe recipe) throws IOException {
        Bounds box = mesh.bounds();
        Mesh middled = mesh.moved(-(box.minX() + box.maxX()) / 2, -(box.minY() + box.maxY()) / 2, -box.minZ());
        return written(Toolpath.of(middled, recipe, Progress.IGNORED), recipe);
    }

    private static byte[] written(Toolpath lines, Recipe recipe) throws IOException {
        ByteArrayOutputStream out = new ByteArrayOutputStream();
        Printed.file(lines, recipe, PRINTER, 80, 95).write(out);
        return out.toByteArray();
    }
}
