package fabbrica.core.toolpath;

import fabbrica.core.recipe.Recipe;
import fabbrica.core.units.Progress;
import java.util.ArrayList;
import java.util.Collections;
import java.util.List;

/** The walls on every layer of a part, and what bridges inside them: all that recipes share which are the same {@link Recipe#outside}. */
public final class WalledSlices {

    private final Slices slices;
    private final Coverage coverage;
    private final List<Walls> walls;
    private final List<List<Bridge>> bridges;

    private WalledSlices(Slices slices, Coverage coverage, List<Walls> walls, List<List<Bridge>> bridges) {
        this.slices = slices;
        this.coverage = coverage;
        this.walls = walls;
        this.bridges = bridges;
    }

    /**
     * Lays the walls of a recipe. Layers are worked on in parallel.
     *
     * @param slices cut for the layers of the recipe
     * @throws java.util.concurrent.CancellationException when {@code progress} says so
     */
    public static WalledSlices of(Slices slices, Recipe recipe, Progress progress) {
        int count = slices.count();
        Coverage coverage = new Coverage(slices);
        Walls[] walls = new Walls[count];
        Layers.each(count, progress.pass(0, 2), layer -> {
            if (slices.sameAs(layer) == layer) {
                walls[layer] = Walls.of(slices.areas(layer), recipe, slices.heightMm(layer));
            }
        });
        List<List<Bridge>> bridges = new ArrayList<>(Collections.nCopies(count, List.of()));
        Layers.each(count, progress.pass(1, 2), layer -> {
            walls[layer] = walls[slices.sameAs(layer)];
            if (layer > 0 && slices.sameAs(layer) == layer) {
                bridges.set(layer, bridges(walls[layer].inside(), layer, slices, coverage, recipe));
            }
        });
        return new WalledSlices(slices, coverage, List.of(walls), bridges);
    }

    /** Only what the layer below leaves open can be a bridge, which a coarse hatch tells at once. */
    private static List<Bridge> bridges(List<Island> inside, int layer, Slices slices, Coverage coverage, Recipe recipe) {
        double width = recipe.lineWidthMm();
        HatchLines.Ruling ruling = HatchLines.Ruling.of(0, 2 * width);
        HatchLines open = HatchLines.of(Island.rings(inside), ruling).minus(coverage.outline(layer - 1, ruling)).atLeast(2 * width);
        return open.isEmpty() || recipe.bottomLayers() == 0 && recipe.topLayers() == 0 ? List.of()
                : Bridge.of(inside, slices.areas(layer - 1), width);
    }

    Slices slices() {
        return slices;
    }

    Coverage coverage() {
        return coverage;
    }

    Walls walls(int layer) {
        return walls.get(layer);
    }

    List<List<Bridge>> bridges() {
        return bridges;
    }
}
