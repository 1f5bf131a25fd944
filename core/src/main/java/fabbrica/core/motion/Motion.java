package fabbrica.core.motion;

import fabbrica.core.recipe.Kinematics;
import fabbrica.core.recipe.Recipe;
import fabbrica.core.toolpath.Layer;
import fabbrica.core.toolpath.PathType;
import fabbrica.core.toolpath.Progress;
import fabbrica.core.toolpath.Toolpath;
import java.util.Arrays;
import java.util.Collections;
import java.util.EnumMap;
import java.util.List;
import java.util.Map;

/**
 * Seconds and plastic of a toolpath on a given machine.
 *
 * @param secondsByType   moving while extruding
 * @param travelS         moving without extruding, layer changes included
 * @param retractionS     drawing filament back and pushing it forward again
 * @param mm3ByType       plastic extruded
 */
public record Motion(Map<PathType, Double> secondsByType, double travelS, double retractionS,
                     Map<PathType, Double> mm3ByType) {

    /** A travel longer than this over air is made with the filament drawn back. */
    static final double RETRACT_BEYOND_MM = 2;

    private static final PathType[] TYPES = PathType.values();
    private static final int TRAVEL = TYPES.length;
    private static final int RETRACTION = TRAVEL + 1;
    private static final int KINDS = RETRACTION + 1;

    public Motion {
        secondsByType = Collections.unmodifiableMap(new EnumMap<>(secondsByType));
        mm3ByType = Collections.unmodifiableMap(new EnumMap<>(mm3ByType));
    }

    public double seconds() {
        return secondsByType.values().stream().mapToDouble(Double::doubleValue).sum() + travelS + retractionS;
    }

    public double mm3() {
        return mm3ByType.values().stream().mapToDouble(Double::doubleValue).sum();
    }

    /**
     * Plans all layers; each ends at rest, because the vertical axis moves between them, so they are independent.
     *
     * @throws java.util.concurrent.CancellationException when {@code progress} says so
     */
    public static Motion of(Toolpath toolpath, Recipe recipe, Kinematics kinematics, Progress progress) {
        List<Layer> layers = toolpath.layers();
        double[][] seconds = new double[layers.size()][];
        java.util.stream.IntStream.range(0, layers.size()).parallel().forEach(i -> {
            progress.check();
            seconds[i] = new LayerPlan(layers.get(i), i == 0 ? null : layers.get(i - 1), recipe, kinematics).seconds();
        });
        double[] sums = new double[KINDS];
        Arrays.stream(seconds).forEach(layer -> Arrays.setAll(sums, kind -> sums[kind] + layer[kind]));
        Map<PathType, Double> secondsByType = new EnumMap<>(PathType.class);
        Map<PathType, Double> mm3ByType = new EnumMap<>(PathType.class);
        for (PathType type : TYPES) {
            double mm3 = layers.stream().mapToDouble(layer -> layer.lengthMm(type) * layer.lineAreaMm2()).sum();
            if (mm3 > 0) {
                secondsByType.put(type, sums[type.ordinal()]);
                mm3ByType.put(type, mm3);
            }
        }
        return new Motion(secondsByType, sums[TRAVEL], sums[RETRACTION], mm3ByType);
    }

    private static final class LayerPlan {

        private final Layer layer;
        private final Layer below;
        private final Kinematics kinematics;
        private final double[] speeds = new double[TYPES.length];
        private final double[] seconds = new double[KINDS];
        private final MoveQueue queue;

        LayerPlan(Layer layer, Layer below, Recipe recipe, Kinematics kinematics) {
            this.layer = layer;
            this.below = below;
            this.kinematics = kinematics;
            this.queue = new MoveQueue(kinematics.accelerationMmS2(), kinematics.cornerSpeedMmS());
            for (PathType type : TYPES) {
                speeds[type.ordinal()] = speed(type, recipe);
            }
        }

        /** The slowest of what the recipe wants, what the machine reaches and what the hot end melts. */
        private double speed(PathType type, Recipe recipe) {
            double wanted = recipe.speedMmS() * switch (type) {
                case OUTER_WALL -> Recipe.OUTER_WALL_SPEED;
                case SOLID -> Recipe.SOLID_SPEED;
                case ADHESION, INNER_WALL, INFILL -> 1;
            };
            double slowed = below == null ? wanted * Recipe.FIRST_LAYER_SPEED : wanted;
            return Math.min(Math.min(slowed, kinematics.maxSpeedMmS()), kinematics.maxFlowMm3S() / layer.lineAreaMm2());
        }

        double[] seconds() {
            seconds[TRAVEL] += layer.heightMm() / kinematics.zSpeedMmS();
            if (layer.pathCount() == 0) {
                return seconds;
            }
            boolean anyBelow = below != null && below.pathCount() > 0;
            double x = anyBelow ? below.x(below.end(below.pathCount() - 1) - 1) : layer.x(0);
            double y = anyBelow ? below.y(below.end(below.pathCount() - 1) - 1) : layer.y(0);
            for (int path = 0; path < layer.pathCount(); path++) {
                int first = layer.start(path);
                travel(layer.x(first) - x, layer.y(first) - y, layer.linked(path));
                int kind = layer.type(path).ordinal();
                for (int i = first + 1; i < layer.end(path); i++) {
                    queue.move(layer.x(i) - layer.x(i - 1), layer.y(i) - layer.y(i - 1), speeds[kind], kind);
                }
                x = layer.x(layer.end(path) - 1);
                y = layer.y(layer.end(path) - 1);
            }
            queue.stop(seconds);
            return seconds;
        }

        private void travel(double dx, double dy, boolean linked) {
            boolean retract = !linked && Math.hypot(dx, dy) > RETRACT_BEYOND_MM && kinematics.retractionMm() > 0;
            if (retract) {
                queue.stop(seconds);
                seconds[RETRACTION] += 2 * kinematics.retractionMm() / kinematics.retractionSpeedMmS();
            }
            queue.move(dx, dy, kinematics.maxSpeedMmS(), TRAVEL);
            if (retract) {
                queue.stop(seconds);
            }
        }
    }
}
