package fabbrica.cli;

import fabbrica.core.mesh.io.ModelArchive;
import fabbrica.core.mesh.io.ModelFiles;
import fabbrica.core.mesh.io.ModelFormat;
import fabbrica.core.mesh.io.ModelReading;
import fabbrica.core.mesh.io.ModelReading.ReadModel;
import fabbrica.core.mesh.io.ModelReading.UnreadableModel;
import fabbrica.core.mesh.io.ModelSource;
import fabbrica.core.mesh.io.ModelWriters;
import fabbrica.core.mesh.model.Mesh;
import fabbrica.core.units.OutOfRange;
import java.io.ByteArrayOutputStream;
import java.io.IOException;
import java.io.InputStream;
import java.io.OutputStream;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.StandardCopyOption;
import java.security.DigestInputStream;
import java.security.MessageDigest;
import java.security.NoSuchAlgorithmException;
import java.util.ArrayList;
import java.util.HexFormat;
import java.util.List;

/** Model files named on the command line; an archive stands for the models in it. */
final class ModelFile {

    private ModelFile() {
    }

    /** @throws IOException with a sentence when there is no such file or its archive is damaged */
    static List<ModelSource> sources(Path path, long limitBytes) throws IOException {
        if (!Files.isRegularFile(path)) {
            throw new IOException("There is no file %s.".formatted(path));
        }
        ModelSource file = onDisk(path);
        if (!ModelArchive.isArchive(file)) {
            return List.of(file);
        }
        List<ByteArrayOutputStream> contents = new ArrayList<>();
        List<String> names = ModelArchive.unpack(file, limitBytes, name -> {
            contents.add(new ByteArrayOutputStream());
            return contents.getLast();
        });
        List<ModelSource> sources = new ArrayList<>();
        for (int i = 0; i < names.size(); i++) {
            sources.add(ModelSource.of(names.get(i), contents.get(i).toByteArray()));
        }
        return sources;
    }

    /**
     * The one model of a file.
     *
     * @throws IOException with a sentence when it cannot be read, or an archive holds several
     */
    static ReadModel readOne(Path path, long limitBytes) throws IOException {
        List<ModelSource> sources = sources(path, limitBytes);
        if (sources.size() > 1) {
            throw new IOException("The archive holds %d models; take one out of it first.".formatted(sources.size()));
        }
        ModelReading read = ModelFiles.read(sources.getFirst(), limitBytes);
        if (read instanceof UnreadableModel(String reason)) {
            throw new IOException(reason);
        }
        return (ReadModel) read;
    }

    /** Writes a mesh in the format that the file's name asks for. */
    static void write(Mesh mesh, Path path) throws IOException {
        String name = path.getFileName().toString();
        ModelFormat format = ModelWriters.formatOf(name).orElseThrow(() -> new OutOfRange(
                "The name of the file to write must end in .stl, .obj, .3mf, .ply or .amf; “%s” was given."
                        .formatted(name)));
        write(path, out -> ModelWriters.write(mesh, format, name.substring(0, name.lastIndexOf('.')), out));
    }

    /** What is put into a file. */
    interface Content {
        void writeTo(OutputStream out) throws IOException;
    }

    /** Writes beside the file first, then in its place. */
    static void write(Path path, Content content) throws IOException {
        Path folder = path.toAbsolutePath().getParent();
        if (folder == null || !Files.isDirectory(folder)) {
            throw new IOException("There is no folder for %s.".formatted(path));
        }
        Path half = Files.createTempFile(folder, "half", ".part");
        try {
            try (OutputStream out = Files.newOutputStream(half)) {
                content.writeTo(out);
            }
            Files.move(half, path, StandardCopyOption.REPLACE_EXISTING);
        } finally {
            Files.deleteIfExists(half);
        }
    }

    static String sha256(ModelSource source) {
        try {
            MessageDigest digest = MessageDigest.getInstance("SHA-256");
            try (InputStream in = new DigestInputStream(source.open(), digest)) {
                byte[] buffer = new byte[1 << 16];
                while (in.read(buffer) >= 0) {
                    continue;
                }
            }
            return HexFormat.of().formatHex(digest.digest());
        } catch (IOException e) {
            throw new java.io.UncheckedIOException(e);
        } catch (NoSuchAlgorithmException e) {
            throw new IllegalStateException(e);
        }
    }

    private static ModelSource onDisk(Path path) throws IOException {
        long length = Files.size(path);
        return new ModelSource() {
            @Override
            public String name() {
                return path.getFileName().toString();
            }

            @Override
            public long length() {
                return length;
            }

            @Override
            public InputStream open() throws IOException {
                return Files.newInputStream(path);
            }
        };
    }
}
