package fabbrica.core.mesh.io;

import java.io.EOFException;
import java.io.IOException;
import java.io.OutputStream;
import java.util.function.Predicate;
import java.util.zip.ZipEntry;
import java.util.zip.ZipException;
import java.util.zip.ZipInputStream;

/** Looks through the names in a ZIP archive without trusting how far its contents swell. */
public final class ZipEntries {

    private static final long MOST_BYTES = 1L << 30;

    private ZipEntries() {
    }

    /** Whether an entry has a wanted name; false for archives that are damaged or swell before one is met. */
    public static boolean anyNamed(ModelSource source, Predicate<String> wanted) throws IOException {
        try (ZipInputStream zip = new ZipInputStream(source.open()); Unpacking counted = Unpacking.of(zip, source.length(), MOST_BYTES)) {
            for (ZipEntry entry = zip.getNextEntry(); entry != null; entry = zip.getNextEntry()) {
                if (wanted.test(entry.getName())) {
                    return true;
                }
                counted.transferTo(OutputStream.nullOutputStream());
            }
        } catch (ZipException | EOFException | ModelFormatException | IllegalArgumentException e) {
            return false;
        }
        return false;
    }
}
