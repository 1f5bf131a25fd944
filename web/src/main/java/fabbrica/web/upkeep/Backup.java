package fabbrica.web.upkeep;

import fabbrica.web.platform.storage.DataFolder;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.attribute.PosixFilePermissions;
import java.util.Set;
import org.jspecify.annotations.Nullable;

/**
 * A lab's data at one moment, in a folder of its own: the database and every file it names. Made while the server runs,
 * checked as it was written, and given its name at the very end, so that what has the name is whole.
 */
final class Backup {

    static final String HALF = ".part";
    /** Files may go between the moment of the copy and theirs; then it is begun again. */
    private static final int TRIES = 3;

    private Backup() {
    }

    /**
     * @param to    where it goes; nothing may be there
     * @param share an earlier backup on the same disk whose files may be shared instead of copied; null for none
     * @return the check of the backup: whole if the data are; files that are lost already are no reason to lose the rest
     * @throws UpkeepException when it cannot be made; then there is nothing at {@code to}
     */
    static DataCheck write(Path data, Path to, @Nullable Path share) throws IOException {
        if (Files.exists(to)) {
            throw new UpkeepException("There is something at %s already. Choose another name.".formatted(to));
        }
        if (!Files.exists(DataFolder.database(data))) {
            throw new UpkeepException("There is no lab in %s. FABBRICA_DATA says which folder is meant.".formatted(data));
        }
        Path half = to.toAbsolutePath().resolveSibling(to.getFileName() + HALF);
        try {
            for (int tries = 1; ; tries++) {
                Disk.delete(half);
                DataCheck check = fill(data, half, tries == 1 ? share : null);
                if (check.whole() || tries == TRIES && check.asGoodAs(DataCheck.of(data))) {
                    Disk.rename(half, to.toAbsolutePath());
                    return check;
                }
                if (tries == TRIES) {
                    throw new UpkeepException("No backup was made:\n" + String.join("\n", check.report()));
                }
            }
        } catch (UpkeepException | IOException failed) {
            Disk.delete(half);
            throw failed;
        }
    }

    private static DataCheck fill(Path data, Path half, @Nullable Path share) throws IOException {
        Files.createDirectories(DataFolder.files(half));
        Files.setPosixFilePermissions(half, PosixFilePermissions.fromString("rwx------"));
        try (DatabaseRepository database = new DatabaseRepository(DataFolder.database(data))) {
            database.copyTo(DataFolder.database(half));
        }
        try (DatabaseRepository copy = new DatabaseRepository(DataFolder.database(half))) {
            copy.endLog();
            copyFiles(copy.files(), DataFolder.files(data), DataFolder.files(half), share);
        }
        return DataCheck.of(half);
    }

    /** What is missing is found by the check afterwards. */
    private static void copyFiles(Set<String> names, Path from, Path to, @Nullable Path share) throws IOException {
        for (String name : names) {
            Path shared = share == null ? null : DataFolder.files(share).resolve(name);
            if (shared != null && Files.exists(shared)) {
                Files.createLink(to.resolve(name), shared);
            } else if (Files.exists(from.resolve(name))) {
                Disk.copy(from.resolve(name), to.resolve(name));
            }
        }
    }
}
