package fabbrica.core.motion;

import java.util.Arrays;

/**
 * Moves between two stops, timed as a machine runs them: each move accelerates, cruises and brakes at one constant
 * acceleration (a trapezoid over time), and the speed at which it hands over to the next is limited by its own length,
 * by all moves after it (look-ahead) and by the corner between the two.
 *
 * <p>A corner is taken as an arc that touches both lines and strays from the corner by a fixed distance; a circular arc
 * of radius r allows v² = a·r. With the distance chosen so that a right-angled corner is taken at the corner speed c,
 * a turn that leaves the half angle with sine s allows v² = c²·(√2 − 1)·s / (1 − s), independent of a.
 *
 * <p>Two passes over the moves, backward and forward: linear.
 */
final class MoveQueue {

    private static final double RIGHT_ANGLE = Math.sqrt(2) - 1;

    private final double acceleration;
    private final double squaredCornerSpeed;
    private double[] lengths = new double[256];
    private double[] speeds = new double[256];
    private double[] directionX = new double[256];
    private double[] directionY = new double[256];
    private int[] kinds = new int[256];
    /** Squared speed at which each move begins, limited by the corner before it. */
    private double[] squaredEntries = new double[257];
    private int count;

    /** @param accelerationMmS2 mm/s²; @param cornerSpeedMmS mm/s at a right-angled corner */
    MoveQueue(double accelerationMmS2, double cornerSpeedMmS) {
        this.acceleration = accelerationMmS2;
        this.squaredCornerSpeed = cornerSpeedMmS * cornerSpeedMmS;
    }

    /** Appends a move by (dx, dy) at no more than {@code speedMmS}; {@code kind} says where its time is booked. */
    void move(double dx, double dy, double speedMmS, int kind) {
        double length = Math.sqrt(dx * dx + dy * dy);
        if (length < 1e-9) {
            return;
        }
        if (count == lengths.length) {
            grow();
        }
        lengths[count] = length;
        speeds[count] = speedMmS;
        directionX[count] = dx / length;
        directionY[count] = dy / length;
        kinds[count] = kind;
        squaredEntries[count] = count == 0 ? 0 : squaredCornerLimit(count);
        count++;
    }

    /** Comes to rest: adds the seconds of all waiting moves to {@code secondsByKind} and empties the queue. */
    void stop(double[] secondsByKind) {
        squaredEntries[count] = 0;
        for (int i = count - 1; i > 0; i--) {
            squaredEntries[i] = Math.min(squaredEntries[i], squaredEntries[i + 1] + 2 * acceleration * lengths[i]);
        }
        for (int i = 0; i < count; i++) {
            double reachable = squaredEntries[i] + 2 * acceleration * lengths[i];
            squaredEntries[i + 1] = Math.min(squaredEntries[i + 1], reachable);
            secondsByKind[kinds[i]] += seconds(lengths[i], Math.sqrt(squaredEntries[i]),
                    Math.sqrt(squaredEntries[i + 1]), speeds[i], acceleration);
        }
        count = 0;
    }

    /**
     * Seconds of one move from {@code entry} to {@code exit} speed, never above {@code cruise} (all mm/s), textbook
     * kinematics of constant acceleration: v² = u² + 2·a·s.
     */
    static double seconds(double length, double entry, double exit, double cruise, double acceleration) {
        double rampUp = (cruise * cruise - entry * entry) / (2 * acceleration);
        double rampDown = (cruise * cruise - exit * exit) / (2 * acceleration);
        if (rampUp + rampDown <= length) {
            return (2 * cruise - entry - exit) / acceleration + (length - rampUp - rampDown) / cruise;
        }
        double peak = Math.sqrt((2 * acceleration * length + entry * entry + exit * exit) / 2);
        return (2 * peak - entry - exit) / acceleration;
    }

    private double squaredCornerLimit(int move) {
        double slower = Math.min(speeds[move - 1], speeds[move]);
        double limit = slower * slower;
        double straightness = directionX[move - 1] * directionX[move] + directionY[move - 1] * directionY[move];
        double halfSine = Math.sqrt(Math.max(0, (1 + straightness) / 2));
        return halfSine > 1 - 1e-12 ? limit
                : Math.min(limit, squaredCornerSpeed * RIGHT_ANGLE * halfSine / (1 - halfSine));
    }

    private void grow() {
        int size = 2 * count;
        lengths = Arrays.copyOf(lengths, size);
        speeds = Arrays.copyOf(speeds, size);
        directionX = Arrays.copyOf(directionX, size);
        directionY = Arrays.copyOf(directionY, size);
        kinds = Arrays.copyOf(kinds, size);
        squaredEntries = Arrays.copyOf(squaredEntries, size + 1);
    }
}
