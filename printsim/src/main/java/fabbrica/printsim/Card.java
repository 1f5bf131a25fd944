package fabbrica.printsim;

import java.io.BufferedOutputStream;
import java.io.IOException;
import java.io.OutputStream;
import java.nio.file.DirectoryStream;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.StandardCopyOption;
import java.security.MessageDigest;
import java.security.NoSuchAlgorithmException;
import java.util.HexFormat;
import java.util.Map;
import java.util.Optional;
import java.util.TreeMap;
import java.util.regex.Pattern;

/** What a machine keeps its files on, a folder here: it outlasts the power. */
final class Card {

    private static final Pattern NAME = Pattern.compile("[A-Za-z0-9_][A-Za-z0-9._-]{0,59}");
    private static final String HALF = ".half";

    private final Path folder;
    private final long bytes;

    /** @param bytes that it has room for */
    Card(Path folder, long bytes) throws IOException {
        this.folder = Files.createDirectories(folder);
        this.bytes = bytes;
    }

    /** Sizes in bytes by name. */
    Map<String, Long> files() throws IOException {
        Map<String, Long> files = new TreeMap<>();
        try (DirectoryStream<Path> all = Files.newDirectoryStream(folder, path -> !path.toString().endsWith(HALF))) {
            for (Path each : all) {
                files.put(each.getFileName().toString(), Files.size(each));
            }
        }
        return files;
    }

    Optional<byte[]> read(String name) throws IOException {
        Path file = at(name);
        return Files.isRegularFile(file) ? Optional.of(Files.readAllBytes(file)) : Optional.empty();
    }

    /** In hexadecimal digits; nothing when there is no such file. */
    Optional<String> sha256(String name) throws IOException {
        return read(name).map(file -> HexFormat.of().formatHex(digest().digest(file)));
    }

    private static MessageDigest digest() {
        try {
            return MessageDigest.getInstance("SHA-256");
        } catch (NoSuchAlgorithmException e) {
            throw new IllegalStateException(e);
        }
    }

    boolean delete(String name) throws IOException {
        return Files.deleteIfExists(at(name));
    }

    /** A file that comes line by line; what stood there under its name is replaced when it is whole. */
    Writing write(String name) throws IOException {
        long taken = files().entrySet().stream().filter(file -> !file.getKey().equals(name)).mapToLong(Map.Entry::getValue).sum();
        return new Writing(at(name), bytes - taken);
    }

    private Path at(String name) {
        if (!NAME.matcher(name).matches()) {
            throw new Refused("“%s” is no name for a file".formatted(name));
        }
        return folder.resolve(name);
    }

    /** A file on its way to the card. */
    static final class Writing {

        private final Path file;
        private final Path half;
        private final OutputStream out;
        private long room;

        private Writing(Path file, long room) throws IOException {
            this.file = file;
            this.half = file.resolveSibling(file.getFileName() + HALF);
            this.room = room;
            this.out = new BufferedOutputStream(Files.newOutputStream(half));
        }

        /** @throws Refused when the card is full */
        void line(byte[] line, int from, int to) throws IOException {
            room -= to - from + 1;
            if (room < 0) {
                abandon();
                throw new Refused("the card is full");
            }
            out.write(line, from, to - from);
            out.write('\n');
        }

        void close() throws IOException {
            out.close();
            Files.move(half, file, StandardCopyOption.REPLACE_EXISTING, StandardCopyOption.ATOMIC_MOVE);
        }

        void abandon() throws IOException {
            out.close();
            Files.deleteIfExists(half);
        }
    }
}
