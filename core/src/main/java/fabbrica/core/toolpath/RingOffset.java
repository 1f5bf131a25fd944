package fabbrica.core.toolpath;

import java.util.Arrays;
import java.util.PriorityQueue;

/**
 * Moves every edge of a ring sideways by the same distance, corners kept sharp. Edges that shrink to nothing on the way
 * are taken out in the order in which they vanish and their neighbours meet instead, as in the wavefront of a straight
 * skeleton (Aichholzer and others, "A novel type of skeleton for polygons", 1995). Where an outer corner would reach
 * farther than twice the distance it is cut square. Where the wavefront would split, the moved ring crosses itself or
 * others and runs backwards around what is lost: no edge ever moves to its right, so what remains is exactly what rings
 * run around more often forwards than backwards. Where it would fold, the ring is moved edge by edge instead, going back
 * to the unmoved corner beside every edge that would run backwards, which keeps the same promise with more crossings. Cost O(n) and O(log n) for every edge that vanishes.
 */
final class RingOffset {

    /** A corner turning away by more than this would reach farther than twice the distance. */
    private static final double MITRE = Math.tan(Math.toRadians(120) / 2);
    /** Half of a turn that leaves edges back to back. */
    private static final double BACK_TO_BACK = (Math.PI - 1e-6) / 2;
    /** A corner that sticks out so sharply, or comes to do so on the way, that much of it is lost. */
    private static final double TIP = Math.tan(Math.toRadians(135) / 2);
    private static final double NOTHING = 1e-9;
    private static final int FOLDS = -1;

    private final double distance;
    private final double sign;
    /** Direction of each edge, and its constant n·p where n is its normal to the left. */
    private double[] dirX = {};
    private double[] dirY = {};
    private double[] constants = {};
    /** A point on each edge's start at distance 0, for corners that hardly turn. */
    private double[] startX = {};
    private double[] startY = {};
    /** Tangent of half the turn at each edge's start, to the left above zero. */
    private double[] turns = {};
    /** Length of each edge is {@code base − rate · distance}. */
    private double[] base = {};
    private double[] rate = {};
    private int[] before = {};
    private int[] after = {};
    private int[] versions = {};
    private int count;
    private boolean tip;

    /**
     * @param ring without points when it vanished
     * @param tip  whether a tip of it was lost
     */
    record Moved(double[] ring, boolean tip) {
    }

    private record Vanishing(double at, int edge, int version) implements Comparable<Vanishing> {
        @Override
        public int compareTo(Vanishing other) {
            return Double.compare(at, other.at);
        }
    }

    private RingOffset(double distance) {
        this.distance = Math.abs(distance);
        this.sign = Math.signum(distance);
    }

    /**
     * @param leftMm above zero to the left of the ring, where its solid is
     */
    static Moved of(double[] ring, double leftMm) {
        RingOffset offset = new RingOffset(leftMm);
        return new Moved(offset.moved(ring), offset.tip);
    }

    private double[] moved(double[] ring) {
        readEdges(ring);
        if (count < 3) {
            return new double[0];
        }
        int left = vanish();
        if (left == FOLDS) {
            readEdges(ring);
            return edgeByEdge();
        }
        return left < 3 ? new double[0] : corners(left);
    }

    private void readEdges(double[] ring) {
        int points = ring.length / 2;
        allocate(points);
        for (int i = 0; i < points; i++) {
            int j = i + 1 == points ? 0 : i + 1;
            double dx = ring[2 * j] - ring[2 * i], dy = ring[2 * j + 1] - ring[2 * i + 1];
            double length = Math.sqrt(dx * dx + dy * dy);
            if (length > NOTHING) {
                add(ring[2 * i], ring[2 * i + 1], dx / length, dy / length, length);
            }
        }
        int last = count - 1, sharp = 0;
        for (int i = 0; i < count; i++) {
            int a = i == 0 ? last : i - 1;
            turns[i] = turn(a, i);
            sharp += -sign * turns[i] > MITRE ? 1 : 0;
            tip |= sign * turns[i] > TIP;
        }
        if (sharp > 0) {
            square(sharp);
        }
        for (int i = 0; i < count; i++) {
            before[i] = i == 0 ? count - 1 : i - 1;
            after[i] = i == count - 1 ? 0 : i + 1;
            constants[i] = dirX[i] * startY[i] - dirY[i] * startX[i];
        }
        for (int i = 0; i < count; i++) {
            rate[i] = sign * (turns[i] + turns[after[i]]);
        }
    }

    /** The sine over one more than the cosine is the tangent of half an angle. */
    private double turn(int a, int b) {
        double cross = dirX[a] * dirY[b] - dirY[a] * dirX[b], dot = dirX[a] * dirX[b] + dirY[a] * dirY[b];
        return dot > 0 ? cross / (1 + dot) : (cross < 0 ? -1 : 1) * (1 - dot) / Math.max(Math.abs(cross), NOTHING);
    }

    private void allocate(int size) {
        dirX = new double[size];
        dirY = new double[size];
        constants = new double[size];
        startX = new double[size];
        startY = new double[size];
        turns = new double[size];
        base = new double[size];
        rate = new double[size];
        before = new int[size];
        after = new int[size];
        versions = new int[size];
        count = 0;
    }

    private void add(double x, double y, double dx, double dy, double length) {
        startX[count] = x;
        startY[count] = y;
        dirX[count] = dx;
        dirY[count] = dy;
        base[count++] = length;
    }

    /** Gives each far-reaching corner an edge of no length across it. */
    private void square(int sharp) {
        RingOffset wider = new RingOffset(sign * distance);
        wider.allocate(count + sharp);
        for (int i = 0; i < count; i++) {
            double turn = turns[i];
            if (-sign * turn > MITRE) {
                int a = i == 0 ? count - 1 : i - 1;
                double half = Math.atan(turn), cos = Math.cos(half), sin = Math.sin(half);
                turn = Math.tan(half / 2);
                wider.turns[wider.count] = turn;
                wider.add(startX[i], startY[i], cos * dirX[a] - sin * dirY[a], sin * dirX[a] + cos * dirY[a], 0);
            }
            wider.turns[wider.count] = turn;
            wider.add(startX[i], startY[i], dirX[i], dirY[i], base[i]);
        }
        dirX = wider.dirX;
        dirY = wider.dirY;
        constants = wider.constants;
        startX = wider.startX;
        startY = wider.startY;
        turns = wider.turns;
        base = wider.base;
        rate = wider.rate;
        before = wider.before;
        after = wider.after;
        versions = wider.versions;
        count = wider.count;
    }

    /** @return how many edges are left, or {@link #FOLDS} when the neighbours of one that vanished run back to back */
    private int vanish() {
        PriorityQueue<Vanishing> queue = new PriorityQueue<>();
        for (int i = 0; i < count; i++) {
            consider(i, queue);
        }
        int left = count;
        while (!queue.isEmpty() && left >= 3) {
            Vanishing next = queue.poll();
            int edge = next.edge();
            if (next.version() != versions[edge]) {
                continue;
            }
            int a = before[edge], b = after[edge];
            double half = Math.atan(turns[edge]) + Math.atan(turns[b]);
            if (Math.abs(half) > BACK_TO_BACK && left > 3) {
                return FOLDS;
            }
            turns[b] = Math.tan(half);
            tip |= sign * turns[b] > TIP;
            versions[edge]++;
            after[a] = b;
            before[b] = a;
            startX[b] = Double.NaN;
            left--;
            meetAnew(a, next.at(), queue);
            meetAnew(b, next.at(), queue);
        }
        return left;
    }

    private void meetAnew(int edge, double at, PriorityQueue<Vanishing> queue) {
        double length = base[edge] - rate[edge] * at;
        rate[edge] = sign * (turns[edge] + turns[after[edge]]);
        base[edge] = length + rate[edge] * at;
        versions[edge]++;
        consider(edge, queue);
    }

    private void consider(int edge, PriorityQueue<Vanishing> queue) {
        if (base[edge] - rate[edge] * distance < 0) {
            queue.add(new Vanishing(base[edge] / rate[edge], edge, versions[edge]));
        }
    }

    private double[] edgeByEdge() {
        double[] points = new double[6 * count];
        int filled = 0;
        for (int i = 0; i < count; i++) {
            int a = before[i];
            if (sign * turns[i] > 5e-8 && (turnsAbout(a) || turnsAbout(i))) {
                filled = put(points, filled, startX[i] - sign * distance * dirY[a], startY[i] + sign * distance * dirX[a]);
                filled = put(points, filled, startX[i], startY[i]);
                filled = put(points, filled, startX[i] - sign * distance * dirY[i], startY[i] + sign * distance * dirX[i]);
            } else {
                double reach = sign * distance * turns[i];
                filled = put(points, filled, startX[i] - sign * distance * dirY[i] + reach * dirX[i],
                        startY[i] + sign * distance * dirX[i] + reach * dirY[i]);
            }
        }
        return Arrays.copyOf(points, filled);
    }

    /** Whether the edge would end up running backwards if nothing vanished. */
    private boolean turnsAbout(int edge) {
        return base[edge] < rate[edge] * distance;
    }

    private static int put(double[] points, int at, double x, double y) {
        points[at] = x;
        points[at + 1] = y;
        return at + 2;
    }

    private double[] corners(int left) {
        int edge = 0;
        while (after[before[edge]] != edge) {
            edge++;
        }
        double[] corners = new double[2 * left];
        int filled = 0;
        for (int i = 0; i < left; i++, edge = after[edge]) {
            int a = before[edge];
            double cross = dirX[a] * dirY[edge] - dirY[a] * dirX[edge];
            double x, y;
            if (Math.abs(cross) < 1e-7) {
                if (Double.isNaN(startX[edge])) {
                    continue;
                }
                x = startX[edge] - sign * distance * dirY[edge];
                y = startY[edge] + sign * distance * dirX[edge];
            } else {
                double ca = constants[a] + sign * distance, cb = constants[edge] + sign * distance;
                x = (dirX[edge] * ca - dirX[a] * cb) / cross;
                y = (dirY[edge] * ca - dirY[a] * cb) / cross;
            }
            corners[filled++] = x;
            corners[filled++] = y;
        }
        return filled == corners.length ? corners : Arrays.copyOf(corners, filled);
    }
}
