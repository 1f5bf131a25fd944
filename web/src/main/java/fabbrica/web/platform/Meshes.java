package fabbrica.web.platform;

import com.github.benmanes.caffeine.cache.Cache;
import fabbrica.core.bed.Allowance;
import fabbrica.core.bed.BedFit;
import fabbrica.core.bed.Footprint;
import fabbrica.core.bed.Outline;
import fabbrica.core.inspect.Poses;
import fabbrica.core.inspect.Poses.Pose;
import fabbrica.core.mesh.io.ModelFiles;
import fabbrica.core.mesh.io.ModelReading.ReadModel;
import fabbrica.core.mesh.io.ModelReading.UnreadableModel;
import fabbrica.core.mesh.model.Mesh;
import fabbrica.core.mesh.model.Rotation;
import fabbrica.core.recipe.Part;
import fabbrica.core.recipe.Plate;
import fabbrica.core.recipe.Printer;
import fabbrica.web.platform.storage.FileStore;
import java.nio.file.Files;
import java.util.List;
import org.springframework.stereotype.Component;

/** Meshes of stored files, and what is asked of them again and again; all is read anew when memory ran short. */
@Component
public class Meshes {

    private static final int MOST_MESHES = 12;
    private static final int MOST_FOOTPRINTS = 1000;

    private final FileStore files;
    private final SlicedParts sliced;
    private final Cache<String, Mesh> meshes = Caches.of(MOST_MESHES).softValues().build();
    private final Cache<Part, Footprint> footprints = Caches.of(MOST_FOOTPRINTS).build();
    private final Cache<Part, Outline> outlines = Caches.of(MOST_FOOTPRINTS).softValues().build();
    private final Cache<Part, List<Pose>> poses = Caches.of(MOST_FOOTPRINTS).build();

    Meshes(FileStore files, SlicedParts sliced) {
        this.files = files;
        this.sliced = sliced;
    }

    /** The mesh in the file's own numbers; only for files that could be read when they came in. */
    public Mesh mesh(String sha256) {
        return sliced.isOne(sha256) ? sliced.shape(sha256) : meshes.get(sha256, key -> switch (ModelFiles.read(files.source(key, key), Long.MAX_VALUE)) {
            case ReadModel model -> model.mesh();
            case UnreadableModel(String reason) -> throw new IllegalStateException(reason);
        });
    }

    /** What was read of a file that came in need not be read anew. */
    public void keep(String sha256, Mesh mesh) {
        meshes.put(sha256, mesh);
    }

    /** Whether the part's file is still there. */
    public boolean isKept(Part part) {
        return !part.sha256().isEmpty() && Files.exists(files.path(part.sha256()));
    }

    /** Whether the files of all parts on a plate are still there. */
    public boolean isKept(Plate plate) {
        return plate.copies().stream().allMatch(copy -> isKept(copy.part()));
    }

    /** The mesh in millimetres as it lies. */
    public Mesh mesh(Part part) {
        return mesh(part.sha256()).scaled(part.factor()).turned(part.rotation());
    }

    /** How a part lies on a printer with some room around it; a file sliced elsewhere where it is laid. */
    public BedFit fit(Part part, Printer printer, Allowance allowance) {
        return sliced.isOne(part) ? sliced.fit(part, printer, mesh(part).bounds())
                : BedFit.of(footprints.get(part, key -> Footprint.of(mesh(key))), printer.freeBed(), allowance);
    }

    /** What the part covers seen from above. */
    public Outline outline(Part part) {
        return outlines.get(part, key -> Outline.of(mesh(key)));
    }

    /** The best ways to lie, from how the part was drawn. */
    public List<Pose> poses(Part part) {
        return poses.get(part.turned(Rotation.NONE), key -> Poses.of(mesh(key)));
    }
}
