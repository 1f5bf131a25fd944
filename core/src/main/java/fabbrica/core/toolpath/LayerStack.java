package fabbrica.core.toolpath;

import fabbrica.core.mesh.model.Bounds;
import fabbrica.core.mesh.model.Mesh;
import fabbrica.core.recipe.Recipe;
import java.util.Arrays;

/**
 * The heights of a part's layers above its lowest point. The last layer is the one whose top reaches the part's height to
 * within a hundredth of a layer. Layers are cut at half their height.
 */
final class LayerStack {

    private static final double WHOLE = 0.01;
    /** The layer window in parts of the line width, which is about 1.05 bores (common practice, no source). */
    private static final double THINNEST_PER_WIDTH = 0.2 / 1.05;
    private static final double THICKEST_PER_WIDTH = 0.7 / 1.05;
    /** Steeper than this a face counts as level: any layer ends on it. */
    private static final double LEVEL = 0.999;
    private static final double BIN_MM = 0.05;

    private final double[] tops;

    private LayerStack(double[] tops) {
        this.tops = tops;
    }

    static LayerStack of(Mesh mesh, Recipe recipe) {
        double height = mesh.bounds().sizeZ();
        return recipe.lines().variableLayers() ? following(mesh, recipe)
                : of(height, recipe.firstLayerHeightMm(), recipe.layerHeightMm());
    }

    /** The first layer apart, the rest equal. */
    static LayerStack of(double heightMm, double firstMm, double otherMm) {
        int others = Math.max(0, (int) Math.ceil((heightMm - firstMm) / otherMm - WHOLE));
        double[] tops = new double[1 + others];
        Arrays.setAll(tops, layer -> firstMm + layer * otherMm);
        return new LayerStack(tops);
    }

    /**
     * Layers as thick as the slope of the surface allows, so that its steps are equally wide wherever they show: on the
     * slopes of domes thin, on walls thick (the idea of Dolenc and Mäkelä, "Slicing procedures for layered manufacturing
     * techniques", 1994, who bound how far steps stand out). The recipe's layer height is right for a slope of 45°; layers
     * are down to 0.4 and up to 1.5 times as thick, within the nozzle's window.
     */
    private static LayerStack following(Mesh mesh, Recipe recipe) {
        Bounds bounds = mesh.bounds();
        double usual = recipe.layerHeightMm(), first = recipe.firstLayerHeightMm(), height = bounds.sizeZ();
        double thinnest = Math.max(THINNEST_PER_WIDTH * recipe.lineWidthMm(), usual / 2.5);
        double thickest = Math.max(usual, Math.min(THICKEST_PER_WIDTH * recipe.lineWidthMm(), usual * 1.5));
        double[] levelness = levelness(mesh, bounds);
        double[] tops = new double[1 + Math.max(0, (int) Math.ceil((height - first) / thinnest))];
        int count = 1;
        tops[0] = first;
        while (height - tops[count - 1] > usual * WHOLE) {
            double from = tops[count - 1], layer = thickest;
            for (int bin = bin(from, levelness); bin <= bin(from + layer, levelness); bin++) {
                double up = Math.max(1e-6, levelness[bin]), allowed = usual * Math.sqrt(1 - up * up) / up;
                layer = Math.min(layer, Math.max(thinnest, Math.max(allowed, bin * BIN_MM - from)));
            }
            tops = count == tops.length ? Arrays.copyOf(tops, count + 16) : tops;
            tops[count++] = from + layer;
        }
        return new LayerStack(Arrays.copyOf(tops, count));
    }

    /** For each bin of height the largest upward share of the normals of faces that are not level. */
    private static double[] levelness(Mesh mesh, Bounds bounds) {
        double[] levelness = new double[(int) (bounds.sizeZ() / BIN_MM) + 1];
        double[] normal = new double[3];
        for (int t = 0; t < mesh.triangleCount(); t++) {
            mesh.normal(t, normal);
            double length = Math.sqrt(normal[0] * normal[0] + normal[1] * normal[1] + normal[2] * normal[2]);
            double up = length == 0 ? 1 : Math.abs(normal[2]) / length;
            if (up < LEVEL) {
                double a = mesh.z(mesh.corner(t, 0)), b = mesh.z(mesh.corner(t, 1)), c = mesh.z(mesh.corner(t, 2));
                int last = bin(Math.max(a, Math.max(b, c)) - bounds.minZ(), levelness);
                for (int bin = bin(Math.min(a, Math.min(b, c)) - bounds.minZ(), levelness); bin <= last; bin++) {
                    levelness[bin] = Math.max(levelness[bin], up);
                }
            }
        }
        return levelness;
    }

    private static int bin(double heightMm, double[] bins) {
        return Math.clamp((int) (heightMm / BIN_MM), 0, bins.length - 1);
    }

    int count() {
        return tops.length;
    }

    double heightMm(int layer) {
        return layer == 0 ? tops[0] : tops[layer] - tops[layer - 1];
    }

    double topMm(int layer) {
        return tops[layer];
    }

    double cutMm(int layer) {
        return layer == 0 ? tops[0] / 2 : (tops[layer] + tops[layer - 1]) / 2;
    }

    /** The first layer whose cut lies above the given height. */
    int firstCutAbove(double heightMm) {
        int low = 0, high = tops.length;
        while (low < high) {
            int middle = (low + high) >>> 1;
            if (cutMm(middle) > heightMm) {
                high = middle;
            } else {
                low = middle + 1;
            }
        }
        return low;
    }
}
