package fabbrica.web.upkeep;

import java.io.IOException;
import java.nio.channels.FileChannel;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.StandardCopyOption;
import java.nio.file.StandardOpenOption;
import java.util.Comparator;
import java.util.Objects;
import java.util.stream.Stream;

/** Files put where they stay, also when the power goes in the middle. */
final class Disk {

    private static final String HALF = ".part";

    private Disk() {
    }

    /** Copies a file; under its name there is the whole of it, or nothing new. */
    static void copy(Path from, Path to) throws IOException {
        Path half = to.resolveSibling(to.getFileName() + HALF);
        Files.copy(from, half, StandardCopyOption.REPLACE_EXISTING);
        rename(half, to);
    }

    /** Gives what is written its name, in place of what had it. */
    static void rename(Path half, Path to) throws IOException {
        if (Files.isRegularFile(half)) {
            force(half, StandardOpenOption.WRITE);
        }
        Files.move(half, to, StandardCopyOption.ATOMIC_MOVE);
        force(Objects.requireNonNull(to.toAbsolutePath().getParent()), StandardOpenOption.READ);
    }

    static void delete(Path tree) throws IOException {
        if (Files.exists(tree)) {
            try (Stream<Path> all = Files.walk(tree)) {
                for (Path path : all.sorted(Comparator.reverseOrder()).toList()) {
                    Files.delete(path);
                }
            }
        }
    }

    private static void force(Path path, StandardOpenOption how) throws IOException {
        try (FileChannel channel = FileChannel.open(path, how)) {
            channel.force(true);
        }
    }
}
