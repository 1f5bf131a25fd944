package fabbrica.core.motion;

import fabbrica.core.recipe.Kinematics;
import fabbrica.core.recipe.Pace;
import fabbrica.core.recipe.Recipe;
import fabbrica.core.toolpath.Layer;
import fabbrica.core.toolpath.PathType;
import org.jspecify.annotations.Nullable;

/**
 * The moves of one layer: up from the layer below, across to where it begins, and along its paths at the speed that each
 * allows: the slowest of what the recipe wants, what the machine reaches and what the hot end melts.
 */
public final class LayerMoves {

    /** How far the head is lifted over a part that is done, to go on with the next one. */
    private static final double LIFT_MM = 5;

    private final Layer layer;
    private final @Nullable Layer below;
    private final Recipe recipe;
    private final Kinematics kinematics;
    private final double slowedTo;

    /**
     * @param below    the last layer with paths printed before, null for the first
     * @param slowedTo part of the usual speeds at which everything is laid, above 0 to 1
     */
    public LayerMoves(Layer layer, @Nullable Layer below, Recipe recipe, Kinematics kinematics, double slowedTo) {
        this.layer = layer;
        this.below = below;
        this.recipe = recipe;
        this.kinematics = kinematics;
        this.slowedTo = slowedTo;
    }

    public void drive(Machine machine) {
        double z = layer.topMm();
        if (layer.pathCount() == 0) {
            return;
        }
        double bottom = layer.spiral() ? z - layer.heightMm() : z;
        approach(machine, bottom);
        for (int path = 0; path < layer.pathCount(); path++) {
            if (layer.type(path) == PathType.TRAVEL) {
                travel(machine, path, z);
            } else {
                lay(machine, path, bottom, z);
            }
        }
    }

    private void approach(Machine machine, double z) {
        double x = layer.x(0), y = layer.y(0);
        if (below == null) {
            machine.lineTo(x, y, z, 0, kinematics.zSpeedMmS(), kinematics.accelerationMmS2(), PathType.TRAVEL);
            return;
        }
        int last = below.pointCount() - 1;
        double fromX = below.x(last), fromY = below.y(last);
        boolean retract = Math.hypot(x - fromX, y - fromY) > Layer.SHORT_HOP_MM && kinematics.retractionMm() > 0;
        if (retract) {
            machine.retract();
        }
        double over = isFirst() ? below.topMm() + LIFT_MM : z;
        machine.lineTo(fromX, fromY, over, 0, kinematics.zSpeedMmS(), kinematics.accelerationMmS2(), PathType.TRAVEL);
        machine.lineTo(x, y, over, 0, travelSpeed(), kinematics.accelerationMmS2(), PathType.TRAVEL);
        if (isFirst()) {
            machine.lineTo(x, y, z, 0, kinematics.zSpeedMmS(), kinematics.accelerationMmS2(), PathType.TRAVEL);
        }
        if (retract) {
            machine.advance();
        }
    }

    private void travel(Machine machine, int path, double z) {
        boolean retract = layer.retracted(path) && kinematics.retractionMm() > 0;
        if (retract) {
            machine.retract();
        }
        for (int i = layer.start(path) + 1; i < layer.end(path); i++) {
            machine.lineTo(layer.x(i), layer.y(i), z, 0, travelSpeed(), kinematics.accelerationMmS2(), PathType.TRAVEL);
        }
        if (retract) {
            machine.advance();
        }
    }

    private void lay(Machine machine, int path, double bottom, double top) {
        PathType type = layer.type(path);
        double wanted = wantedMmS(path);
        double acceleration = kinematics.accelerationMmS2()
                * (type == PathType.OUTER_WALL ? recipe.pace().outerAcceleration() : 1);
        double rise = layer.spiral() ? (top - bottom) / Math.max(1e-9, layer.lengthMm(path)) : 0;
        double gone = 0;
        for (int i = layer.start(path) + 1; i < layer.end(path); i++) {
            double dx = layer.x(i) - layer.x(i - 1), dy = layer.y(i) - layer.y(i - 1);
            double length = Math.sqrt(dx * dx + dy * dy);
            gone += length;
            double area = layer.lineAreaMm2(path, i);
            machine.lineTo(layer.x(i), layer.y(i), layer.spiral() ? bottom + gone * rise : top, length * area,
                    Math.min(wanted, kinematics.maxFlowMm3S() / area), acceleration, type);
        }
    }

    /** On the bed: of all, or of the next part. */
    private boolean isFirst() {
        return below == null || layer.topMm() < below.topMm();
    }

    private double travelSpeed() {
        return Math.min(recipe.pace().travelMmS(), kinematics.maxSpeedMmS());
    }

    /** Speed at which a path is laid, where it is widest, mm/s. */
    public double speedMmS(int path) {
        return Math.min(wantedMmS(path), kinematics.maxFlowMm3S() / layer.lineAreaMm2(path));
    }

    private double wantedMmS(int path) {
        Pace pace = recipe.pace();
        double wanted = switch (layer.type(path)) {
            case OUTER_WALL -> pace.outerWallMmS();
            case SOLID, BRIDGE, SUPPORT_FACE -> pace.solidMmS();
            case ADHESION, SUPPORT, INNER_WALL, THIN_LINE, INFILL, PURGE, OTHER, TRAVEL -> recipe.speedMmS();
        };
        double capped = Math.min(Math.min(wanted, isFirst() ? pace.firstLayerMmS() : wanted), kinematics.maxSpeedMmS());
        return Math.max(capped * slowedTo, Math.min(capped, pace.slowestMmS()));
    }
}
