package fabbrica.web.platform.storage;

import java.io.IOException;
import java.nio.file.FileVisitResult;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.SimpleFileVisitor;
import java.nio.file.attribute.BasicFileAttributes;
import java.util.HashSet;
import java.util.Set;

/**
 * What a data folder takes on its disk, in bytes. Files that several backups share count once.
 *
 * @param files models, sliced files and photos
 * @param rest  the database and what else is there
 * @param free  what is left on the disk
 */
public record DiskUse(long files, long backups, long rest, long free) {

    private static final long LEAST_FREE = 1L << 30;

    public static DiskUse of(Path folder) throws IOException {
        long files = bytes(DataFolder.files(folder)), backups = bytes(DataFolder.backups(folder));
        return new DiskUse(files, backups, bytes(folder) - files - backups, Files.getFileStore(folder).getUsableSpace());
    }

    /** Whether so many bytes more could be written beside a folder. */
    public static boolean hasRoom(Path folder, long bytes) throws IOException {
        return Files.getFileStore(folder).getUsableSpace() > bytes;
    }

    public long all() {
        return files + backups + rest;
    }

    /** Whether a backup of everything, or a day of large files, may find no room. */
    public boolean isTight() {
        return free < Math.max(LEAST_FREE, files + rest);
    }

    private static long bytes(Path folder) throws IOException {
        Summed sum = new Summed();
        if (Files.exists(folder)) {
            Files.walkFileTree(folder, sum);
        }
        return sum.bytes;
    }

    private static final class Summed extends SimpleFileVisitor<Path> {

        private final Set<Object> counted = new HashSet<>();
        private long bytes;

        @Override
        public FileVisitResult visitFile(Path file, BasicFileAttributes attributes) {
            if (attributes.fileKey() == null || counted.add(attributes.fileKey())) {
                bytes += attributes.size();
            }
            return FileVisitResult.CONTINUE;
        }

        /** A file that has gone meanwhile takes nothing. */
        @Override
        public FileVisitResult visitFileFailed(Path file, IOException gone) {
            return FileVisitResult.CONTINUE;
        }
    }
}
