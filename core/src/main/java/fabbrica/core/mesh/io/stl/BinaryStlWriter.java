package fabbrica.core.mesh.io.stl;

import fabbrica.core.mesh.model.Mesh;
import java.io.BufferedOutputStream;
import java.io.IOException;
import java.io.OutputStream;
import java.nio.ByteBuffer;
import java.nio.ByteOrder;
import java.nio.charset.StandardCharsets;

/** Writes binary STL with unit normals; coordinates are rounded to float32. */
public final class BinaryStlWriter {

    private BinaryStlWriter() {
    }

    /** @param title up to 80 characters of ASCII; should not start with "solid" */
    public static void write(Mesh mesh, String title, OutputStream out) throws IOException {
        BufferedOutputStream buffered = new BufferedOutputStream(out, 1 << 16);
        ByteBuffer head = ByteBuffer.allocate(BinaryStlReader.HEADER_BYTES).order(ByteOrder.LITTLE_ENDIAN);
        byte[] ascii = title.getBytes(StandardCharsets.US_ASCII);
        head.put(ascii, 0, Math.min(80, ascii.length)).putInt(80, mesh.triangleCount());
        buffered.write(head.array());
        ByteBuffer facet = ByteBuffer.allocate(BinaryStlReader.TRIANGLE_BYTES).order(ByteOrder.LITTLE_ENDIAN);
        double[] normal = new double[3];
        for (int t = 0; t < mesh.triangleCount(); t++) {
            mesh.normal(t, normal);
            double length = Math.sqrt(normal[0] * normal[0] + normal[1] * normal[1] + normal[2] * normal[2]);
            facet.clear();
            for (double component : normal) {
                facet.putFloat((float) (length == 0 ? 0 : component / length));
            }
            for (int corner = 0; corner < 3; corner++) {
                int vertex = mesh.corner(t, corner);
                facet.putFloat((float) mesh.x(vertex)).putFloat((float) mesh.y(vertex))
                        .putFloat((float) mesh.z(vertex));
            }
            buffered.write(facet.putShort((short) 0).array());
        }
        buffered.flush();
    }
}
