package fabbrica.core.toolpath;

import fabbrica.core.recipe.Adhesion;
import fabbrica.core.recipe.Recipe;
import java.util.ArrayList;
import java.util.List;
import org.locationtech.jts.geom.Geometry;

/** What is printed around or under the first layer: skirt and brim loops, raft layers. */
final class AdhesionPaths {

    /** Of a raft's lowest layer, so that it peels off the bed. */
    private static final double COARSE_DENSITY = 0.5;

    private final Recipe recipe;
    private final Geometry firstLayer;

    /** @param firstLayer the area that touches the bed */
    AdhesionPaths(Recipe recipe, Geometry firstLayer) {
        this.recipe = recipe;
        this.firstLayer = firstLayer;
    }

    /** Lays skirt or brim loops, the outermost first, at the start of the first layer. */
    void layLoops(Layer.Builder layer) {
        double spacing = recipe.lineSpacingMm(recipe.firstLayerHeightMm());
        List<LoopOrder.Loop> loops = new ArrayList<>();
        switch (recipe.adhesion()) {
            case SKIRT -> {
                Geometry around = firstLayer.convexHull();
                for (int loop = 0; loop < Adhesion.SKIRT_LOOPS; loop++) {
                    add(loops, around, Adhesion.SKIRT_GAP_MM + recipe.lineWidthMm() / 2 + loop * spacing);
                }
            }
            case BRIM -> {
                int count = (int) Math.round(Adhesion.BRIM_MM / spacing);
                for (int loop = count - 1; loop >= 0; loop--) {
                    add(loops, Rings.filled(firstLayer), recipe.lineWidthMm() / 2 + loop * spacing);
                }
            }
            case NONE, RAFT -> {
            }
        }
        LoopOrder.lay(loops, layer);
    }

    /** The layers under the part; none unless the recipe asks for a raft. */
    List<Layer> raft() {
        List<Layer> layers = new ArrayList<>();
        if (recipe.adhesion() != Adhesion.RAFT || firstLayer.isEmpty()) {
            return layers;
        }
        List<double[]> area = Rings.of(Rings.filled(
                Insets.offset(Rings.filled(firstLayer), Adhesion.RAFT_MARGIN_MM)).buffer(0));
        double top = 0;
        for (double height : Adhesion.RAFT_LAYERS_MM) {
            boolean coarse = layers.isEmpty();
            double spacing = recipe.lineSpacingMm(height) / (coarse ? COARSE_DENSITY : 1);
            Layer.Builder layer = new Layer.Builder();
            ZigZag.lay(HatchLines.of(area, layers.size() % 2 == 0 ? 0 : 90, spacing), PathType.ADHESION,
                    recipe.lineWidthMm(), layer);
            top += height;
            layers.add(layer.build(top, height, recipe.lineAreaMm2(height)));
        }
        return layers;
    }

    private static void add(List<LoopOrder.Loop> loops, Geometry area, double distanceMm) {
        for (double[] ring : Rings.of(Insets.offset(area, distanceMm))) {
            loops.add(new LoopOrder.Loop(ring, PathType.ADHESION));
        }
    }
}
