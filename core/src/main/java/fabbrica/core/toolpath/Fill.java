package fabbrica.core.toolpath;

import fabbrica.core.recipe.InfillPattern;
import fabbrica.core.recipe.LineWork;
import fabbrica.core.recipe.Recipe;
import fabbrica.core.recipe.Zone;
import fabbrica.core.toolpath.HatchLines.Ruling;
import java.util.ArrayList;
import java.util.List;
import java.util.stream.IntStream;
import org.jspecify.annotations.Nullable;

/**
 * What is laid inside the walls of one layer: a stretch of hatch that is covered by the part for as many layers above and
 * below as the recipe closes is infill, the rest is solid, and what of it spans air is laid along the bridge.
 */
final class Fill {

    /** Hatch stretches below this part of a line's width add nothing. */
    private static final double SHORTEST_PER_WIDTH = 0.5;
    private static final double[] SOLID_DIRECTIONS_DEG = {45, 135};
    /** How far bridges reach onto their holds, in line widths. */
    private static final double HOLD_PER_WIDTH = 2;

    private final Recipe recipe;
    private final int number;
    private final double cutMm;
    private final double heightMm;
    private final List<double[]> inside;
    private final List<Bridge> bridges;
    private final Coverage coverage;
    private final List<Zone> zones;
    private final List<Laid> laid = new ArrayList<>();

    /** Lines of one kind, strung together. */
    record Laid(ZigZag lines, PathType type, double widthMm, double areaMm2) {
    }

    /** Part of the layer with its own values. */
    private record ZoneLines(HatchLines lines, @Nullable Zone zone) {
    }

    /** @param cutMm height of the layer's cut above the part's lowest point */
    Fill(Recipe recipe, int number, double cutMm, double heightMm, List<double[]> inside, List<Bridge> bridges,
         Coverage coverage) {
        this.recipe = recipe;
        this.number = number;
        this.cutMm = cutMm;
        this.heightMm = heightMm;
        this.inside = inside;
        this.bridges = bridges;
        this.coverage = coverage;
        this.zones = recipe.lines().zones().stream().filter(zone -> zone.reaches(cutMm)).toList();
    }

    List<Laid> straight() {
        double spacing = recipe.lineSpacingMm(heightMm), width = recipe.lineWidthMm();
        double area = recipe.lineAreaMm2(heightMm);
        Ruling ruling = Ruling.of(SOLID_DIRECTIONS_DEG[number % 2], spacing);
        HatchLines solid = solid(ruling);
        for (Bridge bridge : bridges) {
            List<double[]> held = Island.rings(Offset.outwards(List.of(bridge.area()), HOLD_PER_WIDTH * width));
            solid = solid.minus(HatchLines.of(held, ruling));
            Ruling along = Ruling.of(bridge.directionDeg(), spacing);
            lay(HatchLines.of(held, along).and(HatchLines.of(inside, along)), PathType.BRIDGE, width, area);
        }
        lay(solid, PathType.SOLID, width, area);
        if (recipe.pattern() != InfillPattern.GYROID) {
            layInfill();
        }
        return laid;
    }

    private HatchLines solid(Ruling ruling) {
        HatchLines solid = HatchLines.none(ruling);
        for (ZoneLines lines : byZone(ruling)) {
            solid = solid.or(lines.lines().minus(covered(lines, ruling)));
        }
        return solid;
    }

    private void layInfill() {
        LineWork work = recipe.lines();
        double width = work.infillWidth() * recipe.lineWidthMm(), area = Recipe.lineAreaMm2(width, heightMm);
        double[] directions = recipe.pattern().directionsDeg(number);
        for (Zone zone : densities()) {
            double density = zone == null ? recipe.infill() : zone.infillOr(recipe.infill());
            if (density > 0) {
                double wide = area / heightMm * directions.length * work.infillLines() / density;
                for (double direction : directions) {
                    for (int line = 0; line < work.infillLines(); line++) {
                        double shift = (line - (work.infillLines() - 1) / 2.0) * area / heightMm;
                        Ruling ruling = new Ruling(direction + work.infillAngleDeg(), wide, shift);
                        byZone(ruling).stream().filter(lines -> lines.zone() == zone)
                                .forEach(lines -> lay(covered(lines, ruling), PathType.INFILL, width, area));
                    }
                }
            }
        }
    }

    /** The waves of a gyroid, each cut to where the part is covered, to and fro. */
    void layGyroid(Router router, Layer.Builder layer) {
        if (recipe.pattern() != InfillPattern.GYROID || inside.isEmpty()) {
            return;
        }
        double width = recipe.lines().infillWidth() * recipe.lineWidthMm(), area = Recipe.lineAreaMm2(width, heightMm);
        Ruling ruling = Ruling.of(0, recipe.lineSpacingMm(heightMm) / 2);
        double[] box = box(inside);
        for (ZoneLines lines : byZone(ruling)) {
            double density = lines.zone() == null ? recipe.infill() : lines.zone().infillOr(recipe.infill());
            HatchLines covered = covered(lines, ruling);
            if (density > 0 && !covered.isEmpty()) {
                boolean back = false;
                for (double[] wave : new Gyroid(density * heightMm / area, cutMm).waves(box[0], box[1], box[2], box[3])) {
                    layInside(wave, back, covered, width, area, router, layer);
                    back = !back;
                }
            }
        }
    }

    /** The stretches of a wave that are covered, without points that stray less than the tolerance of outlines. */
    private static void layInside(double[] wave, boolean back, HatchLines covered, double width, double area, Router router,
                                  Layer.Builder layer) {
        int size = wave.length / 2, from = -1;
        for (int i = 0; i <= size; i++) {
            int at = back ? size - 1 - i : i;
            boolean lies = i < size && covered.contains(wave[2 * at], wave[2 * at + 1]);
            if (lies && from < 0) {
                from = i;
            } else if (!lies && from >= 0) {
                double[] stretch = new double[2 * (i - from)];
                for (int j = from; j < i; j++) {
                    int point = back ? size - 1 - j : j;
                    stretch[2 * (j - from)] = wave[2 * point];
                    stretch[2 * (j - from) + 1] = wave[2 * point + 1];
                }
                double[] points = RingSimplifier.simplifyLine(stretch, Slices.TOLERANCE_MM);
                router.to(points[0], points[1]);
                layer.path(PathType.INFILL, width, area);
                for (int j = 0; j < points.length; j += 2) {
                    layer.point(points[j], points[j + 1]);
                }
                from = -1;
            }
        }
    }

    /** The hatch of the inside, cut up by the zones that reach this layer. */
    private List<ZoneLines> byZone(Ruling ruling) {
        List<ZoneLines> byZone = new ArrayList<>();
        HatchLines rest = HatchLines.of(inside, ruling);
        for (Zone zone : zones.reversed()) {
            HatchLines box = HatchLines.of(List.of(zone.ring()), ruling);
            byZone.add(new ZoneLines(rest.and(box), zone));
            rest = rest.minus(box);
        }
        byZone.add(new ZoneLines(rest, null));
        return byZone;
    }

    private List<Zone> densities() {
        List<Zone> all = new ArrayList<>(zones);
        all.add(null);
        return all;
    }

    private HatchLines covered(ZoneLines lines, Ruling ruling) {
        Zone zone = lines.zone();
        int below = zone == null ? recipe.bottomLayers() : zone.bottomLayersOr(recipe.bottomLayers());
        int above = zone == null ? recipe.topLayers() : zone.topLayersOr(recipe.topLayers());
        return coverage.covered(number, lines.lines(), ruling, below, above);
    }

    private void lay(HatchLines lines, PathType type, double widthMm, double areaMm2) {
        double shortest = (type == PathType.INFILL ? 1 : SHORTEST_PER_WIDTH) * recipe.lineWidthMm();
        laid.add(new Laid(ZigZag.of(lines, shortest), type, widthMm, areaMm2));
    }

    /** Which strings of some lines begin in which island; the first one when it cannot be told. */
    static int[][] byIsland(ZigZag lines, List<Island> islands) {
        if (islands.size() == 1) {
            return new int[][] {IntStream.range(0, lines.stringCount()).toArray()};
        }
        int[] island = new int[lines.stringCount()];
        for (int string = 0; string < island.length; string++) {
            double[] at = lines.within(string);
            for (int i = 0; i < islands.size(); i++) {
                if (islands.get(i).contains(at[0], at[1])) {
                    island[string] = i;
                    break;
                }
            }
        }
        return IntStream.range(0, islands.size()).mapToObj(i -> IntStream.range(0, island.length)
                .filter(string -> island[string] == i).toArray()).toArray(int[][]::new);
    }

    private static double[] box(List<double[]> rings) {
        double[] box = {Double.POSITIVE_INFINITY, Double.POSITIVE_INFINITY, Double.NEGATIVE_INFINITY,
            Double.NEGATIVE_INFINITY};
        for (double[] ring : rings) {
            for (int i = 0; i < ring.length; i += 2) {
                box[0] = Math.min(box[0], ring[i]);
                box[1] = Math.min(box[1], ring[i + 1]);
                box[2] = Math.max(box[2], ring[i]);
                box[3] = Math.max(box[3], ring[i + 1]);
            }
        }
        return box;
    }
}
