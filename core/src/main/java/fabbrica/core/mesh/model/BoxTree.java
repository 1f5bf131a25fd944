package fabbrica.core.mesh.model;

import java.util.Arrays;
import java.util.Comparator;
import java.util.function.IntPredicate;
import java.util.stream.IntStream;

/**
 * A tree over boxes in space, halved again and again at the middle of their longest spread, that finds those which touch a
 * box. Built in O(n log² n).
 */
public final class BoxTree {

    private static final int LEAF = 4;

    private final double[][] boxes;
    private final Integer[] order;
    /** Of each part of the order that was halved, by the number of its node, 1 for all. */
    private final double[][] nodes;

    /** @param boxes least x, y, z, then greatest x, y, z of each */
    public BoxTree(double[][] boxes) {
        this.boxes = boxes;
        order = IntStream.range(0, boxes.length).boxed().toArray(Integer[]::new);
        nodes = new double[4 * Math.max(1, boxes.length)][];
        build(1, 0, boxes.length);
    }

    /** Whether a test comes true for the number of any box that touches the given one; the tests end with that. */
    public boolean any(double[] box, IntPredicate test) {
        return any(1, 0, boxes.length, box, test);
    }

    private void build(int node, int from, int to) {
        double[] around = {Double.POSITIVE_INFINITY, Double.POSITIVE_INFINITY, Double.POSITIVE_INFINITY,
                Double.NEGATIVE_INFINITY, Double.NEGATIVE_INFINITY, Double.NEGATIVE_INFINITY};
        for (int i = from; i < to; i++) {
            for (int k = 0; k < 3; k++) {
                around[k] = Math.min(around[k], boxes[order[i]][k]);
                around[k + 3] = Math.max(around[k + 3], boxes[order[i]][k + 3]);
            }
        }
        nodes[node] = around;
        if (to - from > LEAF) {
            int axis = around[3] - around[0] >= Math.max(around[4] - around[1], around[5] - around[2]) ? 0
                    : around[4] - around[1] >= around[5] - around[2] ? 1 : 2;
            Arrays.sort(order, from, to, Comparator.comparingDouble(box -> boxes[box][axis] + boxes[box][axis + 3]));
            build(2 * node, from, (from + to) >>> 1);
            build(2 * node + 1, (from + to) >>> 1, to);
        }
    }

    private boolean any(int node, int from, int to, double[] box, IntPredicate test) {
        if (!touch(nodes[node], box)) {
            return false;
        }
        if (to - from > LEAF) {
            int middle = (from + to) >>> 1;
            return any(2 * node, from, middle, box, test) || any(2 * node + 1, middle, to, box, test);
        }
        for (int i = from; i < to; i++) {
            if (touch(boxes[order[i]], box) && test.test(order[i])) {
                return true;
            }
        }
        return false;
    }

    private static boolean touch(double[] one, double[] other) {
        return one[0] <= other[3] && other[0] <= one[3] && one[1] <= other[4] && other[1] <= one[4]
                && one[2] <= other[5] && other[2] <= one[5];
    }
}
