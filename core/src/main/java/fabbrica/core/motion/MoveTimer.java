package fabbrica.core.motion;

import fabbrica.core.recipe.Board;
import fabbrica.core.recipe.Cornering;
import fabbrica.core.recipe.Kinematics;
import fabbrica.core.recipe.Printer;
import fabbrica.core.toolpath.PathType;

/**
 * Times moves as a machine runs them, wherever they come from. Each axis, and the filament, keeps to its own speed and
 * acceleration. Moves of the vertical axis alone and of the filament alone begin and end at rest.
 */
public final class MoveTimer implements Machine {

    private static final PathType[] TYPES = PathType.values();
    private static final int RETRACTION = TYPES.length;

    private final Kinematics kinematics;
    private final double filamentAreaMm2;
    private MoveQueue queue;
    private Cornering cornering;
    private Board board;
    private double zSpeed;
    private double filamentAcceleration;
    private final double[] earlier = new double[TYPES.length + 1];
    private final double[] mm3 = new double[TYPES.length];
    private final double[] lengths = new double[TYPES.length];
    private double x;
    private double y;
    private double z;
    private boolean somewhere;

    public MoveTimer(Printer printer) {
        kinematics = printer.kinematics();
        filamentAreaMm2 = printer.filamentAreaMm2();
        cornering = kinematics.cornering();
        board = kinematics.board();
        zSpeed = kinematics.zSpeedMmS();
        filamentAcceleration = board.filamentAccelerationMmS2();
        queue = queue();
    }

    private MoveQueue queue() {
        return new MoveQueue(cornering, board.lookAheadMoves(), board.movesPerS(), TYPES.length + 1);
    }

    /** Other corners from here on, at rest. */
    public void corners(Cornering other) {
        cornering = other;
        begin();
    }

    /** Another board, and vertical speed, from here on, at rest. */
    public void limits(Board other, double zSpeedMmS) {
        board = other;
        zSpeed = zSpeedMmS;
        begin();
    }

    public Board board() {
        return board;
    }

    public double zSpeedMmS() {
        return zSpeed;
    }

    private void begin() {
        queue.stop();
        for (int kind = 0; kind < earlier.length; kind++) {
            earlier[kind] += queue.seconds(kind);
        }
        queue = queue();
    }

    /** Where the head is before the first move; a timer that was not told begins where the first move ends. */
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
            queue.rest(alone(toZ, Math.min(speedMmS, zSpeed), board.zAccelerationMmS2()), type.ordinal());
            at(toX, toY, toZ);
            return;
        }
        double dx = toX - x, dy = toY - y, dz = toZ - z;
        if (dx == 0 && dy == 0) {
            if (dz != 0) {
                queue.stop();
                queue.rest(alone(dz, Math.min(speedMmS, zSpeed), board.zAccelerationMmS2()), type.ordinal());
            }
        } else {
            double length = Math.sqrt(dx * dx + dy * dy + dz * dz);
            move(dx, dy, dz, length, laidMm3 / filamentAreaMm2 / length, speedMmS, accelerationMmS2, type.ordinal());
            lengths[type.ordinal()] += length;
        }
        mm3[type.ordinal()] += laidMm3;
        at(toX, toY, toZ);
    }

    /** No axis, nor the filament, is asked for more than its share of the move leaves it. */
    private void move(double dx, double dy, double dz, double length, double filamentPerMm, double speedMmS,
                      double accelerationMmS2, int kind) {
        double speed = speedMmS, acceleration = accelerationMmS2, alongX = Math.abs(dx) / length, alongY = Math.abs(dy) / length;
        speed = atMost(speed, board.xSpeedMmS(), alongX);
        speed = atMost(speed, board.ySpeedMmS(), alongY);
        acceleration = atMost(acceleration, board.xAccelerationMmS2(), alongX);
        acceleration = atMost(acceleration, board.yAccelerationMmS2(), alongY);
        if (dz != 0) {
            speed = atMost(speed, zSpeed, Math.abs(dz) / length);
            acceleration = atMost(acceleration, board.zAccelerationMmS2(), Math.abs(dz) / length);
        }
        if (filamentPerMm > 0) {
            speed = atMost(speed, board.filamentSpeedMmS(), filamentPerMm);
            acceleration = atMost(acceleration, board.filamentAccelerationMmS2(), filamentPerMm);
            if (board.pressureS() > 0) {
                double left = board.filamentSpeedMmS() - filamentPerMm * speed;
                acceleration = atMost(acceleration, Math.max(left, 0.1 * board.filamentSpeedMmS()) / board.pressureS(),
                        filamentPerMm);
            }
        }
        queue.move(dx, dy, dz, speed, acceleration, kind);
    }

    private static double atMost(double wanted, double limit, double share) {
        return wanted * share > limit ? limit / share : wanted;
    }

    /** Seconds of a straight move from rest to rest. */
    public static double alone(double mm, double speedMmS, double accelerationMmS2) {
        return mm == 0 ? 0 : MoveQueue.seconds(Math.abs(mm), 0, 0, speedMmS, accelerationMmS2);
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
        queue.rest(alone(mm, Math.min(speedMmS, board.filamentSpeedMmS()), filamentAcceleration), RETRACTION);
    }

    /** Acceleration of filament that is drawn back or pushed forward alone, from here on. */
    public void filamentAcceleration(double mmS2) {
        filamentAcceleration = mmS2;
    }

    /** Where the head is, mm. */
    public double x() {
        return x;
    }

    public double y() {
        return y;
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
