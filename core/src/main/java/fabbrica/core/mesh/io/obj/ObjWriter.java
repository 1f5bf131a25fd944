package fabbrica.core.mesh.io.obj;

import fabbrica.core.mesh.model.Mesh;
import java.io.BufferedWriter;
import java.io.IOException;
import java.io.OutputStream;
import java.io.OutputStreamWriter;
import java.io.Writer;
import java.nio.charset.StandardCharsets;

/** Writes Wavefront OBJ with vertices and triangles; coordinates keep every digit. */
public final class ObjWriter {

    private ObjWriter() {
    }

    /** @param title a line of text, written as a comment and as the object's name */
    public static void write(Mesh mesh, String title, OutputStream out) throws IOException {
        Writer text = new BufferedWriter(new OutputStreamWriter(out, StandardCharsets.UTF_8), 1 << 16);
        String name = title.replaceAll("\\s+", " ");
        text.write("# " + name + "\no " + name.replace(' ', '_') + "\n");
        for (int v = 0; v < mesh.vertexCount(); v++) {
            text.write("v " + mesh.x(v) + " " + mesh.y(v) + " " + mesh.z(v) + "\n");
        }
        for (int t = 0; t < mesh.triangleCount(); t++) {
            text.write("f " + (mesh.corner(t, 0) + 1) + " " + (mesh.corner(t, 1) + 1) + " " + (mesh.corner(t, 2) + 1)
                    + "\n");
        }
        text.flush();
    }
}
