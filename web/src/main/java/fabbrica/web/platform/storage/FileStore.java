package fabbrica.web.platform.storage;

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
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.stream.Stream;
import org.jspecify.annotations.Nullable;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;
import org.springframework.context.annotation.Lazy;
import org.springframework.core.env.Environment;
import org.springframework.dao.DataAccessException;
import org.springframework.stereotype.Component;

/**
 * Files stored once, under the SHA-256 of their content. A file is written beside, forced to disk and then renamed, so
 * that a name in the store always stands for whole content. Files come in batches; a batch is held until what names its
 * files is written down or refused. A file goes only when no batch holds it and the lab names it nowhere; what a crash
 * left behind goes at the next start.
 */
@Component
@Lazy(false)
public class FileStore {

    private static final Logger LOG = LoggerFactory.getLogger(FileStore.class);
    private static final String HALF_WRITTEN = ".part";

    private final Path folder;
    private final FileReferenceRepository references;
    /** How many batches hold a file; guarded by this. */
    private final Map<String, Integer> held = new HashMap<>();

    FileStore(Environment environment, FileReferenceRepository references) {
        this.folder = DataFolder.files(DataFolder.of(environment));
        this.references = references;
        try {
            Files.createDirectories(folder);
            try (Stream<Path> files = Files.list(folder)) {
                for (Path left : files.filter(file -> file.toString().endsWith(HALF_WRITTEN)).toList()) {
                    Files.delete(left);
                }
            }
            sweep();
        } catch (IOException e) {
            throw new UncheckedIOException(e);
        }
    }

    /** @param bytes length */
    public record Stored(String sha256, long bytes) {
    }

    /** Begins to take in files. */
    public Batch batch() {
        return new Batch();
    }

    /** Removes what nothing names or holds; a database that names nothing at all is not trusted to know. */
    public synchronized void sweep() throws IOException {
        Set<String> named = references.all();
        if (named.isEmpty()) {
            return;
        }
        try (Stream<Path> files = Files.list(folder)) {
            for (Path file : files.toList()) {
                String name = file.getFileName().toString();
                if (!name.endsWith(HALF_WRITTEN) && !named.contains(name) && !held.containsKey(name)) {
                    Files.delete(file);
                }
            }
        }
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

    private synchronized void enter(Path half, Stored stored) throws IOException {
        Files.move(half, path(stored.sha256()), StandardCopyOption.ATOMIC_MOVE, StandardCopyOption.REPLACE_EXISTING);
        held.merge(stored.sha256(), 1, Integer::sum);
        try (FileChannel names = FileChannel.open(folder, StandardOpenOption.READ)) {
            names.force(true);
        }
    }

    private synchronized void letGo(String sha256) {
        if (held.merge(sha256, -1, Integer::sum) == 0) {
            held.remove(sha256);
            release(sha256);
        }
    }

    /** Removes a file unless something still names or holds it. What cannot be removed now is removed at the next start. */
    public synchronized void release(String sha256) {
        try {
            if (!held.containsKey(sha256) && !references.names(sha256)) {
                Files.deleteIfExists(path(sha256));
            }
        } catch (IOException | DataAccessException e) {
            LOG.warn("{} stays for now", sha256, e);
        }
    }

    /** Files on their way into the lab; closed once what names them is committed. */
    public final class Batch implements AutoCloseable {

        private final List<Writing> writings = new ArrayList<>();

        private Batch() {
        }

        /** A file being written; unless finished, nothing of it stays. */
        public Writing write() throws IOException {
            Writing writing = new Writing();
            writings.add(writing);
            return writing;
        }

        /** Copies a stream into the store. */
        public Stored store(InputStream content) throws IOException {
            Writing writing = write();
            content.transferTo(writing.stream());
            return writing.finish();
        }

        @Override
        public void close() {
            writings.forEach(Writing::close);
        }
    }

    /** The way of one file into the store. */
    public final class Writing {

        private final Path half = Files.createTempFile(folder, "in", HALF_WRITTEN);
        private final MessageDigest digest = Sha256.digest();
        private final OutputStream out = new DigestOutputStream(Files.newOutputStream(half), digest);
        private @Nullable Stored stored;

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
            Stored finished = new Stored(Sha256.hex(digest), Files.size(half));
            enter(half, finished);
            stored = finished;
            return finished;
        }

        private void close() {
            if (stored != null) {
                letGo(stored.sha256());
                return;
            }
            try {
                out.close();
                Files.deleteIfExists(half);
            } catch (IOException e) {
                LOG.warn("{} stays for now", half, e);
            }
        }
    }
}
