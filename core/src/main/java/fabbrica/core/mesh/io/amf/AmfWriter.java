package fabbrica.core.mesh.io.amf;

import fabbrica.core.mesh.model.Mesh;
import java.io.BufferedWriter;
import java.io.IOException;
import java.io.OutputStream;
import java.io.OutputStreamWriter;
import java.io.Writer;
import java.nio.charset.StandardCharsets;

/** Writes AMF (ISO/ASTM 52915) in millimetres as plain XML, one object of one volume. */
public final class AmfWriter {

    private AmfWriter() {
    }

    /** @param title written as the object's name */
    public static void write(Mesh mesh, String title, OutputStream out) throws IOException {
        Writer text = new BufferedWriter(new OutputStreamWriter(out, StandardCharsets.UTF_8), 1 << 16);
        String name = title.replaceAll("\\p{Cntrl}", " ").replace("&", "&amp;").replace("<", "&lt;");
        text.write("<?xml version=\"1.0\" encoding=\"UTF-8\"?>\n<amf unit=\"millimeter\" version=\"1.1\">\n"
                + "<object id=\"1\"><metadata type=\"name\">" + name + "</metadata><mesh><vertices>\n");
        for (int v = 0; v < mesh.vertexCount(); v++) {
            text.write("<vertex><coordinates><x>" + mesh.x(v) + "</x><y>" + mesh.y(v) + "</y><z>" + mesh.z(v)
                    + "</z></coordinates></vertex>\n");
        }
        text.write("</vertices><volume>\n");
        for (int t = 0; t < mesh.triangleCount(); t++) {
            text.write("<triangle><v1>" + mesh.corner(t, 0) + "</v1><v2>" + mesh.corner(t, 1) + "</v2><v3>"
                    + mesh.corner(t, 2) + "</v3></triangle>\n");
        }
        text.write("</volume></mesh></object>\n</amf>\n");
        text.flush();
    }
}
