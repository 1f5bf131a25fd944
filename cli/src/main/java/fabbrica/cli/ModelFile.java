package fabbrica.cli;

import fabbrica.core.mesh.io.ModelArchive;
import fabbrica.core.mesh.io.ModelSource;
import java.io.ByteArrayOutputStream;
import java.io.IOException;
import java.io.InputStream;
import java.nio.file.Files;
import java.nio.file.Path;
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
