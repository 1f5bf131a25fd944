package fabbrica.web.platform;

import com.github.benmanes.caffeine.cache.Cache;
import com.github.benmanes.caffeine.cache.Caffeine;
import fabbrica.core.bed.Footprint;
import fabbrica.core.mesh.io.ModelFiles;
import fabbrica.core.mesh.io.ModelReading.ReadModel;
import fabbrica.core.mesh.io.ModelReading.UnreadableModel;
import fabbrica.core.mesh.model.Mesh;
import org.springframework.stereotype.Component;

/** Meshes of stored files, and their footprints; both are read again when memory ran short. */
@Component
public class Meshes {

    private static final int MOST_MESHES = 12;
    private static final int MOST_FOOTPRINTS = 1000;

    private final FileStore files;
    private final Cache<String, Mesh> meshes = Caffeine.newBuilder().maximumSize(MOST_MESHES).softValues().build();
    private final Cache<String, Footprint> footprints = Caffeine.newBuilder().maximumSize(MOST_FOOTPRINTS).build();

    Meshes(FileStore files) {
        this.files = files;
    }

    /** The mesh in the file's own numbers; only for files that could be read when they came in. */
    public Mesh mesh(String sha256) {
        return meshes.get(sha256, key -> switch (ModelFiles.read(files.source(key, key), Long.MAX_VALUE)) {
            case ReadModel model -> model.mesh();
            case UnreadableModel(String reason) -> throw new IllegalStateException(reason);
        });
    }

    /** Of the mesh in the file's own numbers. */
    public Footprint footprint(String sha256) {
        return footprints.get(sha256, key -> Footprint.of(mesh(key)));
    }
}
