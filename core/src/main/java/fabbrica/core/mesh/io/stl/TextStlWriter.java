package fabbrica.core.mesh.io.stl;

import fabbrica.core.mesh.model.Mesh;
import java.io.BufferedWriter;
import java.io.IOException;
import java.io.OutputStream;
import java.io.OutputStreamWriter;
import java.nio.charset.StandardCharsets;

/** Writes text STL; coordinates are rounded to float32. */
public final class TextStlWriter {

    private TextStlWriter() {
    }

    public static void write(Mesh mesh, String title, OutputStream out) throws IOException {
        BufferedWriter writer = new BufferedWriter(new OutputStreamWriter(out, StandardCharsets.US_ASCII));
        writer.write("solid " + title + "\n");
        for (int t = 0; t < mesh.triangleCount(); t++) {
            writer.write("  facet normal 0 0 0\n    outer loop\n");
            for (int corner = 0; corner < 3; corner++) {
                int vertex = mesh.corner(t, corner);
                writer.write("      vertex %s %s %s\n".formatted((float) mesh.x(vertex), (float) mesh.y(vertex),
                        (float) mesh.z(vertex)));
            }
            writer.write("    endloop\n  endfacet\n");
        }
        writer.write("endsolid " + title + "\n");
        writer.flush();
    }
}
