package fabbrica.core.motion;

import fabbrica.core.recipe.Printer;
import fabbrica.core.recipe.Recipe;
import fabbrica.core.toolpath.Layer;
import fabbrica.core.toolpath.PathType;
import fabbrica.core.toolpath.Toolpath;
import fabbrica.core.units.Progress;
import java.util.Collections;
import java.util.EnumMap;
import java.util.List;
import java.util.Map;
import java.util.stream.IntStream;
import org.jspecify.annotations.Nullable;

/**
 * Seconds and plastic of a toolpath on a given machine. Layers that would take less time than the recipe allows are
 * slowed down.
 *
 * @param byType      what each type of path takes
 * @param travelS     moving without extruding, layer changes included
 * @param retractionS drawing filament back and pushing it forward again
 * @param layers      of each layer
 */
public record Motion(Map<PathType, Share> byType, double travelS, double retractionS, List<Timing> layers) {

    /** @param mm3 plastic */
    public record Share(double seconds, double lengthMm, double mm3) {
    }

    /** @param slowedTo part of the usual speeds at which the layer is laid, so that it can cool */
    public record Timing(double seconds, double slowedTo) {
    }

    /** How often the slowed speed is corrected: acceleration makes time and speed not quite inverse. */
    private static final int CORRECTIONS = 4;

    public Motion {
        byType = Collections.unmodifiableMap(new EnumMap<>(byType));
        layers = List.copyOf(layers);
    }

    public double seconds() {
        return layers.stream().mapToDouble(Timing::seconds).sum();
    }

    public double mm3() {
        return byType.values().stream().mapToDouble(Share::mm3).sum();
    }

    /**
     * Plans all layers; each ends at rest, because the vertical axis moves between them, so they are independent.
     *
     * @throws java.util.concurrent.CancellationException when {@code progress} says so
     */
    public static Motion of(Toolpath toolpath, Recipe recipe, Printer printer, Progress progress) {
        List<Layer> layers = toolpath.layers();
        MoveTimer[] plans = new MoveTimer[layers.size()];
        Timing[] timings = new Timing[layers.size()];
        IntStream.range(0, layers.size()).parallel().forEach(i -> {
            progress.check();
            Layer below = toolpath.laidBelow(i);
            double slowedTo = 1;
            plans[i] = plan(layers.get(i), below, recipe, printer, slowedTo);
            for (int round = 0; round < CORRECTIONS; round++) {
                double missing = recipe.pace().minimumLayerS() - plans[i].totalSeconds();
                double laying = plans[i].layingSeconds();
                if (missing <= 1e-3 || laying <= 0) {
                    break;
                }
                slowedTo *= laying / (laying + missing);
                plans[i] = plan(layers.get(i), below, recipe, printer, slowedTo);
            }
            timings[i] = new Timing(plans[i].totalSeconds(), slowedTo);
        });
        double travel = 0, retraction = 0;
        Map<PathType, Share> byType = new EnumMap<>(PathType.class);
        for (MoveTimer plan : plans) {
            travel += plan.seconds(PathType.TRAVEL);
            retraction += plan.retractionS();
            for (PathType type : PathType.values()) {
                if (type != PathType.TRAVEL && plan.mm3(type) > 0) {
                    byType.merge(type, new Share(plan.seconds(type), plan.lengthMm(type), plan.mm3(type)),
                            (a, b) -> new Share(a.seconds() + b.seconds(), a.lengthMm() + b.lengthMm(), a.mm3() + b.mm3()));
                }
            }
        }
        return new Motion(byType, travel, retraction, List.of(timings));
    }

    private static MoveTimer plan(Layer layer, @Nullable Layer below, Recipe recipe, Printer printer, double slowedTo) {
        MoveTimer plan = new MoveTimer(printer);
        if (below != null) {
            int last = below.pointCount() - 1;
            plan.at(below.x(last), below.y(last), below.topMm());
        }
        new LayerMoves(layer, below, recipe, printer.kinematics(), slowedTo).drive(plan);
        plan.stop();
        return plan;
    }
}
