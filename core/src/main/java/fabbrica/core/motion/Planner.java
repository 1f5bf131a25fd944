package fabbrica.core.motion;

import fabbrica.core.recipe.Cornering;
import fabbrica.core.recipe.Kinematics;
import fabbrica.core.toolpath.PathType;

/**
 * Times moves as a machine runs them, wherever they come from. Moves of the vertical axis alone and of the filament alone
 * come to rest before and after, at constant speed.
 */
public final class Planner implements Machine {

    private static final PathType[] TYPES = PathType.values();
    private static final int RETRACTION = TYPES.length;

    private final Kinematics kinematics;
    private MoveQueue queue;
    private final double[] earlier = new double[TYPES.length + 1];
    private final double[] mm3 = new double[TYPES.length];
    private final double[] lengths = new double[TYPES.length];
    private double x;
    private double y;
    private double z;
    private boolean somewhere;

    public Planner(Kinematics kinematics) {
        this.kinematics = kinematics;
        this.queue = new MoveQueue(kinematics.cornering(), TYPES.length + 1);
    }

    /** Other corners from here on, at rest. */
    public void corners(Cornering cornering) {
        queue.stop();
        for (int kind = 0; kind < earlier.length; kind++) {
            earlier[kind] += queue.seconds(kind);
        }
        queue = new MoveQueue(cornering, earlier.length);
    }

    /** Where the head is before the first move; a planner that was not told begins where the first move ends. */
    public void at(double startX, double startY, double startZ) {
        x = startX;
        y = startY;
        z = startZ;
        somewhere = true;
    }

    @Override
    public void lineTo(double toX, double toY, double toZ, double laidMm3, double speedMmS, double accelerationMmS2,
                       PathType type) {
        if (!somewhere) {
            queue.rest(toZ / speedMmS, type.ordinal());
            at(toX, toY, toZ);
            return;
        }
        double dx = toX - x, dy = toY - y, dz = toZ - z;
        if (dx == 0 && dy == 0) {
            if (dz != 0) {
                queue.stop();
                queue.rest(Math.abs(dz) / speedMmS, type.ordinal());
            }
        } else {
            queue.move(dx, dy, dz, speedMmS, accelerationMmS2, type.ordinal());
            lengths[type.ordinal()] += Math.sqrt(dx * dx + dy * dy + dz * dz);
        }
        mm3[type.ordinal()] += laidMm3;
        at(toX, toY, toZ);
    }

    @Override
    public void retract() {
        filament(kinematics.retractionMm(), kinematics.retractionSpeedMmS());
    }

    @Override
    public void advance() {
        filament(kinematics.retractionMm(), kinematics.retractionSpeedMmS());
    }

    /** Moves the filament alone. */
    public void filament(double mm, double speedMmS) {
        queue.stop();
        queue.rest(Math.abs(mm) / speedMmS, RETRACTION);
    }

    /** Comes to rest: every move so far is timed. */
    public void stop() {
        queue.stop();
    }

    /** Seconds of everything that came to rest. */
    public double totalSeconds() {
        double total = 0;
        for (int kind = 0; kind < earlier.length; kind++) {
            total += seconds(kind);
        }
        return total;
    }

    public double seconds(PathType type) {
        return seconds(type.ordinal());
    }

    private double seconds(int kind) {
        return earlier[kind] + queue.seconds(kind);
    }

    public double retractionS() {
        return seconds(RETRACTION);
    }

    public double mm3(PathType type) {
        return mm3[type.ordinal()];
    }

    public double lengthMm(PathType type) {
        return lengths[type.ordinal()];
    }

    double layingSeconds() {
        return totalSeconds() - seconds(PathType.TRAVEL) - seconds(RETRACTION);
    }
}
