package fabbrica.core.mesh.io;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import fabbrica.core.inspect.Measures;
import fabbrica.core.inspect.Soundness;
import fabbrica.core.mesh.io.ModelReading.ReadModel;
import fabbrica.core.mesh.io.ModelReading.UnreadableModel;
import fabbrica.core.mesh.model.Mesh;
import fabbrica.core.mesh.model.Shapes;
import fabbrica.core.units.LengthUnit;
import java.io.ByteArrayInputStream;
import java.io.ByteArrayOutputStream;
import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.util.Arrays;
import java.util.List;
import java.util.Random;
import java.util.zip.ZipEntry;
import java.util.zip.ZipOutputStream;
import org.apache.commons.geometry.euclidean.threed.BoundarySource3D;
import org.apache.commons.geometry.io.core.input.StreamGeometryInput;
import org.apache.commons.geometry.io.core.output.StreamGeometryOutput;
import org.apache.commons.geometry.io.euclidean.threed.GeometryFormat3D;
import org.apache.commons.geometry.io.euclidean.threed.IO3D;
import org.apache.commons.numbers.core.Precision;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import org.junit.jupiter.params.provider.EnumSource;
import org.junit.jupiter.params.provider.EnumSource.Mode;

/**
 * Every format against itself and, for STL and OBJ, against Apache Commons Geometry, a general-purpose library that
 * knows nothing of this project.
 */
class FormatsTest {

    private static final long LIMIT = 50_000_000;
    private static final Mesh PART = Shapes.revolution(new double[] {8, 0, 10, 0, 12.3456, 20, 8, 20}, 48);

    @ParameterizedTest
    @EnumSource(mode = Mode.EXCLUDE, names = "GCODE")
    void what_is_written_is_read_back_the_same(ModelFormat format) throws IOException {
        ReadModel read = readable("part", written(PART, format));
        assertThat(read.format()).isEqualTo(format);
        assertThat(read.mesh().triangleCount()).isEqualTo(PART.triangleCount());
        assertThat(read.mesh().vertexCount()).isEqualTo(PART.vertexCount());
        assertThat(Soundness.of(read.mesh()).watertight()).isTrue();
        Measures before = Measures.of(PART, PART.bounds()), after = Measures.of(read.mesh(), read.mesh().bounds());
        assertThat(after.volumeMm3()).isCloseTo(before.volumeMm3(), within(before.volumeMm3() * 1e-6));
        assertThat(after.bedContactAreaMm2()).isCloseTo(before.bedContactAreaMm2(), within(1e-3));
    }

    @ParameterizedTest
    @EnumSource(names = {"OBJ", "PLY", "AMF", "THREE_MF"})
    void formats_with_full_numbers_keep_every_digit(ModelFormat format) throws IOException {
        Mesh read = readable("part", written(PART, format)).mesh();
        for (int t = 0; t < PART.triangleCount(); t++) {
            assertThat(read.x(read.corner(t, 1))).isEqualTo(PART.x(PART.corner(t, 1)));
        }
    }

    @ParameterizedTest
    @CsvSource({"STL_BINARY, STL", "STL_TEXT, STL", "OBJ, OBJ"})
    void another_library_reads_what_is_written(ModelFormat format, GeometryFormat3D theirs) throws IOException {
        BoundarySource3D read = IO3D.read(new StreamGeometryInput(new ByteArrayInputStream(written(PART, format))), theirs,
                Precision.doubleEquivalenceOfEpsilon(1e-6));
        double volume = read.triangleStream().mapToDouble(t -> t.getPoint1().dot(t.getPoint2().cross(t.getPoint3())) / 6)
                .sum();
        assertThat(volume).isCloseTo(Measures.of(PART, PART.bounds()).volumeMm3(), within(0.05));
    }

    @ParameterizedTest
    @CsvSource({"STL, STL_BINARY", "OBJ, OBJ"})
    void what_another_library_writes_is_read(GeometryFormat3D theirs, ModelFormat format) throws IOException {
        BoundarySource3D source = IO3D.read(new StreamGeometryInput(new ByteArrayInputStream(
                written(PART, ModelFormat.OBJ))), GeometryFormat3D.OBJ, Precision.doubleEquivalenceOfEpsilon(1e-6));
        ByteArrayOutputStream out = new ByteArrayOutputStream();
        IO3D.write(source, new StreamGeometryOutput(out), theirs);
        ReadModel read = readable("theirs", out.toByteArray());
        assertThat(read.format()).isIn(format, ModelFormat.STL_TEXT);
        assertThat(Measures.of(read.mesh(), read.mesh().bounds()).volumeMm3())
                .isCloseTo(Measures.of(PART, PART.bounds()).volumeMm3(), within(0.05));
    }

    @Test
    void a_polygon_with_a_corner_beyond_all_measure_is_refused_with_the_file() {
        assertThat(reason("far.obj", "v 0 0 0\nv 2 0 0\nv 1e300 0 0\nv 0 2 1e300\nv 1 1 1\nf 1 2 3 4 5\n"))
                .contains("no part is that large");
    }

    @Test
    void obj_polygons_count_from_the_start_or_back_and_go_on_over_lines() {
        Mesh read = readable("l.obj", """
                # an L, one face of six corners
                mtllib any.mtl
                o part one
                v 0 0 0
                v 2 0 0
                v 2 1 0
                v 1 1 0
                v 1 2 0
                v 0 2 0
                vn 0 0 1
                vt 0 0
                g side
                f -6/1/1 -5/1/1 \\
                  -4//1 4 5 6
                """).mesh();
        assertThat(read.triangleCount()).isEqualTo(4);
        assertThat(Measures.of(read, read.bounds()).areaMm2()).isCloseTo(3, within(1e-12));
    }

    @ParameterizedTest
    @CsvSource(delimiter = '|', value = {
        "f 1 2 9|Line 4 names vertex 9; 3 are known so far.",
        "f 1 2 0|Line 4 names vertex 0; 3 are known so far.",
        "f 1 2|Line 4 holds a face of fewer than three corners.",
        "f 1 b 3|Line 4 holds “b” where the number of a vertex belongs.",
        "v 1 2|Line 4 has fewer than three coordinates.",
        "curv 0 1 1 2|Line 4 holds a free-form curve or surface (“curv”): export the model as polygons.",
        "face 1 2 3|Line 4 starts with “face”, which OBJ does not know."})
    void broken_obj_is_refused_with_its_line(String line, String sentence) {
        assertThat(reason("x.obj", "v 0 0 0\nv 1 0 0\nv 0 1 0\n" + line + "\nf 1 2 3\n")).isEqualTo(sentence);
    }

    @Test
    void coordinates_beyond_any_part_are_refused() {
        assertThat(reason("far.obj", "v 0 0 0\nv 1e300 0 0\nv 0 1 0\nf 1 2 3\n")).contains("no part is that large");
    }

    @Test
    void ply_as_text_takes_any_properties_in_any_order() {
        Mesh read = readable("p.ply", """
                ply
                format ascii 1.0
                comment made by hand
                element vertex 4
                property float nx
                property double z
                property float y
                property float x
                property uchar red
                element edge 1
                property int a
                property int b
                element face 1
                property uchar flags
                property list uchar int vertex_index
                end_header
                0 5 0 0 255
                0 5 0 2 255
                0 5 3 2 255
                0 5 3 0 255
                0 1
                7 4 0 1 2 3
                """).mesh();
        assertThat(read.triangleCount()).isEqualTo(2);
        assertThat(read.bounds().sizeX()).isEqualTo(2);
        assertThat(read.bounds().sizeY()).isEqualTo(3);
        assertThat(read.bounds().minZ()).isEqualTo(5);
    }

    @Test
    void ply_in_big_endian_is_the_same_model_with_its_bytes_turned_round() throws IOException {
        byte[] little = written(Shapes.box(1, 2, 3), ModelFormat.PLY);
        String header = new String(little, StandardCharsets.ISO_8859_1);
        int body = header.indexOf("end_header\n") + 11;
        byte[] big = header.substring(0, body).replace("little", "big").getBytes(StandardCharsets.ISO_8859_1);
        int start = big.length;
        big = Arrays.copyOf(big, start + little.length - body);
        for (int at = body; at < little.length;) {
            int[] widths = at < body + 8 * 24 ? new int[] {8} : new int[] {1, 4, 4, 4};
            for (int width : widths) {
                for (int i = 0; i < width; i++) {
                    big[start + at - body + i] = little[at + width - 1 - i];
                }
                at += width;
            }
        }
        assertThat(Measures.of(readable("b.ply", big).mesh(), readable("b.ply", big).mesh().bounds()).volumeMm3())
                .isCloseTo(6, within(1e-12));
    }

    @ParameterizedTest
    @CsvSource(delimiter = '|', value = {
        "element vertex 3|element vertex 4|The file ends before all the elements its header announces: it was cut short.",
        "3 0 1 2|3 0 1 7|Face 1 names vertex 7; there are 3.",
        "3 0 1 2|2 0 1|Face 1 has fewer than three corners.",
        "end_header|end|Line 9 starts with “end”, which a PLY header does not know.",
        "property float x|property quad x|Line 4 names a type “quad” that PLY does not know.",
        "element face 1|element face -1|Line 7 announces a number of elements that cannot be.",
        "0 1 0|0 inf 0|Line 12 holds “inf” where a number belongs."})
    void broken_ply_is_refused(String right, String wrong, String sentence) {
        String good = "ply\nformat ascii 1.0\nelement vertex 3\nproperty float x\nproperty float y\nproperty float z\n"
                + "element face 1\nproperty list uchar int vertex_indices\nend_header\n0 0 0\n1 0 0\n0 1 0\n3 0 1 2\n";
        assertThat(readable("t.ply", good).mesh().triangleCount()).isEqualTo(1);
        assertThat(reason("t.ply", good.replace(right, wrong))).isEqualTo(sentence);
    }

    @Test
    void a_cloud_of_points_is_no_model() {
        assertThat(reason("c.ply", "ply\nformat ascii 1.0\nelement vertex 1\nproperty float x\nproperty float y\n"
                + "property float z\nend_header\n1 2 3\n")).contains("a cloud of points");
    }

    @Test
    void amf_keeps_its_unit_its_volumes_and_its_constellation() throws IOException {
        String tetrahedron = "<mesh><vertices>" + vertex(0, 0, 0) + vertex(6, 0, 0) + vertex(0, 6, 0) + vertex(0, 0, 6)
                + "</vertices><volume>" + triangle(0, 2, 1) + triangle(0, 1, 3) + "</volume><volume>"
                + triangle(1, 2, 3) + triangle(2, 0, 3) + "</volume></mesh>";
        String amf = "<?xml version=\"1.0\"?><amf unit=\"inch\"><object id=\"a\">" + tetrahedron + "</object>"
                + "<constellation id=\"c\"><instance objectid=\"a\"><deltax>10</deltax><rz>90</rz></instance>"
                + "<instance objectid=\"a\"><deltay>-20</deltay></instance></constellation></amf>";
        for (byte[] file : List.of(amf.getBytes(StandardCharsets.UTF_8), zip("part.amf", amf))) {
            ReadModel read = readable("part.amf", file);
            assertThat(read.declaredUnit()).contains(LengthUnit.INCH);
            assertThat(read.mesh().triangleCount()).isEqualTo(8);
            assertThat(read.mesh().bounds().minX()).as("turned, then moved").isCloseTo(0, within(1e-9));
            assertThat(read.mesh().bounds().maxX()).isCloseTo(10, within(1e-9));
            assertThat(read.mesh().bounds().minY()).isCloseTo(-20, within(1e-9));
        }
    }

    @Test
    void xml_with_a_doctype_is_refused_and_no_entity_is_followed() {
        assertThat(reason("x.amf", "<!DOCTYPE amf [<!ENTITY a SYSTEM \"file:///etc/passwd\">]><amf><object id=\"1\">"
                + "<metadata>&a;</metadata></object></amf>")).contains("DOCTYPE");
        StringBuilder laughs = new StringBuilder("<!DOCTYPE amf [<!ENTITY l0 \"ha\">");
        for (int i = 1; i < 30; i++) {
            laughs.append("<!ENTITY l").append(i).append(" \"").append(("&l" + (i - 1) + ";").repeat(10)).append("\">");
        }
        assertThat(reason("x.amf", laughs + "]><amf>&l29;</amf>")).contains("DOCTYPE");
    }

    @ParameterizedTest
    @EnumSource(names = {"OBJ", "PLY", "AMF", "THREE_MF"})
    void mutated_files_are_read_or_refused_but_never_break_a_reader(ModelFormat format) throws IOException {
        byte[] good = written(Shapes.box(2, 3, 4), format);
        long end = System.nanoTime() + Long.getLong("fuzz.seconds", 1) * 1_000_000_000;
        Random chance = new Random(format.ordinal());
        for (int round = 0; round < 2000 || System.nanoTime() < end; round++) {
            byte[] bad = Arrays.copyOf(good, round % 3 == 0 ? chance.nextInt(good.length) : good.length);
            for (int hit = 0; hit < 1 + round % 7 && bad.length > 0; hit++) {
                bad[chance.nextInt(bad.length)] = (byte) (round % 2 == 0 ? chance.nextInt(256) : ' ' + chance.nextInt(95));
            }
            ModelReading reading = ModelFiles.read(ModelSource.of("bad", bad), LIMIT);
            assertThat(reading instanceof ReadModel || ((UnreadableModel) reading).reason().length() > 10).isTrue();
        }
    }

    static byte[] written(Mesh mesh, ModelFormat format) throws IOException {
        ByteArrayOutputStream out = new ByteArrayOutputStream();
        ModelWriters.write(mesh, format, "a <part> & \"more\"", out);
        return out.toByteArray();
    }

    static byte[] zip(String... namesAndContents) throws IOException {
        ByteArrayOutputStream out = new ByteArrayOutputStream();
        try (ZipOutputStream zip = new ZipOutputStream(out)) {
            for (int i = 0; i < namesAndContents.length; i += 2) {
                zip.putNextEntry(new ZipEntry(namesAndContents[i]));
                zip.write(namesAndContents[i + 1].getBytes(StandardCharsets.UTF_8));
            }
        }
        return out.toByteArray();
    }

    private static String vertex(double x, double y, double z) {
        return "<vertex><coordinates><x>%s</x><y>%s</y><z>%s</z></coordinates></vertex>".formatted(x, y, z);
    }

    private static String triangle(int a, int b, int c) {
        return "<triangle><v1>%d</v1><v2>%d</v2><v3>%d</v3></triangle>".formatted(a, b, c);
    }

    static ReadModel readable(String name, byte[] content) {
        ModelReading reading = ModelFiles.read(ModelSource.of(name, content), LIMIT);
        assertThat(reading).isInstanceOf(ReadModel.class);
        return (ReadModel) reading;
    }

    private static ReadModel readable(String name, String content) {
        return readable(name, content.getBytes(StandardCharsets.UTF_8));
    }

    static String reason(String name, byte[] content) {
        return ((UnreadableModel) ModelFiles.read(ModelSource.of(name, content), LIMIT)).reason();
    }

    private static String reason(String name, String content) {
        return reason(name, content.getBytes(StandardCharsets.UTF_8));
    }
}
