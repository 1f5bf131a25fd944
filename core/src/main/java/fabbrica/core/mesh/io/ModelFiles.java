package fabbrica.core.mesh.io;

import fabbrica.core.mesh.io.ModelReading.ReadModel;
import fabbrica.core.mesh.io.ModelReading.UnreadableModel;
import fabbrica.core.mesh.io.amf.AmfReader;
import fabbrica.core.mesh.io.obj.ObjReader;
import fabbrica.core.mesh.io.ply.PlyReader;
import fabbrica.core.mesh.io.stl.BinaryStlReader;
import fabbrica.core.mesh.io.stl.TextStlReader;
import fabbrica.core.mesh.io.threemf.ThreeMfReader;
import fabbrica.core.mesh.model.Bounds;
import fabbrica.core.mesh.model.Mesh;
import fabbrica.core.mesh.model.Welding;
import fabbrica.core.units.Spoken;
import java.io.IOException;
import java.io.InputStream;
import java.nio.charset.StandardCharsets;
import java.util.List;
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
    private static final int SWELLING = 4;
    private static final double FARTHEST = 1e9;
    private static final List<String> EXTENSIONS = List.of(".stl", ".obj", ".3mf", ".ply", ".amf");

    private ModelFiles() {
    }

    /** Whether a name promises a model; used only to pick models out of an archive. */
    public static boolean hasModelName(String name) {
        String lower = name.toLowerCase(Locale.ROOT);
        return EXTENSIONS.stream().anyMatch(lower::endsWith);
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
            if (isZip(head)) {
                return readPackage(source, limitBytes);
            }
            if (PlyReader.looksLikePly(head)) {
                return finished(PlyReader.read(source), ModelFormat.PLY);
            }
            if (AmfReader.looksLikeAmf(head)) {
                return finished(AmfReader.read(source));
            }
            if (ObjReader.looksLikeObj(head)) {
                return finished(ObjReader.read(source), ModelFormat.OBJ);
            }
            return new UnreadableModel(refusal(head, source));
        } catch (ModelFormatException e) {
            return new UnreadableModel(String.valueOf(e.getMessage()));
        } catch (IOException e) {
            return new UnreadableModel("The file could not be read to its end: " + e.getMessage() + ".");
        }
    }

    public static String overLimit(long bytes, long limitBytes) {
        return "The file has %s MB; the limit is %s MB.".formatted(
                Spoken.number(bytes / 1048576.0, 1), Spoken.number(limitBytes / 1048576.0, 1));
    }

    private static ModelReading finished(Mesh mesh, ModelFormat format) {
        return finished(new ReadModel(mesh, format, Optional.empty()));
    }

    private static ModelReading finished(ReadModel model) {
        Bounds bounds = model.mesh().bounds();
        double farthest = Math.max(Math.max(Math.abs(bounds.minX()), Math.abs(bounds.maxX())), Math.max(Math.max(
                Math.abs(bounds.minY()), Math.abs(bounds.maxY())), Math.max(Math.abs(bounds.minZ()),
                Math.abs(bounds.maxZ()))));
        if (farthest > FARTHEST) {
            return new UnreadableModel("A coordinate lies at %s; no part is that large, so the file is damaged."
                    .formatted(farthest));
        }
        return model.mesh().triangleCount() == 0 ? new UnreadableModel("The file is a well-formed %s without a single triangle."
                .formatted(model.format().label()))
                : new ReadModel(Welding.ofRounding(model.mesh()), model.format(), model.declaredUnit());
    }

    private static ModelReading readPackage(ModelSource source, long limitBytes) throws IOException {
        if (ThreeMfReader.isPackage(source)) {
            return finished(ThreeMfReader.read(source, unpackedLimit(limitBytes)));
        }
        return AmfReader.isPacked(source) ? finished(AmfReader.readPacked(source, unpackedLimit(limitBytes)))
                : new UnreadableModel("This is a ZIP archive without a model in it that could be taken out.");
    }

    /** XML packs well: a package may unpack to a few times the limit for files. */
    private static long unpackedLimit(long limitBytes) {
        return limitBytes > Long.MAX_VALUE / SWELLING ? limitBytes : SWELLING * limitBytes;
    }

    /** Whether a ZIP archive is itself one model rather than a parcel of files. */
    static boolean isPackagedModel(ModelSource source) throws IOException {
        return ThreeMfReader.isPackage(source)
                || source.name().toLowerCase(Locale.ROOT).endsWith(".amf") && AmfReader.isPacked(source);
    }

    static boolean isZip(byte[] head) {
        return head.length >= 4 && head[0] == 'P' && head[1] == 'K' && head[2] == 3 && head[3] == 4;
    }

    private static String refusal(byte[] head, ModelSource source) {
        boolean namedStl = source.name().toLowerCase(Locale.ROOT).endsWith(".stl");
        if (namedStl && head.length < BinaryStlReader.HEADER_BYTES) {
            return "The file has only %d bytes; even an STL without triangles has 84.".formatted(head.length);
        }
        return namedStl ? BinaryStlReader.lengthProblem(head, source.length())
                : "This is not a model Fabbrica can read: STL, OBJ, 3MF, PLY, AMF and ZIP archives with them are.";
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
