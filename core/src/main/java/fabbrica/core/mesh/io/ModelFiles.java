package fabbrica.core.mesh.io;

import fabbrica.core.mesh.io.ModelReading.ReadModel;
import fabbrica.core.mesh.io.ModelReading.UnreadableModel;
import fabbrica.core.mesh.io.stl.BinaryStlReader;
import fabbrica.core.mesh.io.stl.TextStlReader;
import fabbrica.core.mesh.model.Mesh;
import fabbrica.core.units.Spoken;
import java.io.IOException;
import java.io.InputStream;
import java.nio.charset.StandardCharsets;
import java.util.Locale;
import java.util.Optional;

/**
 * The registry of model formats, the only place that knows them all. The content decides, not the name: a binary STL
 * whose header starts with "solid" is recognised by its length, a text under a wrong extension by its first words.
 */
public final class ModelFiles {

    /** The largest file accepted unless a lab sets its own limit. */
    public static final long DEFAULT_LIMIT_BYTES = 200L * 1024 * 1024;

    private static final int LOOK_BYTES = 1024;

    private ModelFiles() {
    }

    /** Whether a name promises a model; used only to pick models out of an archive. */
    public static boolean hasModelName(String name) {
        return name.toLowerCase(Locale.ROOT).endsWith(".stl");
    }

    public static ModelReading read(ModelSource source, long limitBytes) {
        if (source.length() == 0) {
            return new UnreadableModel("The file is empty: it has 0 bytes.");
        }
        if (source.length() > limitBytes) {
            return new UnreadableModel(overLimit(source.length(), limitBytes));
        }
        try {
            byte[] head = head(source);
            if (BinaryStlReader.lengthFits(head, source.length())) {
                return finished(BinaryStlReader.read(source), ModelFormat.STL_BINARY);
            }
            if (TextStlReader.looksLikeText(head)) {
                return finished(TextStlReader.read(source), ModelFormat.STL_TEXT);
            }
            return new UnreadableModel(refusal(head, source));
        } catch (ModelFormatException e) {
            return new UnreadableModel(e.getMessage());
        } catch (IOException e) {
            return new UnreadableModel("The file could not be read to its end: " + e.getMessage() + ".");
        }
    }

    public static String overLimit(long bytes, long limitBytes) {
        return "The file has %s MB; the limit is %s MB.".formatted(
                Spoken.number(bytes / 1048576.0, 1), Spoken.number(limitBytes / 1048576.0, 1));
    }

    private static ModelReading finished(Mesh mesh, ModelFormat format) {
        return mesh.triangleCount() == 0
                ? new UnreadableModel("The file is a well-formed STL without a single triangle.")
                : new ReadModel(mesh, format, Optional.empty());
    }

    private static String refusal(byte[] head, ModelSource source) {
        if (head.length >= 4 && head[0] == 'P' && head[1] == 'K') {
            return "This is a ZIP archive, not a model; it holds no STL that could be taken out.";
        }
        if (head.length < BinaryStlReader.HEADER_BYTES) {
            return "The file has only %d bytes; even an STL without triangles has 84.".formatted(head.length);
        }
        boolean namedStl = hasModelName(source.name());
        return namedStl ? BinaryStlReader.lengthProblem(head, source.length())
                : "This is not a model Fabbrica can read: STL (binary or text) and ZIP archives with STL files are.";
    }

    private static byte[] head(ModelSource source) throws IOException {
        try (InputStream in = source.open()) {
            return in.readNBytes(LOOK_BYTES);
        }
    }

    /** The start of a file as Latin-1 text, for readers that look at its first words. */
    public static String headText(byte[] head) {
        return new String(head, StandardCharsets.ISO_8859_1);
    }
}
