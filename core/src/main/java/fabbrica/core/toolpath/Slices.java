package fabbrica.core.toolpath;

import fabbrica.core.mesh.model.Bounds;
import fabbrica.core.mesh.model.Mesh;
import fabbrica.core.recipe.Recipe;
import fabbrica.core.units.Progress;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.Collections;
import java.util.List;
import java.util.stream.IntStream;

/**
 * A part cut into layers, each as the solid areas on it: all that recipes with the same layer heights share. Contours are
 * simplified to {@value #TOLERANCE_MM} mm.
 *
 * <p>Layers that look the same share their areas: {@code sameAs[layer]} is the lowest one with the very same outline and
 * height, down an unbroken run of such.
 */
public final class Slices {

    static final double TOLERANCE_MM = 0.02;

    private final LayerStack stack;
    private final List<List<Island>> areas;
    private final int[] sameAs;

    private Slices(LayerStack stack, List<List<Island>> areas, int[] sameAs) {
        this.stack = stack;
        this.areas = areas;
        this.sameAs = sameAs;
    }

    /**
     * Cuts a part, its lowest point on the bed. Layers are worked on in parallel.
     *
     * @param mesh in millimetres
     * @throws java.util.concurrent.CancellationException when {@code progress} says so
     */
    public static Slices of(Mesh mesh, Recipe recipe, Progress progress) {
        Bounds bounds = mesh.bounds();
        LayerStack stack = LayerStack.of(mesh, recipe);
        ContourCutter cutter = new ContourCutter(mesh, bounds.minZ(), stack);
        int count = stack.count();
        List<List<double[]>> contours = new ArrayList<>(Collections.nCopies(count, null));
        Layers.each(count, progress, layer -> contours.set(layer, cutter.cut(layer).stream()
                .map(ring -> RingSimplifier.simplify(ring, TOLERANCE_MM)).filter(ring -> ring.length > 0).toList()));
        int[] sameAs = new int[count];
        for (int layer = 0; layer < count; layer++) {
            boolean same = layer > 1 && Math.abs(stack.heightMm(layer) - stack.heightMm(layer - 1)) < 1e-9
                    && sameRings(contours.get(layer), contours.get(layer - 1));
            sameAs[layer] = same ? sameAs[layer - 1] : layer;
        }
        List<List<Island>> areas = new ArrayList<>(Collections.nCopies(count, null));
        Layers.each(count, progress, layer -> {
            if (sameAs[layer] == layer) {
                areas.set(layer, SolidArea.of(contours.get(layer)).islands());
            }
        });
        for (int layer = 0; layer < count; layer++) {
            areas.set(layer, areas.get(sameAs[layer]));
        }
        return new Slices(stack, areas, sameAs);
    }

    private static boolean sameRings(List<double[]> a, List<double[]> b) {
        return a.size() == b.size() && IntStream.range(0, a.size()).allMatch(i -> Arrays.equals(a.get(i), b.get(i)));
    }

    LayerStack stack() {
        return stack;
    }

    public int count() {
        return stack.count();
    }

    List<Island> areas(int layer) {
        return areas.get(layer);
    }

    int sameAs(int layer) {
        return sameAs[layer];
    }

    /** Solid area of a layer in mm². */
    public double areaMm2(int layer) {
        return Island.areaMm2(areas.get(layer));
    }

    /** Thickness of a layer in mm. */
    public double heightMm(int layer) {
        return stack.heightMm(layer);
    }
}
