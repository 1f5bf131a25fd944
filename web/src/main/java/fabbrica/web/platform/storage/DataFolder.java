package fabbrica.web.platform.storage;

import java.io.IOException;
import java.io.UncheckedIOException;
import java.nio.channels.FileChannel;
import java.nio.channels.OverlappingFileLockException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.StandardOpenOption;
import java.nio.file.attribute.PosixFilePermissions;
import java.util.Comparator;
import java.util.Set;
import java.util.concurrent.ConcurrentHashMap;
import java.util.stream.Stream;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;
import org.springframework.core.env.Environment;

/**
 * The folder that holds the database and all files, for its owner and for one server at a time; the demo's is made anew
 * at every start. Whoever is to change it from outside has to {@link #take} it first.
 */
public final class DataFolder {

    private static final Logger LOG = LoggerFactory.getLogger(DataFolder.class);
    /** Only a folder that carries this mark is ever emptied. */
    private static final String DEMO_MARK = ".demo";
    private static final String LOCK = ".lock";
    /** Closing one would open its folder to others. */
    private static final Set<FileChannel> LOCKS = ConcurrentHashMap.newKeySet();

    private DataFolder() {
    }

    public static Path of(Environment environment) {
        return Path.of(environment.getRequiredProperty("fabbrica.data"));
    }

    /** The file of the database in a data folder. */
    public static Path database(Path folder) {
        return folder.resolve("fabbrica.db");
    }

    /** The files that the database names. */
    public static Path files(Path folder) {
        return folder.resolve("files");
    }

    /** Backups of nights, and of moments before something was changed at large. */
    public static Path backups(Path folder) {
        return folder.resolve("backups");
    }

    /** Uploads on their way in; emptied at every start. */
    public static Path incoming(Path folder) {
        return folder.resolve("incoming");
    }

    /** @throws FolderRefused when it is in use or not a demo's; then nothing in it was touched */
    public static void prepare(Environment environment) {
        Path folder = of(environment);
        try {
            boolean demo = environment.getProperty("fabbrica.demo", Boolean.class, false), goesOn = environment.getProperty("fabbrica.demo.goes-on", Boolean.class, false);
            if (demo) {
                requireDemo(folder);
            }
            take(folder);
            if (demo && !goesOn) {
                empty(folder);
                Files.writeString(folder.resolve(DEMO_MARK), "Emptied at every start of the demo.\n");
            }
            Files.createDirectories(incoming(folder));
            empty(incoming(folder));
        } catch (IOException e) {
            throw new UncheckedIOException(e);
        }
    }

    /**
     * Makes the folder when there is none, closes it to other people, and keeps other servers out until this process ends.
     *
     * @throws FolderRefused when another server has it
     */
    public static void take(Path folder) throws IOException {
        Files.createDirectories(folder);
        closeToOthers(folder);
        FileChannel lock = FileChannel.open(folder.resolve(LOCK), StandardOpenOption.CREATE, StandardOpenOption.WRITE);
        if (!locked(lock)) {
            lock.close();
            throw new FolderRefused("Another Fabbrica works with the folder %s: nothing in it was touched. Stop that "
                    .formatted(folder) + "one first, or choose another folder with FABBRICA_DATA.");
        }
        LOCKS.add(lock);
    }

    private static boolean locked(FileChannel lock) throws IOException {
        try {
            return lock.tryLock() != null;
        } catch (OverlappingFileLockException e) {
            return false;
        }
    }

    private static void closeToOthers(Path folder) {
        try {
            Files.setPosixFilePermissions(folder, PosixFilePermissions.fromString("rwx------"));
        } catch (IOException | UnsupportedOperationException e) {
            LOG.warn("Others on this computer may be able to read {}", folder, e);
        }
    }

    private static void requireDemo(Path folder) throws IOException {
        if (!Files.exists(folder) || Files.exists(folder.resolve(DEMO_MARK))) {
            return;
        }
        try (Stream<Path> content = Files.list(folder)) {
            if (content.anyMatch(path -> !path.endsWith(LOCK))) {
                throw new FolderRefused("The folder %s is not a demo's: nothing in it was touched. "
                        .formatted(folder) + "Choose another with FABBRICA_DATA.");
            }
        }
    }

    private static void empty(Path folder) throws IOException {
        try (Stream<Path> content = Files.walk(folder)) {
            for (Path path : content.sorted(Comparator.reverseOrder()).toList()) {
                if (!path.equals(folder) && !path.equals(folder.resolve(LOCK))) {
                    Files.delete(path);
                }
            }
        }
    }
}
