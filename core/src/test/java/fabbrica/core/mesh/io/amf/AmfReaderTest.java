package fabbrica.core.mesh.io.amf;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import fabbrica.core.inspect.Bodies.Body;
import fabbrica.core.inspect.Soundness;
import fabbrica.core.mesh.io.ModelFiles;
import fabbrica.core.mesh.io.ModelReading.ReadModel;
import fabbrica.core.mesh.io.ModelReading.UnreadableModel;
import fabbrica.core.mesh.io.ModelSource;
import fabbrica.core.mesh.model.Bounds;
import fabbrica.core.units.LengthUnit;
import java.nio.charset.StandardCharsets;
import java.util.List;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

/** By the text of ISO/ASTM 52915:2020, clauses on units, volumes and constellations. */
class AmfReaderTest {

    private static final String VERTICES = "<vertices>" + vertex(0, 0, 0) + vertex(1, 0, 0) + vertex(0, 1, 0) + vertex(0, 0, 1) + "</vertices>";
    private static final String FACES = triangle(0, 2, 1) + triangle(0, 1, 3) + triangle(0, 3, 2) + triangle(1, 2, 3);
    /** A corner of a cube with sides of one: volume 1/6. */
    private static final String TETRAHEDRON = "<mesh>" + VERTICES + "<volume>" + FACES + "</volume></mesh>";

    @Test
    void an_object_that_no_constellation_names_lies_as_drawn_in_the_unit_of_the_file() {
        ReadModel read = read("<amf unit=\"inch\"><metadata type=\"name\">corner</metadata>" + object("1", TETRAHEDRON) + "</amf>");
        assertThat(read.declaredUnit()).contains(LengthUnit.INCH);
        assertThat(volumes(read)).containsExactly(1 / 6.0);
        assertThat(read("<amf>" + object("1", TETRAHEDRON) + "</amf>").declaredUnit()).as("millimetres unless it says otherwise")
                .contains(LengthUnit.MILLIMETRE);
    }

    @Test
    void volumes_of_an_object_share_its_vertices() {
        String two = "<mesh>" + VERTICES.replace("</vertices>", vertex(0, 0, -1) + "</vertices>") + "<volume>" + FACES + "</volume><volume>"
                + triangle(0, 1, 2) + triangle(0, 4, 1) + triangle(0, 2, 4) + triangle(1, 4, 2) + "</volume></mesh>";
        assertThat(volumes(read("<amf>" + object("1", two) + "</amf>"))).hasSize(2).allSatisfy(volume -> assertThat(volume).isCloseTo(1 / 6.0, within(1e-12)));
    }

    @Test
    void an_instance_is_turned_about_x_then_y_then_z_and_then_moved() {
        // The corner (1, 0, 0): about y by 90° it points down, about z nothing changes that.
        Bounds bounds = read("<amf>" + object("1", TETRAHEDRON) + "<constellation id=\"2\"><instance objectid=\"1\"><deltaz>5</deltaz><ry>90</ry><rz>90</rz>"
                + "</instance></constellation></amf>").mesh().bounds();
        assertThat(bounds.minZ()).isCloseTo(4, within(1e-12));
        assertThat(bounds.maxZ()).isCloseTo(5, within(1e-12));
        // (0, 1, 0) goes to (-1, 0, 0), and (0, 0, 1) by y to (1, 0, 0), by z to (0, 1, 0).
        assertThat(bounds.minX()).isCloseTo(-1, within(1e-12));
        assertThat(bounds.maxY()).isCloseTo(1, within(1e-12));
    }

    @Test
    void constellations_of_constellations_place_all_they_name() {
        ReadModel read = read("<amf>" + object("1", TETRAHEDRON) + "<constellation id=\"pair\">" + moved("1", 0) + moved("1", 3) + "</constellation>"
                + "<constellation id=\"all\">" + moved("pair", 0) + moved("pair", 10) + "</constellation></amf>");
        assertThat(Soundness.of(read.mesh()).bodies().stream().map(body -> Math.round(body.bounds().minX()))).containsExactlyInAnyOrder(0L, 3L, 10L, 13L);
    }

    @ParameterizedTest
    @CsvSource(delimiter = '|', value = {
        "<amf><object id=\"1\">MESH</object><constellation id=\"2\"><instance objectid=\"9\"/></constellation></amf> | names object 9, which is not in the file",
        "<amf><object id=\"1\">MESH</object><object id=\"1\">MESH</object></amf> | object 1 is there twice",
        "<amf><constellation id=\"1\"><instance objectid=\"2\"/></constellation><constellation id=\"2\"><instance objectid=\"1\"/></constellation></amf> | in a circle",
        "<amf><object id=\"1\"><mesh><vertices><vertex><coordinates><x>1</x><y>2</y></coordinates></vertex></vertices></mesh></object></amf> | lacks a coordinate",
        "<amf><object id=\"1\"><mesh><vertices/><volume><triangle><v1>0</v1><v2>1</v2><v3>2</v3></triangle></volume></mesh></object></amf> | there are 0",
        "<amf><object>MESH</object></amf> | id",
        "<html/> | "})
    void what_is_no_model_is_refused_with_what_is_wrong(String file, String reason) {
        UnreadableModel read = (UnreadableModel) ModelFiles.read(ModelSource.of("part.amf", file.replace("MESH", TETRAHEDRON)
                .getBytes(StandardCharsets.UTF_8)), 1_000_000);
        assertThat(read.reason()).contains(reason == null ? "" : reason).endsWith(".");
    }

    private static String vertex(int x, int y, int z) {
        return "<vertex><coordinates><x>%d</x><y>%d</y><z>%d</z></coordinates></vertex>".formatted(x, y, z);
    }

    private static String triangle(int a, int b, int c) {
        return "<triangle><v1>%d</v1><v2>%d</v2><v3>%d</v3></triangle>".formatted(a, b, c);
    }

    private static String object(String id, String mesh) {
        return "<object id=\"%s\">%s</object>".formatted(id, mesh);
    }

    private static String moved(String id, int x) {
        return "<instance objectid=\"%s\"><deltax>%d</deltax></instance>".formatted(id, x);
    }

    private static ReadModel read(String file) {
        return (ReadModel) ModelFiles.read(ModelSource.of("part.amf", file.getBytes(StandardCharsets.UTF_8)), 1_000_000);
    }

    private static List<Double> volumes(ReadModel read) {
        return Soundness.of(read.mesh()).bodies().stream().map(Body::signedVolumeMm3).toList();
    }
}
