package fabbrica.web.platform;

import com.github.benmanes.caffeine.cache.Cache;
import fabbrica.core.estimate.Estimate;
import fabbrica.core.recipe.Material;
import fabbrica.core.recipe.Printer;
import fabbrica.core.recipe.Recipe;
import fabbrica.core.toolpath.Slices;
import fabbrica.core.toolpath.Toolpath;
import fabbrica.core.units.Progress;
import jakarta.annotation.PreDestroy;
import java.util.Optional;
import org.springframework.stereotype.Component;

/**
 * Works out estimates. Recipes with the same layers share the part as it is cut, those that differ in speed alone and
 * printers with the same recipe the toolpath.
 */
@Component
public class Estimator {

    private final Meshes meshes;
    private final Cache<Lay, Toolpath> toolpaths = Caches.of(8).softValues().build();
    private final Cache<Cut, Slices> cuts = Caches.of(6).softValues().build();
    private final Works<Request, Estimate> works = new Works<>(Caches.of(5000).build(),
            "The estimate could not be worked out for this part. The ticket is safe; try another recipe, or look at the "
                    + "findings first.", this::work);

    Estimator(Meshes meshes) {
        this.meshes = meshes;
    }

    /** @param turnedDeg about the vertical */
    public record Lay(Lying part, double turnedDeg, Recipe recipe) {
    }

    /** @param widthMm only where layers follow the slope, which the nozzle bounds */
    private record Cut(Lying part, double turnedDeg, double layerMm, double firstMm, double widthMm) {

        static Cut of(Lay lay) {
            Recipe recipe = lay.recipe();
            return new Cut(lay.part(), lay.turnedDeg(), recipe.layerHeightMm(), recipe.firstLayerHeightMm(),
                    recipe.lines().variableLayers() ? recipe.lineWidthMm() : 0);
        }
    }

    public record Request(Lay lay, Printer printer, Material material) {
    }

    /** Where the request stands; starts working on it when nobody has asked before. */
    public Standing<Estimate> ask(Request request) {
        return works.ask(request);
    }

    /** The same for a place on a page: what was asked for there before is no longer wanted. */
    public Standing<Estimate> ask(Request request, String place) {
        return works.ask(request, place);
    }

    /** The estimate, worked out at once on the calling thread unless it is known. */
    public Estimate await(Request request) {
        return works.await(request);
    }

    /** The estimate when it is known; nothing is started. */
    public Optional<Estimate> known(Request request) {
        return works.known(request);
    }

    /** Stops working on a request. */
    public void stop(Request request) {
        works.stop(request);
    }

    public void stop(long jobNumber) {
        works.stop(jobNumber);
    }

    @PreDestroy
    void close() {
        works.close();
    }

    private Estimate work(Request request, Progress progress) {
        return Estimate.of(toolpath(request.lay(), progress), request.lay().recipe(), request.printer(),
                request.material(), progress);
    }

    /** The lines of a part, laid now unless they are known. */
    public Toolpath toolpath(Lay lay) {
        return toolpath(lay, Progress.IGNORED);
    }

    /** The same, watched and stopped through {@code progress}. */
    public Toolpath toolpath(Lay lay, Progress progress) {
        Recipe recipe = lay.recipe().placed(() -> meshes.mesh(lay.part()).bounds(), lay.turnedDeg());
        return toolpaths.get(new Lay(lay.part(), lay.turnedDeg(), recipe.geometry()), key -> {
            Slices slices = cuts.get(Cut.of(key), cut -> Slices.of(meshes.mesh(key.part()).turned(key.turnedDeg()), recipe,
                    progress.pass(0, 3)));
            return Toolpath.of(slices, recipe, progress.pass(1, 3));
        });
    }
}
