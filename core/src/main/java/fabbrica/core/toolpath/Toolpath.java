package fabbrica.core.toolpath;

import fabbrica.core.mesh.model.Bounds;
import fabbrica.core.mesh.model.Mesh;
import fabbrica.core.recipe.Recipe;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import java.util.Map;
import java.util.concurrent.ConcurrentHashMap;
import java.util.concurrent.atomic.AtomicInteger;
import java.util.function.IntConsumer;
import java.util.stream.IntStream;
import org.locationtech.jts.geom.Geometry;

/**
 * The layers of a part with their paths, from the bed up. Supports are not laid.
 *
 * <p>Every layer is cut at half its height; contours are simplified to {@value #TOLERANCE_MM} mm. What is not wall is
 * hatched: a stretch of line that is covered by the part for as many layers above and below as the recipe closes is
 * infill, the rest is solid. This is decided line by line on hatches, exactly, without overlaying areas.
 */
public record Toolpath(List<Layer> layers) {

    static final double TOLERANCE_MM = 0.01;
    /** Hatch stretches below this part of a line's width add nothing. */
    private static final double SHORTEST_PER_WIDTH = 0.5;
    private static final double[] SOLID_DIRECTIONS_DEG = {45, 135};

    public Toolpath {
        layers = List.copyOf(layers);
    }

    /**
     * Lays out a part, its lowest point on the bed. Layers are worked on in parallel.
     *
     * @param mesh in millimetres
     * @throws java.util.concurrent.CancellationException when {@code progress} says so
     */
    public static Toolpath of(Mesh mesh, Recipe recipe, Progress progress) {
        return new Planner(mesh, recipe, progress).toolpath();
    }

    /** Length laid of one type, in millimetres. */
    public double lengthMm(PathType type) {
        return layers.stream().mapToDouble(layer -> layer.lengthMm(type)).sum();
    }

    private static final class Planner {

        private final Recipe recipe;
        private final Progress progress;
        private final LayerStack stack;
        private final ContourCutter cutter;
        private final int count;
        private final List<List<double[]>> outlines;
        private final Insets[] insets;
        private final AtomicInteger steps = new AtomicInteger();
        private Geometry firstArea;

        Planner(Mesh mesh, Recipe recipe, Progress progress) {
            this.recipe = recipe;
            this.progress = progress;
            Bounds bounds = mesh.bounds();
            stack = LayerStack.of(bounds.sizeZ(), recipe.firstLayerHeightMm(), recipe.layerHeightMm());
            cutter = new ContourCutter(mesh, bounds.minZ(), stack);
            count = stack.count();
            outlines = new ArrayList<>(java.util.Collections.nCopies(count, null));
            insets = new Insets[count];
        }

        Toolpath toolpath() {
            forEachLayer(layer -> outlines.set(layer, cutter.cut(layer).stream()
                    .map(ring -> RingSimplifier.simplify(ring, TOLERANCE_MM)).filter(ring -> ring.length > 0)
                    .toList()));
            int[] sameAs = repeats();
            forEachLayer(layer -> {
                if (sameAs[layer] == layer) {
                    inset(layer);
                }
            });
            forEachLayer(layer -> {
                outlines.set(layer, outlines.get(sameAs[layer]));
                insets[layer] = insets[sameAs[layer]];
            });
            Hatches hatches = new Hatches(sameAs);
            Layer[] layers = new Layer[count];
            AdhesionPaths adhesion = new AdhesionPaths(recipe, firstArea);
            List<Layer> all = new ArrayList<>(adhesion.raft());
            double base = all.isEmpty() ? 0 : all.getLast().topMm();
            forEachLayer(layer -> layers[layer] = lay(layer, base, hatches, adhesion));
            all.addAll(Arrays.asList(layers));
            return new Toolpath(all);
        }

        /** Sets the layer's outline to the boundary of its solid area, and its walls. */
        private void inset(int layer) {
            Geometry area = SolidArea.of(outlines.get(layer));
            outlines.set(layer, Rings.of(area));
            insets[layer] = Insets.of(area, recipe.walls(), recipe.lineWidthMm(), spacing(layer));
            if (layer == 0) {
                firstArea = area;
            }
        }

        /** For each layer the lowest one with the very same outline and height, down an unbroken run of such. */
        private int[] repeats() {
            int[] sameAs = new int[count];
            for (int layer = 0; layer < count; layer++) {
                boolean same = layer > 1 && sameRings(outlines.get(layer), outlines.get(layer - 1));
                sameAs[layer] = same ? sameAs[layer - 1] : layer;
            }
            return sameAs;
        }

        private static boolean sameRings(List<double[]> a, List<double[]> b) {
            return a.size() == b.size() && IntStream.range(0, a.size()).allMatch(i -> Arrays.equals(a.get(i), b.get(i)));
        }

        private Layer lay(int number, double base, Hatches hatches, AdhesionPaths adhesion) {
            Layer.Builder layer = new Layer.Builder();
            if (number == 0) {
                adhesion.layLoops(layer);
            }
            List<LoopOrder.Loop> loops = new ArrayList<>();
            List<List<double[]>> walls = insets[number].walls();
            for (int wall = 0; wall < walls.size(); wall++) {
                for (double[] ring : walls.get(wall)) {
                    loops.add(new LoopOrder.Loop(ring, wall == 0 ? PathType.OUTER_WALL : PathType.INNER_WALL));
                }
            }
            LoopOrder.lay(loops, layer);
            double shortest = SHORTEST_PER_WIDTH * recipe.lineWidthMm();
            double spacing = spacing(number);
            double solidDirection = SOLID_DIRECTIONS_DEG[number % 2];
            HatchLines whole = HatchLines.of(insets[number].inside(), solidDirection, spacing);
            ZigZag.lay(whole.minus(hatches.covered(number, whole, solidDirection, spacing)), PathType.SOLID, shortest,
                    layer);
            if (recipe.infill() > 0) {
                double[] directions = recipe.pattern().directionsDeg(number);
                double wide = spacing * directions.length / recipe.infill();
                for (double direction : directions) {
                    HatchLines sparse = HatchLines.of(insets[number].inside(), direction, wide);
                    ZigZag.lay(hatches.covered(number, sparse, direction, wide), PathType.INFILL,
                            recipe.lineWidthMm(), layer);
                }
            }
            double height = stack.heightMm(number);
            return layer.build(base + stack.topMm(number), height, recipe.lineAreaMm2(height));
        }

        private double spacing(int layer) {
            return recipe.lineSpacingMm(stack.heightMm(layer));
        }

        private void forEachLayer(IntConsumer work) {
            int passes = 4;
            IntStream.range(0, count).parallel().forEach(layer -> {
                progress.check();
                work.accept(layer);
                progress.reached(steps.incrementAndGet() / (double) (passes * count));
            });
        }

        /** Decides what part of a layer's hatch is covered above and below. */
        private final class Hatches {

            private record Key(int layer, double direction, double spacing) {
            }

            private final int[] sameAs;
            /** Of whole outlines: each is compared with as many layers as the recipe closes. */
            private final Map<Key, HatchLines> hatched = new ConcurrentHashMap<>();

            Hatches(int[] sameAs) {
                this.sameAs = sameAs;
            }

            HatchLines covered(int layer, HatchLines hatch, double direction, double spacing) {
                int lowest = layer - recipe.bottomLayers(), highest = layer + recipe.topLayers();
                if (lowest < 0 || highest >= count) {
                    return HatchLines.of(List.of(), direction, spacing);
                }
                HatchLines covered = hatch;
                int compared = sameAs[layer];
                for (int other = lowest; other <= highest; other++) {
                    if (sameAs[other] != sameAs[layer] && sameAs[other] != compared) {
                        compared = sameAs[other];
                        covered = covered.and(hatched.computeIfAbsent(new Key(compared, direction, spacing),
                                key -> HatchLines.of(outlines.get(key.layer()), direction, spacing)));
                    }
                }
                return covered;
            }
        }
    }
}
