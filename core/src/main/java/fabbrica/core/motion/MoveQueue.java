package fabbrica.core.motion;

import fabbrica.core.recipe.Cornering;
import java.util.Arrays;

/**
 * Moves between two stops, timed as a machine runs them: each move accelerates, cruises and brakes at its constant
 * acceleration (a trapezoid over time), and the speed at which it hands over to the next is limited by its own length,
 * by all moves after it (look-ahead) and by the corner between the two.
 *
 * <p>A corner is taken as an arc that touches both lines and strays from the corner by a fixed distance d; a circular arc
 * of radius r allows v² = a·r. A turn that leaves the half angle with sine s allows v² = a·d·s / (1 − s), a the lower of
 * both accelerations. When a corner speed c is given instead, d is such that a right-angled corner is taken at it:
 * v² = c²·(√2 − 1)·s / (1 − s), independent of a. A jerk limit j holds for each axis: v·|Δdirection| ≤ j.
 *
 * <p>The board knows of a number of moves at a time: when it begins one, it must be able to come to rest at the end of the
 * last it knows. A move that would be over sooner than commands arrive takes as long as they need.
 *
 * <p>Two passes over the moves, backward and forward: linear.
 */
final class MoveQueue {

    private static final double RIGHT_ANGLE = Math.sqrt(2) - 1;

    /** Moves so far back are not changed by a stop ahead: longer queues are timed half by half. */
    private static final int MOST_WAITING = 8192;

    private final double[] secondsByKind;
    /** Squared speed in a right-angled corner times √2 − 1, deviation in mm, squared jerk: 0 unless they hold. */
    private final double squaredCorner;
    private final double deviation;
    private final double squaredJerk;
    private final int lookAhead;
    private final double movesPerS;
    /** Sum of twice acceleration times length up to each move: what the squared speed could fall by. */
    private double[] braking = new double[257];
    private double[] accelerations = new double[256];
    private double[] lengths = new double[256];
    private double[] speeds = new double[256];
    private double[] directionX = new double[256];
    private double[] directionY = new double[256];
    private double[] directionZ = new double[256];
    private int[] kinds = new int[256];
    /** Squared speed at which each move begins, limited by the corner before it. */
    private double[] squaredEntries = new double[257];
    private int count;

    /** @param kinds how many kinds of moves are told apart */
    MoveQueue(Cornering cornering, int lookAheadMoves, double movesPerS, int kinds) {
        this.lookAhead = lookAheadMoves;
        this.movesPerS = movesPerS;
        secondsByKind = new double[kinds];
        squaredCorner = cornering instanceof Cornering.AtSpeed(double mmS) ? mmS * mmS * RIGHT_ANGLE : 0;
        deviation = cornering instanceof Cornering.Deviation(double mm) ? mm : 0;
        squaredJerk = cornering instanceof Cornering.Jerk(double mmS) ? mmS * mmS : 0;
    }

    /** Seconds of the moves of one kind that came to rest. */
    double seconds(int kind) {
        return secondsByKind[kind];
    }

    /** Adds time at rest. */
    void rest(double seconds, int kind) {
        secondsByKind[kind] += seconds;
    }

    /** Appends a move at no more than {@code speedMmS}; {@code kind} says where its time is booked. */
    void move(double dx, double dy, double dz, double speedMmS, double accelerationMmS2, int kind) {
        double length = Math.sqrt(dx * dx + dy * dy + dz * dz);
        if (length < 1e-9) {
            return;
        }
        if (count == MOST_WAITING) {
            passFirstHalf();
        } else if (count == lengths.length) {
            grow();
        }
        lengths[count] = length;
        speeds[count] = Math.min(speedMmS, length * movesPerS);
        accelerations[count] = accelerationMmS2;
        directionX[count] = dx / length;
        directionY[count] = dy / length;
        directionZ[count] = dz / length;
        kinds[count] = kind;
        squaredEntries[count] = count == 0 ? 0 : squaredCornerLimit(count);
        count++;
    }

    /** Comes to rest: all waiting moves are timed, and the queue is empty. */
    void stop() {
        brakeFor(0);
        time(count);
        count = 0;
    }

    private void passFirstHalf() {
        brakeFor(0);
        int half = count / 2;
        time(half);
        count -= half;
        for (double[] array : new double[][] {lengths, speeds, accelerations, directionX, directionY, directionZ}) {
            System.arraycopy(array, half, array, 0, count);
        }
        System.arraycopy(kinds, half, kinds, 0, count);
        double entry = squaredEntries[half];
        for (int i = 1; i < count; i++) {
            squaredEntries[i] = squaredCornerLimit(i);
        }
        squaredEntries[0] = entry;
    }

    /** Lowers entries so that each move can brake for what comes after it. */
    private void brakeFor(double squaredExit) {
        squaredEntries[count] = squaredExit;
        for (int i = 0; i < count; i++) {
            braking[i + 1] = braking[i] + 2 * accelerations[i] * lengths[i];
        }
        for (int i = count - 1; i > 0; i--) {
            double stopping = braking[i + Math.min(count - i, lookAhead)] - braking[i];
            squaredEntries[i] = Math.min(Math.min(squaredEntries[i], stopping),
                    squaredEntries[i + 1] + 2 * accelerations[i] * lengths[i]);
        }
    }

    private void time(int moves) {
        for (int i = 0; i < moves; i++) {
            double reachable = squaredEntries[i] + 2 * accelerations[i] * lengths[i];
            squaredEntries[i + 1] = Math.min(squaredEntries[i + 1], reachable);
            secondsByKind[kinds[i]] += seconds(lengths[i], Math.sqrt(squaredEntries[i]),
                    Math.sqrt(squaredEntries[i + 1]), speeds[i], accelerations[i]);
        }
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
        double straightness = directionX[move - 1] * directionX[move] + directionY[move - 1] * directionY[move]
                + directionZ[move - 1] * directionZ[move];
        double halfSine = Math.sqrt(Math.max(0, (1 + straightness) / 2));
        if (halfSine > 1 - 1e-12) {
            return limit;
        }
        if (squaredJerk > 0) {
            double change = Math.max(Math.abs(directionX[move] - directionX[move - 1]),
                    Math.max(Math.abs(directionY[move] - directionY[move - 1]),
                            Math.abs(directionZ[move] - directionZ[move - 1])));
            return Math.min(limit, squaredJerk / (change * change));
        }
        double straying = deviation > 0 ? Math.min(accelerations[move - 1], accelerations[move]) * deviation : squaredCorner;
        return Math.min(limit, straying * halfSine / (1 - halfSine));
    }

    private void grow() {
        int size = 2 * count;
        lengths = Arrays.copyOf(lengths, size);
        speeds = Arrays.copyOf(speeds, size);
        directionX = Arrays.copyOf(directionX, size);
        accelerations = Arrays.copyOf(accelerations, size);
        directionY = Arrays.copyOf(directionY, size);
        directionZ = Arrays.copyOf(directionZ, size);
        kinds = Arrays.copyOf(kinds, size);
        squaredEntries = Arrays.copyOf(squaredEntries, size + 1);
        braking = Arrays.copyOf(braking, size + 1);
    }
}
