package fabbrica.core.mesh.io.threemf;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import fabbrica.core.inspect.Bodies.Body;
import fabbrica.core.inspect.Soundness;
import fabbrica.core.mesh.io.ModelArchive;
import fabbrica.core.mesh.io.ModelFiles;
import fabbrica.core.mesh.io.ModelReading.ReadModel;
import fabbrica.core.mesh.io.ModelReading.UnreadableModel;
import fabbrica.core.mesh.io.ModelSource;
import fabbrica.core.mesh.model.Bounds;
import fabbrica.core.mesh.model.Rotation;
import fabbrica.core.mesh.model.Shapes;
import fabbrica.core.units.LengthUnit;
import java.io.ByteArrayOutputStream;
import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.util.List;
import java.util.zip.ZipEntry;
import java.util.zip.ZipOutputStream;
import org.junit.jupiter.api.Test;

/** By the text and the examples of the 3MF Core Specification 1.3 and the Production Extension 1.1. */
class ThreeMfReaderTest {

    private static final long LIMIT = 1_000_000;
    private static final String RELATIONS = "<Relationships xmlns=\"http://schemas.openxmlformats.org/package/2006/"
            + "relationships\"><Relationship Id=\"r\" Target=\"/3D/main.model\" "
            + "Type=\"http://schemas.microsoft.com/3dmanufacturing/2013/01/3dmodel\"/></Relationships>";
    /** A corner of a cube with sides of one: volume 1/6. */
    private static final String TETRAHEDRON = "<mesh><vertices><vertex x=\"0\" y=\"0\" z=\"0\"/><vertex x=\"1\" y=\"0\" "
            + "z=\"0\"/><vertex x=\"0\" y=\"1\" z=\"0\"/><vertex x=\"0\" y=\"0\" z=\"1\"/></vertices><triangles>"
            + "<triangle v1=\"0\" v2=\"2\" v3=\"1\"/><triangle v1=\"0\" v2=\"1\" v3=\"3\"/><triangle v1=\"0\" v2=\"3\" "
            + "v3=\"2\"/><triangle v1=\"1\" v2=\"2\" v3=\"3\"/></triangles></mesh>";

    @Test
    void items_are_placed_scaled_and_mirrored_by_their_transforms() throws IOException {
        ReadModel read = readable(model("centimeter", "<object id=\"1\" type=\"model\">" + TETRAHEDRON + "</object>",
                "<item objectid=\"1\" transform=\"2 0 0 0 2 0 0 0 2 10 0 0\"/>"
                        + "<item objectid=\"1\" transform=\"-1 0 0 0 1 0 0 0 1 -5 0 0\"/>"));
        assertThat(read.declaredUnit()).contains(LengthUnit.CENTIMETRE);
        List<Body> bodies = Soundness.of(read.mesh()).bodies();
        assertThat(bodies).hasSize(2);
        assertThat(bodies.get(0).signedVolumeMm3()).isCloseTo(8 / 6.0, within(1e-12));
        assertThat(bodies.get(0).bounds().minX()).isCloseTo(10, within(1e-12));
        assertThat(bodies.get(1).signedVolumeMm3()).as("mirrored, yet wound outwards").isCloseTo(1 / 6.0, within(1e-12));
        assertThat(bodies.get(1).bounds().minX()).isCloseTo(-6, within(1e-12));
    }

    @Test
    void components_are_nested_with_the_inner_transform_first() throws IOException {
        ReadModel read = readable(model("millimeter", "<object id=\"1\">" + TETRAHEDRON + "</object>"
                + "<object id=\"2\"><components><component objectid=\"1\" transform=\"1 0 0 0 1 0 0 0 1 3 0 0\"/>"
                + "</components></object>", "<item objectid=\"2\" transform=\"0 1 0 -1 0 0 0 0 1 0 0 0\"/>"));
        Bounds bounds = read.mesh().bounds();
        assertThat(bounds.minY()).as("moved along x, then turned by a quarter").isCloseTo(3, within(1e-12));
        assertThat(bounds.minX()).isCloseTo(-1, within(1e-12));
    }

    @Test
    void objects_may_stand_in_another_part_with_a_unit_of_its_own() throws IOException {
        String other = "<model unit=\"inch\"><resources><object id=\"7\">" + TETRAHEDRON
                + "</object></resources><build/></model>";
        ReadModel read = readable(pack("_rels/.rels", RELATIONS, "3D/other.model", other, "3D/main.model",
                "<model unit=\"millimeter\" xmlns:p=\"http://schemas.microsoft.com/3dmanufacturing/production/2015/06\">"
                        + "<resources/><build><item objectid=\"7\" p:path=\"/3D/other.model\"/></build></model>"));
        assertThat(read.mesh().bounds().sizeZ()).isCloseTo(25.4, within(1e-9));
    }

    @Test
    void a_plate_is_written_with_its_copies_and_read_back() throws IOException {
        ByteArrayOutputStream out = new ByteArrayOutputStream();
        ThreeMfWriter.write(List.of(new ThreeMfWriter.Placed(Shapes.box(10, 20, 30), "box", List.of(
                new ThreeMfWriter.Copy(Rotation.NONE, 5, 5, 0),
                new ThreeMfWriter.Copy(Rotation.bringingDown(1, 0, 0), 100, 5, 10)))), "Two boxes", out);
        Bounds bounds = readable(out.toByteArray()).mesh().bounds();
        assertThat(bounds.minX()).isCloseTo(5, within(1e-6));
        assertThat(bounds.maxX()).as("laid on its side").isCloseTo(130, within(1e-6));
    }

    @Test
    void packages_that_break_the_rules_are_refused_with_a_sentence() throws IOException {
        assertThat(reason(pack("3D/main.model", "<model/>"))).isEqualTo("The package does not say which part is its model.");
        assertThat(reason(pack("_rels/.rels", RELATIONS))).contains("which is not in it");
        assertThat(reason(model("parsec", "", ""))).contains("“parsec” is not one of 3MF's");
        assertThat(reason(model("inch", "<object id=\"1\">" + TETRAHEDRON.replace("v3=\"3\"", "v3=\"8\"") + "</object>",
                ""))).contains("names vertex 8; there are 4");
        assertThat(reason(model("inch", "", "<item objectid=\"4\"/>"))).contains("names object 4");
        assertThat(reason(model("inch", "<object id=\"1\">" + TETRAHEDRON + "</object>",
                "<item objectid=\"1\" transform=\"1 0 0\"/>"))).contains("3 numbers in place of 12");
        assertThat(reason(model("inch", "<object id=\"1\"><mesh></object>", ""))).contains("damaged at line");
    }

    @Test
    void objects_that_contain_themselves_end_in_a_refusal() throws IOException {
        assertThat(reason(model("inch", "<object id=\"1\"><components><component objectid=\"1\"/></components></object>",
                "<item objectid=\"1\"/>"))).contains("nested in one another without end");
        StringBuilder doubling = new StringBuilder("<object id=\"0\">" + TETRAHEDRON + "</object>");
        for (int i = 1; i < 60; i++) {
            doubling.append("<object id=\"%d\"><components><component objectid=\"%d\"/><component objectid=\"%d\"/>"
                    .formatted(i, i - 1, i - 1)).append("</components></object>");
        }
        assertThat(reason(model("inch", doubling.toString(), "<item objectid=\"59\"/>"))).contains("more than any printer");
    }

    @Test
    void a_part_that_swells_beyond_the_limit_is_refused_while_it_is_read() throws IOException {
        String spaces = " ".repeat(5_000_000);
        assertThat(reason(model("inch", "<a/>".repeat(1_250_000), ""))).contains("unpacks to more than the limit");
        assertThat(reason(pack("_rels/.rels", RELATIONS, "Metadata/thumbnail.png", spaces, "3D/main.model", "<model/>")))
                .contains("unpacks to more than the limit");
    }

    @Test
    void a_package_is_a_model_and_not_an_archive_of_files() throws IOException {
        byte[] file = model("millimeter", "<object id=\"1\">" + TETRAHEDRON + "</object>", "<item objectid=\"1\"/>");
        assertThat(ModelArchive.isArchive(ModelSource.of("upload", file))).isFalse();
        assertThat(ModelArchive.isArchive(ModelSource.of("upload", pack("a.stl", "solid")))).isTrue();
        assertThat(ModelArchive.isArchive(ModelSource.of("upload", pack("car.model", "x", "a.stl", "solid")))).isTrue();
    }

    private static byte[] model(String unit, String objects, String items) throws IOException {
        return pack("_rels/.rels", RELATIONS, "3D/main.model", "<model unit=\"" + unit + "\"><resources>" + objects
                + "</resources><build>" + items + "</build></model>");
    }

    private static byte[] pack(String... namesAndContents) throws IOException {
        ByteArrayOutputStream out = new ByteArrayOutputStream();
        try (ZipOutputStream zip = new ZipOutputStream(out)) {
            for (int i = 0; i < namesAndContents.length; i += 2) {
                zip.putNextEntry(new ZipEntry(namesAndContents[i]));
                zip.write(namesAndContents[i + 1].getBytes(StandardCharsets.UTF_8));
            }
        }
        return out.toByteArray();
    }

    private static ReadModel readable(byte[] file) {
        return (ReadModel) ModelFiles.read(ModelSource.of("part.3mf", file), LIMIT);
    }

    private static String reason(byte[] file) {
        return ((UnreadableModel) ModelFiles.read(ModelSource.of("part.3mf", file), LIMIT)).reason();
    }
}
