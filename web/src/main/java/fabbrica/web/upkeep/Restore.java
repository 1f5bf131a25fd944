package fabbrica.web.upkeep;

import fabbrica.web.platform.storage.DataFolder;
import fabbrica.web.platform.storage.FolderRefused;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Clock;
import java.time.LocalDateTime;
import java.time.format.DateTimeFormatter;
import java.util.List;
import java.util.Set;
import java.util.TreeSet;
import java.util.stream.Stream;
import org.jspecify.annotations.Nullable;

/**
 * Goes back to a backup. The backup is read through first; then its files are laid beside those there are; at last one
 * rename puts its database in place of the present one. Stopped at any moment, the lab is the one before or the one
 * restored, never something between. The present data are kept as a backup of their own.
 */
final class Restore {

    static final DateTimeFormatter STAMP = DateTimeFormatter.ofPattern("yyyy-MM-dd-HHmmss");

    private Restore() {
    }

    /**
     * What came of it.
     *
     * @param before     where the data before it are kept; null when there were none
     * @param knownAgain numbers of members who were forgotten since the backup was made, and are back
     */
    record Restored(@Nullable Path before, Set<Long> knownAgain) {
    }

    /**
     * @throws UpkeepException when the backup has no sound database, or a server works with the data; then nothing was changed
     */
    static Restored from(Path backup, Path data, Clock clock) throws IOException {
        DataCheck check = DataCheck.of(backup);
        if (!check.faults().isEmpty()) {
            throw new UpkeepException("%s is no backup that can be restored; nothing was changed:\n%s".formatted(backup,
                    String.join("\n", check.report())));
        }
        try {
            DataFolder.take(data);
        } catch (FolderRefused e) {
            throw new UpkeepException(String.valueOf(e.getMessage()));
        }
        Set<Long> knownAgain = new TreeSet<>(forgotten(data));
        knownAgain.removeAll(forgotten(backup));
        Path before = Files.exists(DataFolder.database(data)) ? keep(data, LocalDateTime.now(clock).format(STAMP)) : null;
        Files.createDirectories(DataFolder.files(data));
        try (Stream<Path> files = Files.list(DataFolder.files(backup))) {
            for (Path file : files.toList()) {
                Disk.copy(file, DataFolder.files(data).resolve(file.getFileName().toString()));
            }
        }
        Path restored = data.resolve("restored.db");
        Files.deleteIfExists(restored);
        Files.copy(DataFolder.database(backup), restored);
        for (Path log : logs(data)) {
            Files.deleteIfExists(log);
        }
        Disk.rename(restored, DataFolder.database(data));
        return new Restored(before, knownAgain);
    }

    /** Of data that can be read. */
    private static Set<Long> forgotten(Path data) {
        try (DatabaseRepository database = new DatabaseRepository(DataFolder.database(data))) {
            return database.forgotten();
        } catch (UpkeepException unreadable) {
            return Set.of();
        }
    }

    /** Keeps the present data whole where they are whole, else every bit of the database as it is. */
    private static Path keep(Path data, String stamp) throws IOException {
        Path before = DataFolder.backups(data).resolve("before-restore-" + stamp);
        Files.createDirectories(before.getParent());
        try {
            Backup.write(data, before, null);
            endLog(data);
            return before;
        } catch (UpkeepException damaged) {
            Files.createDirectories(before);
            for (Path file : Stream.concat(Stream.of(DataFolder.database(data)), logs(data).stream()).toList()) {
                if (Files.exists(file)) {
                    Disk.copy(file, before.resolve(file.getFileName()));
                }
            }
            return before;
        }
    }

    /** So that the database before needs no log beside it, should this stop between here and the rename. */
    private static void endLog(Path data) {
        try (DatabaseRepository database = new DatabaseRepository(DataFolder.database(data))) {
            database.endLog();
        }
    }

    private static List<Path> logs(Path data) {
        String database = DataFolder.database(data).getFileName().toString();
        return List.of(data.resolve(database + "-wal"), data.resolve(database + "-shm"), data.resolve(database + "-journal"));
    }
}
