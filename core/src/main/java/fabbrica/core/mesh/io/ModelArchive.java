package fabbrica.core.mesh.io;

import fabbrica.core.units.Spoken;
import java.io.IOException;
import java.io.InputStream;
import java.io.OutputStream;
import java.util.ArrayList;
import java.util.List;
import java.util.regex.Pattern;
import java.util.zip.ZipEntry;
import java.util.zip.ZipException;
import java.util.zip.ZipInputStream;

/**
 * Takes the models out of a ZIP archive, and the notes and pictures that came beside them if anybody wants those. Names are used only to tell the
 * models apart: folders, drive letters and ".." in them are cut off, so nothing is ever written where a name says.
 * What unpacks is counted, so an archive that swells beyond the limit is refused while it is read, not after.
 */
public final class ModelArchive {

    /** More entries than a person would pack by hand. */
    public static final int MOST_ENTRIES = 10_000;
    public static final int MOST_MODELS = 100;
    /** Of notes and pictures; what comes after them is left behind. */
    public static final int MOST_BESIDE = 40;

    private static final Pattern NOTE = Pattern.compile("(?i).*\\.(txt|md)|(readme|licen[cs]e)[^.]*");
    private static final Pattern PICTURE = Pattern.compile("(?i).*\\.(png|jpe?g|webp)");

    private ModelArchive() {
    }

    /** Where each model's bytes go as they are unpacked. */
    public interface Sink {
        OutputStream create(String name) throws IOException;
    }

    /** Whether a file beside the models is something to read: notes, a licence. */
    public static boolean isNote(String name) {
        return NOTE.matcher(name).matches();
    }

    public static boolean isPicture(String name) {
        return PICTURE.matcher(name).matches();
    }

    /** Whether a file is a ZIP archive of files, other than one that is itself a model. */
    public static boolean isArchive(ModelSource source) throws IOException {
        try (InputStream in = source.open()) {
            if (!ModelFiles.isZip(in.readNBytes(4))) {
                return false;
            }
        }
        return !ModelFiles.isPackagedModel(source);
    }

    /**
     * Unpacks every model into a stream from {@code sink}, in the order of the archive.
     *
     * @param limitBytes the most that the models may unpack to, together
     * @return the models' names without folders, made unique
     * @throws ModelFormatException when the archive is damaged, holds no model, or holds too much
     */
    public static List<String> unpack(ModelSource archive, long limitBytes, Sink sink) throws IOException {
        return unpack(archive, limitBytes, sink, name -> OutputStream.nullOutputStream());
    }

    /** @param beside takes notes and pictures, which are not counted as models; their names may come more than once */
    public static List<String> unpack(ModelSource archive, long limitBytes, Sink sink, Sink beside) throws IOException {
        int left = MOST_BESIDE;
        List<String> names = new ArrayList<>();
        int entries = 0;
        try (ZipInputStream in = new ZipInputStream(archive.open())) {
            InputStream counted = new Unpacking(in, limitBytes);
            for (ZipEntry entry = in.getNextEntry(); entry != null; entry = in.getNextEntry()) {
                if (++entries > MOST_ENTRIES) {
                    throw new ModelFormatException("The archive lists more than %s entries."
                            .formatted(Spoken.count(MOST_ENTRIES)));
                }
                boolean model = !entry.isDirectory() && isWanted(entry.getName());
                if (model && names.size() == MOST_MODELS) {
                    throw new ModelFormatException("The archive holds more than %d models; bring fewer at a time."
                            .formatted(MOST_MODELS));
                }
                String name = model ? unique(baseName(entry.getName()), names) : "";
                boolean other = !model && !entry.isDirectory() && left > 0 && isBeside(baseName(entry.getName()));
                left -= other ? 1 : 0;
                try (OutputStream out = model ? sink.create(name) : other ? beside.create(baseName(entry.getName())) : OutputStream.nullOutputStream()) {
                    counted.transferTo(out);
                }
                if (model) {
                    names.add(name);
                }
            }
        } catch (ZipException | java.io.EOFException e) {
            throw new ModelFormatException("The ZIP archive is damaged: " + e.getMessage() + ".");
        } catch (IllegalArgumentException e) {
            throw new ModelFormatException("The ZIP archive holds a name that cannot be read.");
        }
        if (names.isEmpty()) {
            throw new ModelFormatException(entries == 0 ? "The ZIP archive is empty or damaged."
                    : "The ZIP archive holds %s, none of them a model (STL, OBJ, 3MF, PLY, AMF)."
                            .formatted(entries == 1 ? "1 file" : entries + " files"));
        }
        return names;
    }

    /** Some systems pack a hidden twin ("._name") of each file: those are no models. */
    private static boolean isWanted(String path) {
        return ModelFiles.hasModelName(path) && !baseName(path).startsWith(".");
    }

    private static boolean isBeside(String name) {
        return !name.startsWith(".") && (isNote(name) || isPicture(name));
    }

    /** The last part of a path, whichever way its slashes lean. */
    public static String baseName(String path) {
        String name = path.substring(Math.max(path.lastIndexOf('/'), path.lastIndexOf('\\')) + 1);
        return name.replaceAll("\\p{Cntrl}", "");
    }

    private static String unique(String name, List<String> taken) {
        String candidate = name;
        for (int copy = 2; taken.contains(candidate); copy++) {
            int dot = name.lastIndexOf('.');
            candidate = name.substring(0, dot) + " (" + copy + ")" + name.substring(dot);
        }
        return candidate;
    }
}
