package fabbrica.core.mesh.io.stl;

import fabbrica.core.mesh.io.ModelFormatException;
import fabbrica.core.mesh.io.ModelSource;
import fabbrica.core.mesh.model.Mesh;
import fabbrica.core.mesh.model.MeshBuilder;
import fabbrica.core.units.Spoken;
import java.io.IOException;
import java.io.InputStream;
import java.lang.invoke.MethodHandles;
import java.lang.invoke.VarHandle;
import java.nio.ByteOrder;

/**
 * Reads binary STL: an 80-byte header of any content, a little-endian triangle count, then 50 bytes a triangle
 * (normal, three corners as float32, two attribute bytes). Stored normals are ignored: the winding decides.
 */
public final class BinaryStlReader {

    /** Header and count. */
    public static final int HEADER_BYTES = 84;
    public static final int TRIANGLE_BYTES = 50;

    private static final int COUNT_AT = 80;
    private static final int CORNERS_AT = 12;
    private static final int CORNER_BYTES = 12;
    private static final int CHUNK_TRIANGLES = 4096;
    private static final VarHandle FLOAT =
            MethodHandles.byteArrayViewVarHandle(float[].class, ByteOrder.LITTLE_ENDIAN);
    private static final VarHandle INT = MethodHandles.byteArrayViewVarHandle(int[].class, ByteOrder.LITTLE_ENDIAN);

    private BinaryStlReader() {
    }

    /** Whether the count in the header explains the file's length exactly, whatever the header's first word is. */
    public static boolean lengthFits(byte[] head, long length) {
        return head.length >= HEADER_BYTES && expectedLength(head) == length;
    }

    public static String lengthProblem(byte[] head, long length) {
        long whole = (length - HEADER_BYTES) / TRIANGLE_BYTES;
        return ("The header announces %s, which takes %s bytes; the file has %s, room for %s. "
                + "It was cut short or damaged on its way: ask for the file again.").formatted(
                Spoken.count(count(head), "triangle"), Spoken.count(expectedLength(head)), Spoken.count(length),
                Spoken.count(whole));
    }

    /** @throws ModelFormatException when a coordinate is not a finite number or the stream ends early */
    public static Mesh read(ModelSource source) throws IOException {
        try (InputStream in = source.open()) {
            byte[] head = in.readNBytes(HEADER_BYTES);
            int count = Math.toIntExact(count(head));
            MeshBuilder builder = new MeshBuilder(count);
            byte[] chunk = new byte[CHUNK_TRIANGLES * TRIANGLE_BYTES];
            for (int first = 0; first < count; first += CHUNK_TRIANGLES) {
                int triangles = Math.min(CHUNK_TRIANGLES, count - first);
                int bytes = triangles * TRIANGLE_BYTES;
                if (in.readNBytes(chunk, 0, bytes) < bytes) {
                    throw new ModelFormatException("The file ended at triangle %s of %s."
                            .formatted(Spoken.count(first), Spoken.count(count)));
                }
                addChunk(builder, chunk, triangles, first);
            }
            return builder.build();
        }
    }

    private static void addChunk(MeshBuilder builder, byte[] chunk, int triangles, int first)
            throws ModelFormatException {
        int[] corners = new int[3];
        for (int t = 0; t < triangles; t++) {
            for (int corner = 0; corner < 3; corner++) {
                corners[corner] = vertex(builder, chunk, t * TRIANGLE_BYTES + CORNERS_AT + corner * CORNER_BYTES, first + t);
            }
            builder.triangle(corners[0], corners[1], corners[2]);
        }
    }

    private static int vertex(MeshBuilder builder, byte[] chunk, int at, int triangle) throws ModelFormatException {
        float x = (float) FLOAT.get(chunk, at);
        float y = (float) FLOAT.get(chunk, at + 4);
        float z = (float) FLOAT.get(chunk, at + 8);
        if (!Float.isFinite(x) || !Float.isFinite(y) || !Float.isFinite(z)) {
            throw new ModelFormatException("Triangle %s has a corner that is not a finite number (byte %s)."
                    .formatted(Spoken.count(triangle + 1L),
                            Spoken.count(HEADER_BYTES + (long) triangle * TRIANGLE_BYTES + at % TRIANGLE_BYTES)));
        }
        return builder.vertex(x, y, z);
    }

    private static long count(byte[] head) {
        return Integer.toUnsignedLong((int) INT.get(head, COUNT_AT));
    }

    private static long expectedLength(byte[] head) {
        return HEADER_BYTES + TRIANGLE_BYTES * count(head);
    }
}
