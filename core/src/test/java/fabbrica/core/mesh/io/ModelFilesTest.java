package fabbrica.core.mesh.io;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import fabbrica.core.inspect.Inspection;
import fabbrica.core.mesh.io.ModelReading.ReadModel;
import fabbrica.core.mesh.io.ModelReading.UnreadableModel;
import fabbrica.core.mesh.io.stl.BinaryStlWriter;
import fabbrica.core.mesh.io.stl.TextStlWriter;
import fabbrica.core.mesh.model.Mesh;
import fabbrica.core.mesh.model.Shapes;
import java.io.ByteArrayOutputStream;
import java.io.IOException;
import java.nio.ByteBuffer;
import java.nio.ByteOrder;
import java.nio.charset.StandardCharsets;
import java.util.Arrays;
import java.util.Random;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

/** The binary layout: 80 + 4 + 50·n bytes, little-endian (the published description of the format, 1989). */
class ModelFilesTest {

    private static final long LIMIT = 10_000_000;
    private static final String TRIANGLE = "solid part\nfacet normal 0 0 1\nouter loop\nvertex 0 0 0\nvertex 1 0 0\n"
            + "vertex 0 1 0\nendloop\nendfacet\nendsolid part\n";

    @Test
    void a_binary_stl_keeps_every_triangle_and_welds_its_corners() throws IOException {
        Mesh sphere = Shapes.sphere(10, 24, 12);
        ReadModel read = readable("sphere.stl", binary(sphere, "made by hand"));
        assertThat(read.format()).isEqualTo(ModelFormat.STL_BINARY);
        assertThat(read.mesh().triangleCount()).isEqualTo(sphere.triangleCount());
        assertThat(read.mesh().vertexCount()).isEqualTo(sphere.vertexCount());
        assertThat(read.declaredUnit()).isEmpty();
    }

    @Test
    void text_and_binary_of_one_model_give_the_same_mesh() throws IOException {
        Mesh cone = Shapes.cone(7, 2, 11, 17);
        ByteArrayOutputStream text = new ByteArrayOutputStream();
        TextStlWriter.write(cone, "cone", text);
        ReadModel fromText = readable("cone.stl", text.toByteArray());
        ReadModel fromBinary = readable("cone.stl", binary(cone, "cone"));
        assertThat(fromText.format()).isEqualTo(ModelFormat.STL_TEXT);
        assertThat(Inspection.of(fromText.mesh())).usingRecursiveComparison()
                .isEqualTo(Inspection.of(fromBinary.mesh()));
    }

    @Test
    void a_binary_file_that_starts_with_solid_is_recognised_by_its_length() throws IOException {
        assertThat(readable("x.stl", binary(Shapes.box(1, 2, 3), "solid but binary")).format())
                .isEqualTo(ModelFormat.STL_BINARY);
    }

    @Test
    void the_content_decides_and_not_the_extension() throws IOException {
        assertThat(readable("model.txt", TRIANGLE.getBytes(StandardCharsets.US_ASCII)).mesh().triangleCount())
                .isEqualTo(1);
        assertThat(reason("picture.stl", "\u0089PNG and so on".repeat(20))).contains("announces");
        assertThat(reason("letter.pdf", "%PDF-1.7 ".repeat(20))).contains("not a model");
    }

    @Test
    void text_may_hold_several_solids_in_any_case_and_spacing() throws IOException {
        String two = TRIANGLE.toUpperCase() + "\n\n  " + TRIANGLE.replace("\n", "\r\n   ");
        assertThat(readable("two.stl", two.getBytes(StandardCharsets.US_ASCII)).mesh().triangleCount()).isEqualTo(2);
    }

    @Test
    void an_empty_file_says_so() {
        assertThat(reason("empty.stl", "")).isEqualTo("The file is empty: it has 0 bytes.");
    }

    @Test
    void a_truncated_file_says_how_much_is_missing() throws IOException {
        byte[] whole = binary(Shapes.box(1, 1, 1), "box");
        assertThat(reason("cut.stl", Arrays.copyOf(whole, whole.length - 120)))
                .contains("announces 12 triangles").contains("room for 9");
    }

    @Test
    void a_header_that_lies_about_the_count_is_refused_either_way() throws IOException {
        byte[] more = binary(Shapes.box(1, 1, 1), "box");
        ByteBuffer.wrap(more).order(ByteOrder.LITTLE_ENDIAN).putInt(80, 2_000_000_000);
        assertThat(reason("more.stl", more)).contains("2\u202f000\u202f000\u202f000 triangles");
        byte[] fewer = binary(Shapes.box(1, 1, 1), "box");
        ByteBuffer.wrap(fewer).order(ByteOrder.LITTLE_ENDIAN).putInt(80, 3);
        assertThat(reason("fewer.stl", fewer)).contains("announces 3 triangles");
    }

    @Test
    void a_corner_that_is_not_a_finite_number_is_refused_with_its_triangle() throws IOException {
        byte[] broken = binary(Shapes.box(1, 1, 1), "box");
        ByteBuffer.wrap(broken).order(ByteOrder.LITTLE_ENDIAN).putFloat(84 + 50 * 4 + 12, Float.NaN);
        assertThat(reason("nan.stl", broken)).startsWith("Triangle 5 has a corner that is not a finite number");
    }

    @Test
    void a_model_without_triangles_is_refused() throws IOException {
        assertThat(reason("none.stl", binary(new Mesh(new double[0], new int[0]), "none")))
                .contains("without a single triangle");
        assertThat(reason("none.stl", "solid none\nendsolid none\n")).contains("without a single triangle");
    }

    @Test
    void a_file_over_the_limit_names_both_sizes() {
        UnreadableModel refused = (UnreadableModel) ModelFiles.read(
                ModelSource.of("big.stl", new byte[3 * 1024 * 1024]), 2 * 1024 * 1024);
        assertThat(refused.reason()).isEqualTo("The file has 3 MB; the limit is 2 MB.");
    }

    @ParameterizedTest
    @CsvSource(delimiter = '|', value = {
        "vertex 0 1 0|vertex 0 1,5 0|Line 6 holds “1,5” where a number belongs.",
        "vertex 0 1 0|vertex 0 NaN 0|Line 6 holds a coordinate that is not a finite number.",
        "vertex 0 1 0|vertex 0 1|Line 6 has fewer than three coordinates.",
        "vertex 0 1 0|vertexes|Line 6 starts with “vertexes”, which STL does not know.",
        "vertex 0 1 0||Line 8 ends a facet that does not have three corners.",
        "endfacet|facet|Line 8 starts a facet where none may start.",
        "endsolid part|outer loop|Line 9 holds a loop outside a facet."})
    void broken_text_is_refused_with_its_line(String right, String wrong, String reason) {
        assertThat(reason("text.stl", TRIANGLE.replace(right, wrong == null ? "" : wrong))).isEqualTo(reason);
    }

    @Test
    void text_that_ends_early_is_refused() {
        assertThat(reason("text.stl", TRIANGLE.substring(0, TRIANGLE.indexOf("vertex 0 1")))).contains("cut short");
        assertThat(reason("text.stl", TRIANGLE.replace("endsolid part\n", ""))).contains("without its endsolid");
    }

    @Test
    void mutated_files_are_read_or_refused_but_never_break_the_reader() throws IOException {
        Random chance = new Random(11);
        ByteArrayOutputStream text = new ByteArrayOutputStream();
        TextStlWriter.write(Shapes.box(2, 3, 4), "box", text);
        for (byte[] good : new byte[][] {binary(Shapes.box(2, 3, 4), "box"), text.toByteArray()}) {
            for (int round = 0; round < 3000; round++) {
                byte[] bad = Arrays.copyOf(good, round % 3 == 0 ? chance.nextInt(good.length) : good.length);
                for (int hit = 0; hit < 1 + round % 5 && bad.length > 0; hit++) {
                    bad[chance.nextInt(bad.length)] = (byte) chance.nextInt(256);
                }
                assertThat(ModelFiles.read(ModelSource.of("bad.stl", bad), LIMIT)).isNotNull();
            }
        }
    }

    @Test
    void coordinates_survive_to_float_precision() throws IOException {
        Inspection written = Inspection.of(readable("s.stl", binary(Shapes.sphere(33.3, 40, 20), "s")).mesh());
        assertThat(written.measures().volumeMm3())
                .isCloseTo(Inspection.of(Shapes.sphere(33.3, 40, 20)).measures().volumeMm3(), within(0.1));
    }

    private static byte[] binary(Mesh mesh, String title) throws IOException {
        ByteArrayOutputStream out = new ByteArrayOutputStream();
        BinaryStlWriter.write(mesh, title, out);
        return out.toByteArray();
    }

    private static ReadModel readable(String name, byte[] content) {
        return (ReadModel) ModelFiles.read(ModelSource.of(name, content), LIMIT);
    }

    private static String reason(String name, String content) {
        return reason(name, content.getBytes(StandardCharsets.ISO_8859_1));
    }

    private static String reason(String name, byte[] content) {
        return ((UnreadableModel) ModelFiles.read(ModelSource.of(name, content), LIMIT)).reason();
    }
}
