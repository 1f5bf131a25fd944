package fabbrica.core.trade;

import fabbrica.core.estimate.Estimate;
import fabbrica.core.inspect.Poses;
import fabbrica.core.mesh.model.Mesh;
import fabbrica.core.mesh.model.Rotation;
import fabbrica.core.recipe.Material;
import fabbrica.core.recipe.Recipe;
import fabbrica.core.toolpath.Slices;
import fabbrica.core.toolpath.Toolpath;
import fabbrica.core.units.Progress;
import java.util.LinkedHashMap;
import java.util.Map;

/**
 * Estimates many ways of printing one part, working out once what they share: those with the same layers share the cut
 * part, and those that differ in speed alone the toolpath. Not for several threads at once.
 */
public final class Trader {

    private final Mesh mesh;
    private final Rotation best;
    private final Map<Cut, Slices> cuts = newest(3);
    private final Map<Laid, Toolpath> laid = newest(3);

    private record Cut(boolean turned, double scale, double turnDeg, double layerMm, double firstMm, boolean variable,
                       double widthMm) {
    }

    private record Laid(Cut cut, Recipe geometry) {
    }

    /** @param mesh in millimetres, as it lies */
    public Trader(Mesh mesh) {
        this.mesh = mesh;
        this.best = Poses.of(mesh).getFirst().rotation();
    }

    /** Keeps what was used last, because toolpaths of large parts are large. */
    private static <K, V> Map<K, V> newest(int count) {
        return new LinkedHashMap<>(16, 0.75f, true) {
            @Override
            protected boolean removeEldestEntry(Map.Entry<K, V> eldest) {
                return size() > count;
            }
        };
    }

    /** Whether the best way to lie is another than the one it lies in, more than turned about the vertical. */
    public boolean turns() {
        return !best.sameWayUp(Rotation.NONE);
    }

    /** The part as it would lie, not turned about the vertical. */
    public Mesh part(Way way) {
        return (way.turned() ? mesh.turned(best) : mesh).scaled(way.scale());
    }

    /**
     * @param turnDeg about the vertical, so that it fits
     * @throws java.util.concurrent.CancellationException when {@code progress} says so
     */
    public Estimate estimate(Way way, double turnDeg, Material material, Progress progress) {
        Recipe recipe = way.recipe().placed(() -> part(way).bounds(), turnDeg);
        boolean variable = recipe.lines().variableLayers();
        Cut cut = new Cut(way.turned(), way.scale(), turnDeg, recipe.layerHeightMm(), recipe.firstLayerHeightMm(), variable,
                variable ? recipe.lineWidthMm() : 0);
        Toolpath toolpath = laid.get(new Laid(cut, recipe.geometry()));
        if (toolpath == null) {
            Slices slices = cuts.get(cut);
            if (slices == null) {
                slices = Slices.of(part(way).turned(turnDeg), recipe, progress);
                cuts.put(cut, slices);
            }
            toolpath = Toolpath.of(slices, recipe, progress);
            laid.put(new Laid(cut, recipe.geometry()), toolpath);
        }
        return Estimate.of(toolpath, recipe, way.printer(), material, progress);
    }
}
