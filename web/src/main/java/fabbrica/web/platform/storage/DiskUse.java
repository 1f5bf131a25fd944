package fabbrica.web.platform.storage;

import java.io.IOException;
import java.nio.file.FileVisitResult;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.SimpleFileVisitor;
import java.nio.file.attribute.BasicFileAttributes;
import java.util.HashMap;
import java.util.HashSet;
import java.util.Map;
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
        Summed sum = new Summed(folder);
        Files.walkFileTree(folder, sum);
        long files = sum.below(DataFolder.files(folder)), backups = sum.below(DataFolder.backups(folder));
        return new DiskUse(files, backups, sum.all() - files - backups, Files.getFileStore(folder).getUsableSpace());
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

    /** Bytes by what stands directly in a folder. */
    private static final class Summed extends SimpleFileVisitor<Path> {

        private final Path folder;
        private final Map<Path, Long> bytes = new HashMap<>();
        private final Set<Object> counted = new HashSet<>();

        Summed(Path folder) {
            this.folder = folder;
        }

        long below(Path child) {
            return bytes.getOrDefault(child, 0L);
        }

        long all() {
            return bytes.values().stream().mapToLong(Long::longValue).sum();
        }

        @Override
        public FileVisitResult visitFile(Path file, BasicFileAttributes attributes) {
            if (attributes.fileKey() == null || counted.add(attributes.fileKey())) {
                bytes.merge(folder.resolve(folder.relativize(file).getName(0)), attributes.size(), Long::sum);
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
