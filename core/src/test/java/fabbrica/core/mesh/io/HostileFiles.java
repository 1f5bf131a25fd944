package fabbrica.core.mesh.io;

import java.io.ByteArrayOutputStream;
import java.io.IOException;
import java.io.OutputStreamWriter;
import java.io.UncheckedIOException;
import java.io.Writer;
import java.nio.charset.StandardCharsets;
import java.util.LinkedHashMap;
import java.util.Map;
import java.util.function.Supplier;
import java.util.zip.Deflater;
import java.util.zip.ZipEntry;
import java.util.zip.ZipOutputStream;

/** Small files that ask for much, each by its name; models, and G-code where the name ends so. */
public final class HostileFiles {

    private static final String CUBE = "<vertices>" + "<vertex x=\"0\" y=\"0\" z=\"0\"/><vertex x=\"1\" y=\"0\" z=\"0\"/>"
            + "<vertex x=\"1\" y=\"1\" z=\"0\"/><vertex x=\"0\" y=\"1\" z=\"0\"/><vertex x=\"0\" y=\"0\" z=\"1\"/>"
            + "<vertex x=\"1\" y=\"0\" z=\"1\"/><vertex x=\"1\" y=\"1\" z=\"1\"/><vertex x=\"0\" y=\"1\" z=\"1\"/></vertices>";
    private static final int[][] FACES = {{0, 2, 1}, {0, 3, 2}, {4, 5, 6}, {4, 6, 7}, {0, 1, 5}, {0, 5, 4}, {1, 2, 6}, {1, 6, 5},
            {2, 3, 7}, {2, 7, 6}, {3, 0, 4}, {3, 4, 7}};

    private HostileFiles() {
    }

    private interface Content {
        void write(Writer out) throws IOException;
    }

    public static Map<String, Supplier<byte[]>> all() {
        Map<String, Supplier<byte[]>> files = new LinkedHashMap<>();
        files.put("cubes-nested.3mf", () -> threeMf(xml -> nestedCubes(xml, 10, 50_000)));
        files.put("cubes-in-a-row.3mf", () -> threeMf(xml -> nestedCubes(xml, 1, 90_000)));
        files.put("cubes-on-one-another.3mf", () -> threeMf(xml -> columnOfCubes(xml, 60_000)));
        files.put("comment.3mf", () -> threeMf(xml -> repeat(xml.append("<model><!--"), "comment ", 100_000_000).append("--></model>")));
        files.put("attribute.3mf", () -> threeMf(xml -> repeat(xml.append("<model unit=\""), "millimeter", 80_000_000).append("\"/>")));
        files.put("comment-of-60-MB.amf", () -> text(xml -> repeat(xml.append("<amf unit=\"inch\"><!--"), "c", 60_000_000).append("--></amf>")));
        files.put("attribute-of-60-MB.amf", () -> text(xml -> repeat(xml.append("<amf unit=\""), "c", 60_000_000).append("\"></amf>")));
        files.put("instances.amf", () -> text(HostileFiles::instances));
        files.put("objects.amf", () -> text(HostileFiles::objectsInConstellations));
        files.put("faces-without-properties.ply", () -> text(ply -> ply.append(
                "ply\nformat ascii 1.0\nelement vertex 3\nproperty float x\nproperty float y\nproperty float z\n"
                        + "element face 2147483647\nelement other 2147483647\nend_header\n0 0 0\n1 0 0\n0 1 0\n")));
        files.put("vertices-without-properties.ply", () -> text(ply -> ply.append(
                "ply\nformat ascii 1.0\nelement vertex 2147483647\nend_header\n")));
        files.put("elements.ply", () -> text(ply -> repeat(ply.append("ply\nformat ascii 1.0\n"), "element e 0\n", 3_000_000)
                .append("end_header\n")));
        files.put("continued.obj", () -> text(obj -> repeat(obj.append("v 0 0 0\n"), "\\\n", 1_500_000)));
        files.put("wide-faces.obj", () -> text(obj -> {
            repeat(obj, "v 0 1 2\nv 1 0 5\nv 7 3 1\n", 100);
            for (int i = 0; i < 5000; i++) {
                repeat(obj.append("f"), " 1 2 3", 100).append("\n");
            }
        }));
        files.put("one-line.stl", () -> text(stl -> repeat(stl.append("solid "), "x", 150_000_000)));
        files.put("one-line.gcode", () -> text(gcode -> repeat(gcode.append("G1 "), "X", 150_000_000)));
        files.put("arcs.gcode", () -> text(gcode -> {
            gcode.append("G28\nG1 X0 Y0 Z1 E1\n");
            for (int i = 0; i < 20_000; i++) {
                gcode.append(i % 2 == 0 ? "G2 X1 Y0 I1000000 J0 E1\n" : "G3 X0 Y0 I1000000 J0 E1\n");
            }
        }));
        return files;
    }

    private static void nestedCubes(Writer xml, int inner, int outer) throws IOException {
        cubes(xml, inner);
        for (int i = 0; i < outer; i++) {
            xml.append("<item objectid=\"2\" transform=\"1 0 0 0 1 0 0 0 1 " + 2 * i + " 0 0\"/>");
        }
        xml.append("</build></model>");
    }

    /** A cube, so many of them in a row as one object, and the start of the build. */
    private static void cubes(Writer xml, int inner) throws IOException {
        xml.append("<model xmlns=\"http://schemas.microsoft.com/3dmanufacturing/core/2015/02\"><resources><object id=\"1\"><mesh>").append(CUBE)
                .append("<triangles>");
        for (int[] face : FACES) {
            xml.append("<triangle v1=\"%d\" v2=\"%d\" v3=\"%d\"/>".formatted(face[0], face[1], face[2]));
        }
        xml.append("</triangles></mesh></object><object id=\"2\"><components>");
        for (int i = 0; i < inner; i++) {
            xml.append("<component objectid=\"1\" transform=\"1 0 0 0 1 0 0 0 1 0 " + 2 * i + " 0\"/>");
        }
        xml.append("</components></object></resources><build>");
    }

    private static void columnOfCubes(Writer xml, int cubes) throws IOException {
        cubes(xml, 1);
        for (int i = 0; i < cubes; i++) {
            xml.append("<item objectid=\"1\" transform=\"1 0 0 0 1 0 0 0 1 0 0 " + 2 * i + "\"/>");
        }
        xml.append("</build></model>");
    }

    private static void instances(Writer xml) throws IOException {
        xml.append("<amf><object id=\"1\"><mesh><vertices>");
        repeat(xml, "<vertex><coordinates><x>0</x><y>1</y><z>2</z></coordinates></vertex><vertex><coordinates><x>5</x><y>1</y><z>2</z>"
                + "</coordinates></vertex><vertex><coordinates><x>0</x><y>1</y><z>9</z></coordinates></vertex>", 1);
        xml.append("</vertices><volume>");
        repeat(xml, "<triangle><v1>0</v1><v2>1</v2><v3>2</v3></triangle>", 5000);
        xml.append("</volume></mesh></object><constellation id=\"2\">");
        repeat(xml, "<instance objectid=\"1\"><deltax>1</deltax></instance>", 20_000);
        xml.append("</constellation></amf>");
    }

    private static void objectsInConstellations(Writer xml) throws IOException {
        xml.append("<amf>");
        for (int i = 0; i < 40_000; i++) {
            xml.append("<object id=\"a-rather-long-name-of-an-object-" + i + "\"/>");
        }
        xml.append("<constellation id=\"2\">");
        for (int i = 0; i < 40_000; i++) {
            xml.append("<instance objectid=\"a-rather-long-name-of-an-object-" + (39_999 - i) + "\"/>");
        }
        xml.append("</constellation></amf>");
    }

    private static Writer repeat(Writer into, String what, int times) throws IOException {
        int atOnce = Math.max(1, (1 << 16) / what.length());
        String many = what.repeat(atOnce);
        for (int i = 0; i < times / atOnce; i++) {
            into.append(many);
        }
        return into.append(what.repeat(times % atOnce));
    }

    private static byte[] text(Content content) {
        ByteArrayOutputStream bytes = new ByteArrayOutputStream();
        try (Writer out = new OutputStreamWriter(bytes, StandardCharsets.ISO_8859_1)) {
            content.write(out);
        } catch (IOException e) {
            throw new UncheckedIOException(e);
        }
        return bytes.toByteArray();
    }

    private static byte[] threeMf(Content model) {
        ByteArrayOutputStream bytes = new ByteArrayOutputStream();
        try (ZipOutputStream zip = new ZipOutputStream(bytes)) {
            zip.setLevel(Deflater.BEST_COMPRESSION);
            zip.putNextEntry(new ZipEntry("_rels/.rels"));
            zip.write(("<Relationships><Relationship Target=\"/3D/model.model\" Type=\"http://schemas.microsoft.com/3dmanufacturing/"
                    + "2013/01/3dmodel\"/></Relationships>").getBytes(StandardCharsets.US_ASCII));
            zip.putNextEntry(new ZipEntry("3D/model.model"));
            Writer out = new OutputStreamWriter(zip, StandardCharsets.ISO_8859_1);
            model.write(out);
            out.flush();
        } catch (IOException e) {
            throw new UncheckedIOException(e);
        }
        return bytes.toByteArray();
    }
}
