package fabbrica.core.estimate;

import fabbrica.core.gcode.Cautions;
import fabbrica.core.gcode.Replay;
import fabbrica.core.mesh.model.Mesh;
import fabbrica.core.motion.Motion;
import fabbrica.core.recipe.Adhesion;
import fabbrica.core.recipe.Material;
import fabbrica.core.recipe.Preparation;
import fabbrica.core.recipe.Printer;
import fabbrica.core.recipe.Recipe;
import fabbrica.core.toolpath.Layer;
import fabbrica.core.toolpath.PathType;
import fabbrica.core.toolpath.Toolpath;
import fabbrica.core.toolpath.Toolpath.Change;
import fabbrica.core.units.Progress;
import java.util.Collections;
import java.util.DoubleSummaryStatistics;
import java.util.EnumMap;
import java.util.List;
import java.util.Map;
import java.util.function.ToDoubleFunction;

/**
 * Time and filament of printing what one toolpath lays.
 *
 * @param secondsByPhase only phases that take time
 * @param byPath         what each type of path takes
 * @param filamentMm3    plastic through the nozzle, purges included
 * @param filamentMm     the same as length of filament
 * @param purgedG        of the grams, what is purged before the print and at changes
 * @param heights        of the layers above the first
 * @param changes        where the filament is changed
 * @param cautions       sentences for what could not be laid, or is not known for sure
 * @param atLeast        whether it may take longer than worked out, for reasons in the cautions
 */
public record Estimate(Map<Phase, Double> secondsByPhase, Map<PathType, Share> byPath, double filamentMm3,
                       double filamentMm, double grams, double purgedG, int layers, LayerHeights heights, List<Change> changes,
                       List<String> cautions, boolean atLeast) {

    /** The thinnest and the thickest of some layers, mm. */
    public record LayerHeights(double finestMm, double coarsestMm) {

        private static LayerHeights of(Toolpath toolpath, Recipe recipe) {
            int under = 1 + (recipe.adhesion() == Adhesion.RAFT ? Adhesion.RAFT_LAYERS_MM.size() : 0);
            DoubleSummaryStatistics heights = toolpath.layers().stream().skip(under).mapToDouble(Layer::heightMm)
                    .summaryStatistics();
            return heights.getCount() == 0 ? new LayerHeights(recipe.layerHeightMm(), recipe.layerHeightMm())
                    : new LayerHeights(heights.getMin(), heights.getMax());
        }
    }

    /** @param lengthMm laid */
    public record Share(double seconds, double lengthMm, double grams) {

        private Share plus(Share other) {
            return new Share(seconds + other.seconds, lengthMm + other.lengthMm, grams + other.grams);
        }
    }

    public Estimate {
        secondsByPhase = copy(Phase.class, secondsByPhase);
        byPath = copy(PathType.class, byPath);
        changes = List.copyOf(changes);
        cautions = List.copyOf(cautions);
    }

    /**
     * @param mesh in millimetres, as it will lie on the bed
     * @throws java.util.concurrent.CancellationException when {@code progress} says so
     */
    public static Estimate of(Mesh mesh, Recipe recipe, Printer printer, Material material, Progress progress) {
        Toolpath toolpath = Toolpath.of(mesh, recipe, progress);
        return of(toolpath, Motion.of(toolpath, recipe, printer, progress), recipe, printer, material);
    }

    /** The same for a toolpath whose motion on the printer is known. */
    public static Estimate of(Toolpath toolpath, Motion motion, Recipe recipe, Printer printer, Material material) {
        Preparation preparation = printer.preparation();
        int changes = toolpath.changes().size();
        Map<Phase, Double> seconds = new EnumMap<>(Phase.class);
        seconds.put(Phase.HEAT_BED, preparation.bedHeatingS(material));
        seconds.put(Phase.HEAT_NOZZLE, preparation.nozzleHeatingS(material));
        seconds.put(Phase.HOME, preparation.homingS());
        seconds.put(Phase.LEVEL, preparation.levellingS());
        seconds.put(Phase.FLOW, preparation.flowS());
        seconds.put(Phase.PURGE, preparation.purgeS());
        motion.byType().forEach((type, share) -> seconds.put(Phase.of(type), share.seconds()));
        seconds.put(Phase.TRAVEL, motion.travelS());
        seconds.put(Phase.RETRACTION, motion.retractionS());
        seconds.put(Phase.CHANGE, changes * preparation.changeS());
        seconds.put(Phase.PICTURES, toolpath.layers().size() * preparation.pictureS());
        seconds.put(Phase.END, preparation.endS());
        seconds.values().removeIf(s -> s <= 0);
        Map<PathType, Share> byPath = new EnumMap<>(PathType.class);
        motion.byType().forEach((type, share) ->
                byPath.put(type, new Share(share.seconds(), share.lengthMm(), material.grams(share.mm3()))));
        double purged = preparation.purgeMm3() * (recipe.lines().towerMm3() > 0 ? 1 : 1 + changes);
        double mm3 = motion.mm3() + purged;
        return new Estimate(seconds, byPath, mm3, mm3 / printer.filamentAreaMm2(), material.grams(mm3),
                material.grams(purged), toolpath.layers().size(), LayerHeights.of(toolpath, recipe),
                toolpath.changes(), toolpath.cautions(), false);
    }

    /** What a file of G-code takes on the printer it was replayed on. */
    public static Estimate of(Replay replay, Printer printer, Material material) {
        Map<Phase, Double> seconds = new EnumMap<>(Phase.class);
        replay.waits().forEach((wait, s) -> seconds.merge(switch (wait) {
            case HEAT_BED -> Phase.HEAT_BED;
            case HEAT_NOZZLE -> Phase.HEAT_NOZZLE;
            case HOME -> Phase.HOME;
            case LEVEL -> Phase.LEVEL;
            case CHANGE -> Phase.CHANGE;
            case PICTURE -> Phase.PICTURES;
            case DWELL -> Phase.DWELL;
        }, s, Double::sum));
        Map<PathType, Share> byPath = new EnumMap<>(PathType.class);
        for (PathType type : PathType.values()) {
            if (replay.motion().seconds(type) > 0) {
                seconds.merge(Phase.of(type), replay.motion().seconds(type), Double::sum);
                if (type != PathType.TRAVEL) {
                    byPath.put(type, new Share(replay.motion().seconds(type), replay.motion().lengthMm(type),
                            material.grams(replay.motion().mm3(type))));
                }
            }
        }
        seconds.put(Phase.RETRACTION, replay.motion().retractionS());
        seconds.values().removeIf(s -> s <= 0);
        double mm = replay.totalFilamentMm(), mm3 = mm * printer.filamentAreaMm2();
        return new Estimate(seconds, byPath, mm3, mm, material.grams(mm3), 0, replay.layers().size(),
                new LayerHeights(0, 0), List.of(),
                replay.cautions().stream().map(Cautions.Caution::sentence).toList(), replay.atLeast());
    }

    /**
     * Of plates that are printed one after another: sums, the layers of the highest, changes and cautions once each.
     *
     * @param plates at least one
     */
    public static Estimate together(List<Estimate> plates) {
        Map<Phase, Double> seconds = new EnumMap<>(Phase.class);
        Map<PathType, Share> byPath = new EnumMap<>(PathType.class);
        for (Estimate plate : plates) {
            plate.secondsByPhase.forEach((phase, s) -> seconds.merge(phase, s, Double::sum));
            plate.byPath.forEach((type, share) -> byPath.merge(type, share, Share::plus));
        }
        return new Estimate(seconds, byPath, sum(plates, Estimate::filamentMm3), sum(plates, Estimate::filamentMm), sum(plates, Estimate::grams),
                sum(plates, Estimate::purgedG), plates.stream().mapToInt(Estimate::layers).max().orElseThrow(),
                new LayerHeights(plates.stream().mapToDouble(plate -> plate.heights.finestMm()).min().orElseThrow(),
                        plates.stream().mapToDouble(plate -> plate.heights.coarsestMm()).max().orElseThrow()),
                plates.stream().flatMap(plate -> plate.changes.stream()).distinct().toList(),
                plates.stream().flatMap(plate -> plate.cautions.stream()).distinct().toList(), plates.stream().anyMatch(Estimate::atLeast));
    }

    private static double sum(List<Estimate> plates, ToDoubleFunction<Estimate> of) {
        return plates.stream().mapToDouble(of).sum();
    }

    public double totalSeconds() {
        return prepareSeconds() + printSeconds();
    }

    public double prepareSeconds() {
        return sum(true);
    }

    public double printSeconds() {
        return sum(false);
    }

    /** Sentences for what came out empty or is not known for sure. */
    public List<String> warnings() {
        return byPath.keySet().stream().allMatch(type -> type == PathType.ADHESION)
                ? List.of("No line of the part itself can be laid: it is empty, or thinner than a line everywhere.") : cautions;
    }

    /** Mean speed along the outer walls in mm/s, speeding up and slowing down included; 0 without any. */
    public double outerWallMmS() {
        Share walls = byPath.get(PathType.OUTER_WALL);
        return walls == null ? 0 : walls.lengthMm() / Math.max(walls.seconds(), 1e-9);
    }

    /** Grams that are broken off and thrown away. */
    public double supportG() {
        return grams(PathType.SUPPORT) + grams(PathType.SUPPORT_FACE);
    }

    public double grams(PathType type) {
        return byPath.containsKey(type) ? byPath.get(type).grams() : 0;
    }

    private static <K extends Enum<K>, V> Map<K, V> copy(Class<K> keys, Map<K, V> map) {
        Map<K, V> copy = new EnumMap<>(keys);
        copy.putAll(map);
        return Collections.unmodifiableMap(copy);
    }

    private double sum(boolean preparation) {
        return secondsByPhase.entrySet().stream().filter(entry -> entry.getKey().isPreparation() == preparation)
                .mapToDouble(Map.Entry::getValue).sum();
    }
}
