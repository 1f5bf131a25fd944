package fabbrica.core.mesh.io.ply;

import fabbrica.core.mesh.model.Mesh;
import java.io.BufferedOutputStream;
import java.io.IOException;
import java.io.OutputStream;
import java.nio.ByteBuffer;
import java.nio.ByteOrder;
import java.nio.charset.StandardCharsets;

/** Writes PLY, binary little-endian, with double coordinates. */
public final class PlyWriter {

    private PlyWriter() {
    }

    /** @param title one line of text, written as a comment */
    public static void write(Mesh mesh, String title, OutputStream out) throws IOException {
        BufferedOutputStream buffered = new BufferedOutputStream(out, 1 << 16);
        buffered.write("""
                ply
                format binary_little_endian 1.0
                comment %s
                element vertex %d
                property double x
                property double y
                property double z
                element face %d
                property list uchar int vertex_indices
                end_header
                """.formatted(title.replaceAll("[^ -~]", " "), mesh.vertexCount(), mesh.triangleCount())
                .getBytes(StandardCharsets.US_ASCII));
        ByteBuffer vertex = ByteBuffer.allocate(24).order(ByteOrder.LITTLE_ENDIAN);
        for (int v = 0; v < mesh.vertexCount(); v++) {
            buffered.write(vertex.clear().putDouble(mesh.x(v)).putDouble(mesh.y(v)).putDouble(mesh.z(v)).array());
        }
        ByteBuffer face = ByteBuffer.allocate(13).order(ByteOrder.LITTLE_ENDIAN);
        for (int t = 0; t < mesh.triangleCount(); t++) {
            buffered.write(face.clear().put((byte) 3).putInt(mesh.corner(t, 0)).putInt(mesh.corner(t, 1))
                    .putInt(mesh.corner(t, 2)).array());
        }
        buffered.flush();
    }
}
