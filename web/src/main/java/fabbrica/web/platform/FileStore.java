package fabbrica.web.platform;

import fabbrica.core.mesh.io.ModelSource;
import java.io.IOException;
import java.io.InputStream;
import java.io.OutputStream;
import java.io.UncheckedIOException;
import java.nio.channels.FileChannel;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.StandardCopyOption;
import java.nio.file.StandardOpenOption;
import java.security.DigestOutputStream;
import java.security.MessageDigest;
import java.security.NoSuchAlgorithmException;
import java.util.HexFormat;
import java.util.stream.Stream;
import org.springframework.context.annotation.Lazy;
import org.springframework.core.env.Environment;
import org.springframework.stereotype.Component;

/**
 * Files stored once, under the SHA-256 of their content. A file is written beside, forced to disk and then renamed, so
 * that a name in the store always stands for whole content; what a crash left half-written is swept at the next start.
 */
@Component
@Lazy(false)
public class FileStore {

    private static final String HALF_WRITTEN = ".part";

    private final Path folder;

    FileStore(Environment environment) {
        this.folder = DataFolder.of(environment).resolve("files");
        try {
            Files.createDirectories(folder);
            try (Stream<Path> files = Files.list(folder)) {
                for (Path left : files.filter(file -> file.toString().endsWith(HALF_WRITTEN)).toList()) {
                    Files.delete(left);
                }
            }
        } catch (IOException e) {
            throw new UncheckedIOException(e);
        }
    }

    /** @param bytes length */
    public record Stored(String sha256, long bytes) {
    }

    /** Copies a stream into the store. */
    public Stored store(InputStream content) throws IOException {
        try (Writing writing = new Writing()) {
            content.transferTo(writing.stream());
            return writing.finish();
        }
    }

    /** A file being written; unless finished, nothing of it stays. */
    public Writing write() throws IOException {
        return new Writing();
    }

    public ModelSource source(String name, String sha256) {
        Path file = path(sha256);
        return new ModelSource() {
            @Override
            public String name() {
                return name;
            }

            @Override
            public long length() {
                try {
                    return Files.size(file);
                } catch (IOException e) {
                    throw new UncheckedIOException(e);
                }
            }

            @Override
            public InputStream open() throws IOException {
                return Files.newInputStream(file);
            }
        };
    }

    public Path path(String sha256) {
        if (!sha256.matches("[0-9a-f]{64}")) {
            throw new IllegalArgumentException("not a SHA-256");
        }
        return folder.resolve(sha256);
    }

    /** The way of one file into the store. */
    public final class Writing implements AutoCloseable {

        private final Path half = Files.createTempFile(folder, "in", HALF_WRITTEN);
        private final MessageDigest digest = newDigest();
        private final OutputStream out = new DigestOutputStream(Files.newOutputStream(half), digest);

        private Writing() throws IOException {
        }

        public OutputStream stream() {
            return out;
        }

        public Stored finish() throws IOException {
            out.close();
            try (FileChannel channel = FileChannel.open(half, StandardOpenOption.WRITE)) {
                channel.force(true);
            }
            Stored stored = new Stored(HexFormat.of().formatHex(digest.digest()), Files.size(half));
            Files.move(half, path(stored.sha256()), StandardCopyOption.ATOMIC_MOVE,
                    StandardCopyOption.REPLACE_EXISTING);
            return stored;
        }

        @Override
        public void close() throws IOException {
            out.close();
            Files.deleteIfExists(half);
        }

        private static MessageDigest newDigest() {
            try {
                return MessageDigest.getInstance("SHA-256");
            } catch (NoSuchAlgorithmException e) {
                throw new IllegalStateException(e);
            }
        }
    }
}
