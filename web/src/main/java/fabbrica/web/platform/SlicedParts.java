package fabbrica.web.platform;

import com.github.benmanes.caffeine.cache.Cache;
import fabbrica.core.bed.BedFit;
import fabbrica.core.gcode.GcodeFormatException;
import fabbrica.core.gcode.GcodeReader;
import fabbrica.core.gcode.LaidShape;
import fabbrica.core.gcode.Replay;
import fabbrica.core.gcode.SlicedFileFindings;
import fabbrica.core.inspect.Finding;
import fabbrica.core.inspect.Severity;
import fabbrica.core.mesh.model.Bounds;
import fabbrica.core.mesh.model.Mesh;
import fabbrica.core.mesh.model.Shapes;
import fabbrica.core.recipe.BuiltIn;
import fabbrica.core.recipe.Part;
import fabbrica.core.recipe.Plate;
import fabbrica.core.recipe.Printer;
import fabbrica.web.platform.storage.FileStore;
import java.io.IOException;
import java.io.InputStream;
import java.io.OutputStream;
import java.io.UncheckedIOException;
import java.nio.file.Files;
import java.util.Optional;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Component;

/** Parts whose file is G-code, sliced elsewhere: run as they are, where they are laid, one a plate. */
@Component
public class SlicedParts {

    private static final int LOOK_BYTES = 1024;
    private static final long LARGEST_DRAWN = 60L << 20;

    private final FileStore files;
    private final Cache<String, Boolean> told = Caches.of(5000).build();
    private final Cache<String, Mesh> shapes = Caches.of(8).softValues().build();
    private final Cache<Key, Replay> replays = Caches.of(50).build();

    SlicedParts(FileStore files) {
        this.files = files;
    }

    private record Key(String sha256, Printer printer) {
    }

    public boolean isOne(Part part) {
        return isOne(part.sha256());
    }

    /** Told by how a stored file starts; what is no longer kept is none. */
    public boolean isOne(String sha256) {
        return (told.asMap().containsKey(sha256) || Files.isRegularFile(files.path(sha256))) && told.get(sha256, this::startsSo);
    }

    private boolean startsSo(String sha256) {
        try (InputStream in = open(sha256)) {
            return GcodeReader.looksLikeGcode(in.readNBytes(LOOK_BYTES));
        } catch (IOException e) {
            throw new UncheckedIOException(e);
        }
    }

    /** Why nothing can be made of a file; null when something can. */
    public @Nullable String refusal(String sha256) {
        try {
            return shape(sha256).triangleCount() > 0 ? null : "The file lays no line of plastic: there is nothing to print.";
        } catch (UncheckedIOException e) {
            if (e.getCause() instanceof GcodeFormatException wrong) {
                return String.valueOf(wrong.getMessage());
            }
            throw e;
        }
    }

    /** What it lays, in mm on the bed; of a file that is too large to be drawn the box around that. */
    Mesh shape(String sha256) {
        return shapes.get(sha256, key -> {
            if (isTooLargeToDraw(key)) {
                Bounds box = replay(key, BuiltIn.printers().getFirst()).printed();
                return box == null ? Shapes.together() : Shapes.box(box.sizeX(), box.sizeY(), box.sizeZ()).moved(box.minX(), box.minY(), 0);
            }
            try (InputStream in = open(key)) {
                return LaidShape.of(in);
            } catch (IOException e) {
                throw new UncheckedIOException(e);
            }
        });
    }

    /** Whether its lines would take more memory than looking at them is worth. */
    public boolean isTooLargeToDraw(String sha256) {
        return files.path(sha256).toFile().length() > LARGEST_DRAWN;
    }

    /** What a file does on a printer. */
    public Replay replay(String sha256, Printer printer) {
        return replays.get(new Key(sha256, printer), key -> {
            try (InputStream in = open(sha256)) {
                return Replay.of(in, printer);
            } catch (IOException e) {
                throw new UncheckedIOException(e);
            }
        });
    }

    /** The hash of the file that a plate is run by; nothing when it is laid by a recipe. */
    public Optional<String> fileOf(Plate plate) {
        return plate.copies().stream().map(copy -> copy.part().sha256()).filter(this::isOne).findFirst();
    }

    /** Where it lies, with what stops it whatever it is made of. */
    BedFit fit(Part part, Printer printer, Bounds shape) {
        Optional<Finding> stops = SlicedFileFindings.of(replay(part.sha256(), printer), printer).stream()
                .filter(finding -> finding.severity() == Severity.BLOCK).findFirst();
        return new BedFit(stops.isEmpty(), 0, 1, (shape.minX() + shape.maxX()) / 2, (shape.minY() + shape.maxY()) / 2,
                stops.map(Finding::message).orElse("It lies where the file lays it."));
    }

    /** Byte for byte as it came. */
    void write(String sha256, OutputStream out) throws IOException {
        Files.copy(files.path(sha256), out);
    }

    private InputStream open(String sha256) throws IOException {
        return files.source(sha256, sha256).open();
    }
}
