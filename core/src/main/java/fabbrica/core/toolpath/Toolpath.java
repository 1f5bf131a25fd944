package fabbrica.core.toolpath;

import fabbrica.core.bed.Bed;
import fabbrica.core.mesh.model.Mesh;
import fabbrica.core.recipe.Recipe;
import fabbrica.core.units.Progress;
import fabbrica.core.units.Spoken;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import java.util.stream.IntStream;
import org.jspecify.annotations.Nullable;

/**
 * The layers of a part with their paths, from the bed up. Every layer is cut at half its height.
 *
 * @param changes  where the filament is to be changed
 * @param cautions sentences for what of the part or the recipe could not be laid
 */
public record Toolpath(List<Layer> layers, List<Change> changes, List<String> cautions) {

    /** Less of the part than this, and of any layer, is left out without a word: every sharp tip ends in nothing. */
    private static final double LEFT_OUT = 0.01;
    private static final double LEFT_OUT_OF_LAYER = 0.2;

    /**
     * A change of filament can only be made between layers: it lands on the first that begins no lower than planned.
     *
     * @param layer number of the layer that begins with the new filament
     */
    public record Change(double plannedMm, int layer, double landsAtMm) {
    }

    public Toolpath {
        layers = List.copyOf(layers);
        changes = List.copyOf(changes);
        cautions = List.copyOf(cautions);
    }

    /**
     * Lays out a part, its lowest point on the bed. Layers are worked on in parallel.
     *
     * @param mesh in millimetres
     * @throws java.util.concurrent.CancellationException when {@code progress} says so
     */
    public static Toolpath of(Mesh mesh, Recipe recipe, Progress progress) {
        return of(mesh, recipe, List.of(), progress);
    }

    /**
     * The same for all that lies on a bed, its skirt beside what is to be kept free.
     *
     * @param mesh in millimetres, in bed coordinates
     */
    public static Toolpath of(Mesh mesh, Recipe recipe, List<Bed.Zone> kept, Progress progress) {
        WalledSlices walled = WalledSlices.of(Slices.of(mesh, recipe, progress.pass(0, 3)), recipe, progress.pass(1, 3));
        return of(walled, recipe, kept, progress.pass(2, 3));
    }

    /** The same for what has its walls already: recipes share it that are the same {@link Recipe#outside}. */
    public static Toolpath of(WalledSlices walled, Recipe recipe, List<Bed.Zone> kept, Progress progress) {
        return new Laying(walled, recipe, kept, progress).toolpath();
    }

    /** Parts that are printed one after another, each from the bed up; with the filament that it begins with changed back. */
    public static Toolpath oneAfterAnother(List<Toolpath> parts) {
        List<Layer> layers = new ArrayList<>();
        List<Change> changes = new ArrayList<>();
        List<String> cautions = new ArrayList<>();
        for (Toolpath part : parts) {
            part.cautions().stream().filter(caution -> !cautions.contains(caution)).forEach(cautions::add);
            if (!layers.isEmpty() && !changes.isEmpty() && !part.changes().isEmpty()) {
                changes.add(new Change(0, layers.size(), 0));
            }
            part.changes().forEach(change -> changes.add(new Change(change.plannedMm(), layers.size() + change.layer(),
                    change.landsAtMm())));
            layers.addAll(part.layers());
        }
        return new Toolpath(layers, changes, cautions);
    }

    /** The last layer before another that has paths; null when there is none. */
    public @Nullable Layer laidBelow(int layer) {
        int below = layer - 1;
        while (below >= 0 && layers.get(below).pathCount() == 0) {
            below--;
        }
        return below < 0 ? null : layers.get(below);
    }

    /** Length laid of one type, in millimetres. */
    public double lengthMm(PathType type) {
        return layers.stream().mapToDouble(layer -> layer.lengthMm(type)).sum();
    }

    private static final class Laying {

        private final Slices slices;
        private final WalledSlices walled;
        private final Recipe recipe;
        private final List<Bed.Zone> kept;
        private final Progress progress;
        private final int count;
        private final List<String> cautions = new ArrayList<>();

        Laying(WalledSlices walled, Recipe recipe, List<Bed.Zone> kept, Progress progress) {
            this.walled = walled;
            this.slices = walled.slices();
            this.recipe = recipe;
            this.kept = kept;
            this.progress = progress;
            count = slices.count();
        }

        Toolpath toolpath() {
            int passes = recipe.propped() ? 2 : 1;
            SupportLines supports = recipe.propped()
                    ? SupportLines.of(slices, recipe, walled.bridges(), progress.pass(0, passes)) : null;
            AdhesionPaths adhesion = new AdhesionPaths(recipe, slices.areas(0),
                    supports == null ? List.of() : supports.feet(), kept);
            List<Layer> all = new ArrayList<>(adhesion.raft());
            int under = all.size();
            double base = all.isEmpty() ? 0 : all.getLast().topMm();
            List<Change> changes = changes(base, under);
            PurgeTower tower = tower(changes);
            Layer[] layers = new Layer[count];
            Layers.each(count, progress.pass(passes - 1, passes), layer -> layers[layer] = lay(layer, base, supports, adhesion, tower,
                    changes, under));
            all.addAll(Arrays.asList(layers));
            leftOut();
            return new Toolpath(all, changes, cautions);
        }

        private void leftOut() {
            double leftOut = 0, volume = 0, worst = 0;
            for (int layer = 0; layer < count; layer++) {
                double area = slices.areaMm2(layer);
                leftOut += walled.walls(layer).leftOutMm2() * slices.heightMm(layer);
                volume += area * slices.heightMm(layer);
                worst = Math.max(worst, walled.walls(layer).leftOutMm2() / Math.max(area, 1e-9));
            }
            if (leftOut >= LEFT_OUT * volume || worst >= LEFT_OUT_OF_LAYER) {
                cautions.add("Walls thinner than %s mm cannot be laid and are left out: %s %% of the part.".formatted(
                        Spoken.number(recipe.thinnestLineMm(), 2), Spoken.number(100 * leftOut / volume, 1)));
            }
        }

        private List<Change> changes(double base, int under) {
            List<Change> changes = new ArrayList<>();
            for (double planned : recipe.lines().changesMm()) {
                IntStream.range(1, count).filter(layer -> base + slices.stack().topMm(layer - 1) >= planned - 1e-6)
                        .findFirst().ifPresentOrElse(layer -> changes.add(new Change(planned, under + layer,
                                base + slices.stack().topMm(layer - 1))), () -> cautions.add(("The filament is not changed at %s mm: "
                                + "the last layer begins below.").formatted(Spoken.number(planned, 2))));
            }
            return changes;
        }

        private @Nullable PurgeTower tower(List<Change> changes) {
            if (changes.isEmpty() || recipe.lines().towerMm3() == 0) {
                return null;
            }
            double right = Double.NEGATIVE_INFINITY, front = Double.POSITIVE_INFINITY;
            for (int layer = 0; layer < count; layer++) {
                for (Island island : slices.areas(layer)) {
                    right = Math.max(right, Rings.box(island.outline()).getMaxX());
                    front = Math.min(front, Rings.box(island.outline()).getMinY());
                }
            }
            return new PurgeTower(recipe, right, front);
        }

        private Layer lay(int number, double base, @Nullable SupportLines supports, AdhesionPaths adhesion, @Nullable PurgeTower tower,
                          List<Change> changes, int under) {
            Layer.Builder layer = new Layer.Builder();
            List<Island> areas = slices.areas(number);
            Router router = new Router(areas, layer);
            double height = slices.heightMm(number), top = base + slices.stack().topMm(number);
            boolean spiral = recipe.lines().spiral() && number >= recipe.bottomLayers();
            if (number == 0) {
                adhesion.layLoops(router, layer);
            }
            if (tower != null && number + under <= changes.getLast().layer()) {
                tower.lay(number == 0 || changes.stream().anyMatch(change -> change.layer() == number + under), height,
                        number, router, layer);
            }
            if (spiral) {
                laySpiral(areas, height, layer);
                return layer.build(top, height, true);
            }
            if (supports != null) {
                double area = recipe.lineAreaMm2(height);
                ZigZag.of(supports.body(number), recipe.lineWidthMm())
                        .lay(PathType.SUPPORT, recipe.lineWidthMm(), area, router, layer);
                ZigZag.of(supports.faces(number), recipe.lineWidthMm())
                        .lay(PathType.SUPPORT_FACE, recipe.lineWidthMm(), area, router, layer);
            }
            layPart(number, height, areas, router, layer);
            return layer.build(top, height, false);
        }

        /** Island by island, the nearest next; walls, then what is inside, then single lines in the middle. */
        private void layPart(int number, double height, List<Island> areas, Router router, Layer.Builder layer) {
            Walls walls = walled.walls(number);
            Fill fill = new Fill(recipe, number, slices.stack().cutMm(number), height, walls.filled(), walled.bridges().get(number),
                    walled.coverage());
            List<Fill.Laid> filled = fill.straight();
            List<int[][]> strings = filled.stream().map(laid -> Fill.byIsland(laid.lines(), areas)).toList();
            List<List<WallLine>> lines = linesByIsland(areas, walls.lines());
            boolean[] laid = new boolean[areas.size()];
            for (int done = 0; done < laid.length; done++) {
                int island = nearest(areas, laid, layer);
                laid[island] = true;
                int rounds = lines.get(island).stream().mapToInt(WallLine::wall).max().orElse(-1) + 1;
                for (int i = 0; i < rounds; i++) {
                    layWall(recipe.lines().outerFirst() ? i : rounds - 1 - i, lines.get(island), number, height, router, layer);
                }
                for (int i = 0; i < filled.size(); i++) {
                    Fill.Laid hatch = filled.get(i);
                    hatch.lines().lay(strings.get(i)[island], hatch.type(), hatch.widthMm(), hatch.areaMm2(), router, layer);
                }
                layWall(WallLine.MIDDLE, lines.get(island), number, height, router, layer);
            }
            fill.layGyroid(router, layer);
        }

        private void layWall(int wall, List<WallLine> lines, int number, double height, Router router, Layer.Builder layer) {
            PathType type = wall == WallLine.MIDDLE ? PathType.THIN_LINE : wall == 0 ? PathType.OUTER_WALL
                    : PathType.INNER_WALL;
            LoopOrder.lay(lines.stream().filter(line -> line.wall() == wall).map(line -> new LoopOrder.Loop(line, type))
                    .toList(), recipe.lineWidthMm(), recipe.lineAreaMm2(height), height, recipe.lines().seam(), number,
                    router, layer);
        }

        private static List<List<WallLine>> linesByIsland(List<Island> areas, List<WallLine> lines) {
            List<List<WallLine>> byIsland = new ArrayList<>();
            areas.forEach(area -> byIsland.add(new ArrayList<>()));
            for (WallLine line : lines) {
                int at = 0;
                for (int i = 0; i < areas.size() && areas.size() > 1; i++) {
                    if (areas.get(i).contains(line.points()[0], line.points()[1])) {
                        at = i;
                        break;
                    }
                }
                byIsland.get(at).add(line);
            }
            return byIsland;
        }

        private static int nearest(List<Island> areas, boolean[] laid, Layer.Builder layer) {
            int nearest = -1;
            double least = Double.POSITIVE_INFINITY;
            for (int i = 0; i < laid.length; i++) {
                double[] ring = areas.get(i).outline();
                double distance = Math.hypot(ring[0] - layer.lastX(), ring[1] - layer.lastY());
                if (!laid[i] && distance < least) {
                    least = distance;
                    nearest = i;
                }
            }
            return nearest;
        }

        /** The outline of the largest area, begun at the back so that each loop goes on where the last one ended. */
        private void laySpiral(List<Island> areas, double height, Layer.Builder layer) {
            areas.stream().max(java.util.Comparator.comparingDouble(Island::areaMm2)).ifPresent(island -> {
                for (Island line : Offset.inwards(List.of(new Island(island.outline(), List.of())),
                        recipe.lineSpacingMm(height) / 2)) {
                    double[] ring = line.outline();
                    int start = 0;
                    for (int i = 2; i < ring.length; i += 2) {
                        start = ring[i + 1] > ring[start + 1] ? i : start;
                    }
                    layer.path(PathType.OUTER_WALL, recipe.lineWidthMm(), recipe.lineAreaMm2(height));
                    for (int i = 0; i <= ring.length; i += 2) {
                        layer.point(ring[(start + i) % ring.length], ring[(start + i) % ring.length + 1]);
                    }
                }
            });
        }
    }
}
