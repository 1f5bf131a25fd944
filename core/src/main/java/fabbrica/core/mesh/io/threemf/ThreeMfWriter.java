package fabbrica.core.mesh.io.threemf;

import fabbrica.core.mesh.io.Transform;
import fabbrica.core.mesh.model.Mesh;
import fabbrica.core.mesh.model.Rotation;
import java.io.BufferedWriter;
import java.io.IOException;
import java.io.OutputStream;
import java.io.OutputStreamWriter;
import java.io.Writer;
import java.nio.charset.StandardCharsets;
import java.util.List;
import java.util.zip.ZipEntry;
import java.util.zip.ZipOutputStream;

/** Writes 3MF packages in millimetres by the 3MF Core Specification 1.3: one object a model, one build item a copy. */
public final class ThreeMfWriter {

    private ThreeMfWriter() {
    }

    /**
     * A model and where its copies lie on the plate.
     *
     * @param copies at least one
     */
    public record Placed(Mesh mesh, String name, List<Copy> copies) {

        public static Placed asItLies(Mesh mesh, String name) {
            return new Placed(mesh, name, List.of(new Copy(Rotation.NONE, 0, 0, 0)));
        }
    }

    /** A rotation about the origin, then a translation in millimetres. */
    public record Copy(Rotation rotation, double dx, double dy, double dz) {
    }

    /** @param title of the whole, written as metadata */
    public static void write(List<Placed> plate, String title, OutputStream out) throws IOException {
        ZipOutputStream zip = new ZipOutputStream(out);
        Writer text = new BufferedWriter(new OutputStreamWriter(zip, StandardCharsets.UTF_8), 1 << 16);
        begin(zip, "[Content_Types].xml");
        text.write("""
                <?xml version="1.0" encoding="UTF-8"?>
                <Types xmlns="http://schemas.openxmlformats.org/package/2006/content-types">
                <Default Extension="rels" ContentType="application/vnd.openxmlformats-package.relationships+xml"/>
                <Default Extension="model" ContentType="application/vnd.ms-package.3dmanufacturing-3dmodel+xml"/>
                </Types>
                """);
        text.flush();
        begin(zip, "_rels/.rels");
        text.write("""
                <?xml version="1.0" encoding="UTF-8"?>
                <Relationships xmlns="http://schemas.openxmlformats.org/package/2006/relationships">
                <Relationship Id="rel0" Target="/3D/3dmodel.model" \
                Type="http://schemas.microsoft.com/3dmanufacturing/2013/01/3dmodel"/>
                </Relationships>
                """);
        text.flush();
        begin(zip, "3D/3dmodel.model");
        writeModel(plate, title, text);
        text.flush();
        zip.closeEntry();
        zip.finish();
    }

    private static void begin(ZipOutputStream zip, String name) throws IOException {
        ZipEntry entry = new ZipEntry(name);
        entry.setTime(315_532_800_000L);
        zip.putNextEntry(entry);
    }

    private static void writeModel(List<Placed> plate, String title, Writer text) throws IOException {
        text.write("<?xml version=\"1.0\" encoding=\"UTF-8\"?>\n<model unit=\"millimeter\" xml:lang=\"en\" "
                + "xmlns=\"http://schemas.microsoft.com/3dmanufacturing/core/2015/02\">\n");
        text.write("<metadata name=\"Title\">" + escaped(title) + "</metadata>\n<resources>\n");
        for (int i = 0; i < plate.size(); i++) {
            text.write("<object id=\"" + (i + 1) + "\" type=\"model\" name=\"" + escaped(plate.get(i).name())
                    + "\"><mesh><vertices>\n");
            writeMesh(plate.get(i).mesh(), text);
            text.write("</triangles></mesh></object>\n");
        }
        text.write("</resources>\n<build>\n");
        for (int i = 0; i < plate.size(); i++) {
            for (Copy copy : plate.get(i).copies()) {
                text.write("<item objectid=\"" + (i + 1) + "\" transform=\""
                        + Transform.of(copy.rotation(), copy.dx(), copy.dy(), copy.dz()).text() + "\"/>\n");
            }
        }
        text.write("</build>\n</model>\n");
    }

    private static void writeMesh(Mesh mesh, Writer text) throws IOException {
        for (int v = 0; v < mesh.vertexCount(); v++) {
            text.write("<vertex x=\"" + mesh.x(v) + "\" y=\"" + mesh.y(v) + "\" z=\"" + mesh.z(v) + "\"/>\n");
        }
        text.write("</vertices><triangles>\n");
        for (int t = 0; t < mesh.triangleCount(); t++) {
            text.write("<triangle v1=\"" + mesh.corner(t, 0) + "\" v2=\"" + mesh.corner(t, 1) + "\" v3=\""
                    + mesh.corner(t, 2) + "\"/>\n");
        }
    }

    private static String escaped(String text) {
        return text.replaceAll("\\p{Cntrl}", " ").replace("&", "&amp;").replace("<", "&lt;").replace("\"", "&quot;");
    }
}
