package fabbrica.web;

import fabbrica.core.mesh.io.stl.BinaryStlWriter;
import fabbrica.core.mesh.model.Mesh;
import java.io.ByteArrayOutputStream;
import java.io.IOException;
import java.io.UncheckedIOException;
import java.util.UUID;
import java.util.zip.ZipEntry;
import java.util.zip.ZipOutputStream;

/** Model files as members bring them. */
public final class Files3d {

    private Files3d() {
    }

    public static byte[] stl(Mesh mesh) {
        try (ByteArrayOutputStream out = new ByteArrayOutputStream()) {
            BinaryStlWriter.write(mesh, "made by a test, " + UUID.randomUUID(), out);
            return out.toByteArray();
        } catch (IOException e) {
            throw new UncheckedIOException(e);
        }
    }

    /** @param namesAndContents a name, then its bytes, and so on */
    public static byte[] zip(Object... namesAndContents) {
        ByteArrayOutputStream out = new ByteArrayOutputStream();
        try (ZipOutputStream zip = new ZipOutputStream(out)) {
            for (int i = 0; i < namesAndContents.length; i += 2) {
                zip.putNextEntry(new ZipEntry((String) namesAndContents[i]));
                zip.write((byte[]) namesAndContents[i + 1]);
            }
        } catch (IOException e) {
            throw new UncheckedIOException(e);
        }
        return out.toByteArray();
    }
}
