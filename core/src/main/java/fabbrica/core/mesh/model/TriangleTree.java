package fabbrica.core.mesh.model;

import fabbrica.core.units.Progress;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import java.util.function.IntPredicate;
import java.util.stream.IntStream;

/**
 * A tree of boxes around a mesh's triangles, for rays and for pairs of triangles that may touch.
 *
 * <p>Triangles are put in the {@link HilbertOrder} of their centres and cut into equal leaves (as Kamel
 * and Faloutsos pack R-trees, 1993); any stretch of the curve is compact, so the tree over the leaves can be complete
 * and lie in an array as a heap, without pointers. Building is linear; a query costs about log n plus what it finds.
 * Boxes are rounded outwards to float.
 */
public final class TriangleTree {

    /**
     * Told of pairs of triangles whose boxes touch; the first comes before the second in the tree.
     *
     * @param <R> what it finds
     */
    public interface PairTest<R> {
        void test(int first, int second, List<R> found);
    }

    private static final int MOST_IN_LEAF = 4;
    private static final int CHUNKS = 64;
    private static final int MOST_TESTS = 1_000_000;
    /** After so many nodes visited, or leaves compared, it is asked whether anybody still waits. */
    private static final int PATIENCE = 1 << 12;
    /** Directions of no special angle to any axis, for rays that should miss edges. */
    private static final double[][] ODD_DIRECTIONS = {{0.5773, 0.3121, 0.7545}, {-0.4161, 0.8327, 0.3653},
            {0.2357, -0.6071, -0.7589}};

    private final Mesh mesh;
    private final int[] order;
    private final int leaves;
    private final Progress progress;
    /** Six floats a node: lowest and highest x, y, z. Node 1 is the root, leaf i is node leaves + i. */
    private final float[] boxes;
    /** The same for each triangle, in the order of the tree. */
    private final float[] triangleBoxes;

    public TriangleTree(Mesh mesh) {
        this(mesh, HilbertOrder.of(mesh), Progress.IGNORED);
    }

    /** For a mesh whose triangles are in the order of the curve already ({@link HilbertOrder#sorted}). */
    public static TriangleTree ofSorted(Mesh mesh) {
        return ofSorted(mesh, Progress.IGNORED);
    }

    /** @param progress asked by all that is asked of the tree whether anybody still waits for it */
    public static TriangleTree ofSorted(Mesh mesh, Progress progress) {
        return new TriangleTree(mesh, IntStream.range(0, mesh.triangleCount()).toArray(), progress);
    }

    private TriangleTree(Mesh mesh, int[] order, Progress progress) {
        this.mesh = mesh;
        this.order = order;
        this.progress = progress;
        leaves = Integer.highestOneBit(Math.max(1, 2 * ((order.length + MOST_IN_LEAF - 1) / MOST_IN_LEAF) - 1));
        boxes = new float[12 * leaves];
        triangleBoxes = new float[6 * order.length];
        IntStream.range(0, leaves).parallel().forEach(this::boxLeaf);
        for (int node = leaves - 1; node > 0; node--) {
            joinChildren(node);
        }
    }

    /** The nearest triangle along a ray, or none; kept apart from the tree so that each thread has its own. */
    public final class Ray {

        private final int[] stack = new int[64];
        private final double[] begins = new double[64];
        private double ox, oy, oz, dx, dy, dz;
        private double distance;
        private int triangle;
        private int winding;
        private IntPredicate counted = triangle -> false;
        private long visits;
        private long nextCheck;

        /** Distance to the hit in lengths of the direction; infinite without one. */
        public double distance() {
            return distance;
        }

        /** Nodes of the tree that all questions to this ray have visited so far: what they have cost. */
        public long visits() {
            return visits;
        }

        /** The triangle that was hit, −1 without one. */
        public int triangle() {
            return triangle;
        }

        /** Finds the nearest hit farther than {@code from} and nearer than {@code until}; tells whether there is one. */
        public boolean cast(double[] origin, double[] direction, double from, double until) {
            set(origin, direction);
            distance = until;
            triangle = -1;
            walk(from, true);
            if (triangle < 0) {
                distance = Double.POSITIVE_INFINITY;
            }
            return triangle >= 0;
        }

        /**
         * How many times the surface winds around a point: 0 outside, 1 inside a body, more where bodies overlap, the
         * middle one of three rays' answers.
         *
         * @param wanted which triangles count
         */
        public int windingAt(double x, double y, double z, IntPredicate wanted) {
            counted = wanted;
            int[] answers = new int[3];
            for (int i = 0; i < 3; i++) {
                set(new double[] {x, y, z}, ODD_DIRECTIONS[i]);
                distance = Double.POSITIVE_INFINITY;
                winding = 0;
                walk(0, false);
                answers[i] = winding;
            }
            Arrays.sort(answers);
            return answers[1];
        }

        private void set(double[] origin, double[] direction) {
            ox = origin[0];
            oy = origin[1];
            oz = origin[2];
            dx = direction[0];
            dy = direction[1];
            dz = direction[2];
        }

        private void walk(double from, boolean nearestOnly) {
            if (visits >= nextCheck) {
                progress.check();
                nextCheck = visits + PATIENCE;
            }
            double ix = 1 / dx, iy = 1 / dy, iz = 1 / dz;
            // Where in a box the side lies through which the ray comes in.
            int inX = ix < 0 ? 3 : 0, inY = iy < 0 ? 4 : 1, inZ = iz < 0 ? 5 : 2;
            int depth = 0;
            depth = push(1, from, depth);
            while (depth > 0) {
                int node = stack[--depth];
                if (begins[depth] > distance) {
                    continue;
                }
                if (node >= leaves) {
                    for (int i = start(node - leaves); i < start(node - leaves + 1); i++) {
                        meet(order[i], from, nearestOnly);
                    }
                } else {
                    double left = entry(2 * node, ix, iy, iz, inX, inY, inZ, from), right = entry(2 * node + 1, ix, iy, iz, inX, inY, inZ, from);
                    visits += 2;
                    // The child that begins nearer is looked into first.
                    boolean leftFirst = left <= right;
                    depth = push(leftFirst ? 2 * node + 1 : 2 * node, leftFirst ? right : left, depth);
                    depth = push(leftFirst ? 2 * node : 2 * node + 1, leftFirst ? left : right, depth);
                }
            }
        }

        private int push(int node, double begin, int depth) {
            if (begin == Double.POSITIVE_INFINITY) {
                return depth;
            }
            stack[depth] = node;
            begins[depth] = begin;
            return depth + 1;
        }

        /** How far along the ray a box begins; infinite when the ray misses it or has hit something nearer. */
        private double entry(int node, double ix, double iy, double iz, int inX, int inY, int inZ, double from) {
            int b = 6 * node;
            double near = from, far = distance;
            // A ray along a face of the box gives 0 · ∞: not a number, which no comparison takes and which does not rule the box out.
            double t = (boxes[b + inX] - ox) * ix;
            near = t > near ? t : near;
            t = (boxes[b + 3 - inX] - ox) * ix;
            far = t < far ? t : far;
            t = (boxes[b + inY] - oy) * iy;
            near = t > near ? t : near;
            t = (boxes[b + 5 - inY] - oy) * iy;
            far = t < far ? t : far;
            t = (boxes[b + inZ] - oz) * iz;
            near = t > near ? t : near;
            t = (boxes[b + 7 - inZ] - oz) * iz;
            far = t < far ? t : far;
            return near > far ? Double.POSITIVE_INFINITY : near;
        }

        /** Möller and Trumbore, "Fast, minimum storage ray/triangle intersection" (1997). */
        private void meet(int t, double from, boolean nearestOnly) {
            int a = mesh.corner(t, 0), b = mesh.corner(t, 1), c = mesh.corner(t, 2);
            double ux = mesh.x(b) - mesh.x(a), uy = mesh.y(b) - mesh.y(a), uz = mesh.z(b) - mesh.z(a);
            double vx = mesh.x(c) - mesh.x(a), vy = mesh.y(c) - mesh.y(a), vz = mesh.z(c) - mesh.z(a);
            double px = dy * vz - dz * vy, py = dz * vx - dx * vz, pz = dx * vy - dy * vx;
            double det = ux * px + uy * py + uz * pz;
            if (det == 0) {
                return;
            }
            double sx = ox - mesh.x(a), sy = oy - mesh.y(a), sz = oz - mesh.z(a);
            double u = (sx * px + sy * py + sz * pz) / det;
            if (u < -1e-12 || u > 1 + 1e-12) {
                return;
            }
            double qx = sy * uz - sz * uy, qy = sz * ux - sx * uz, qz = sx * uy - sy * ux;
            double v = (dx * qx + dy * qy + dz * qz) / det;
            double at = (vx * qx + vy * qy + vz * qz) / det;
            if (v < -1e-12 || u + v > 1 + 1e-12 || !(at > from) || !(at < distance)) {
                return;
            }
            if (nearestOnly) {
                distance = at;
                triangle = t;
            } else {
                // det > 0: the ray meets the triangle's outer side, so what it enters does not surround its start.
                winding += counted.test(t) ? det > 0 ? -1 : 1 : 0;
            }
        }
    }

    public Ray ray() {
        return new Ray();
    }

    /**
     * Puts every pair of triangles whose boxes touch before {@code test}, each pair once, on all processors; but none of two
     * triangles of one patch. Where boxes touch nearly all others, as in a heap of tens of thousands of slivers, the search
     * ends after {@value #MOST_TESTS} pairs in a 64th of the tree: then what is found is some, not all.
     *
     * @param patches of each triangle the number of its patch, from 1; 0 for those in none
     * @return what the tests found, in the same order whatever the number of processors
     */
    public <R> List<R> pairs(int[] patches, PairTest<R> test) {
        int[] whole = whole(patches);
        int chunks = Math.min(CHUNKS, leaves);
        return IntStream.range(chunks, 2 * chunks).parallel().mapToObj(node -> {
            Search<R> search = new Search<>(patches, whole, test);
            search.within(node);
            // What comes later lies below the right-hand siblings of this node's ancestors.
            for (int ancestor = node; ancestor > 1; ancestor /= 2) {
                if ((ancestor & 1) == 0) {
                    search.between(node, ancestor + 1);
                }
            }
            return search.found;
        }).flatMap(List::stream).toList();
    }

    /** Of each node the patch to which all its triangles belong, or 0. */
    private int[] whole(int[] patches) {
        int[] whole = new int[2 * leaves];
        IntStream.range(0, leaves).parallel().forEach(leaf -> {
            int from = start(leaf), to = start(leaf + 1);
            int patch = from < to ? patches[order[from]] : 0;
            for (int i = from + 1; i < to; i++) {
                patch = patches[order[i]] == patch ? patch : 0;
            }
            whole[leaves + leaf] = patch;
        });
        for (int node = leaves - 1; node > 0; node--) {
            whole[node] = whole[2 * node] == whole[2 * node + 1] ? whole[2 * node] : 0;
        }
        return whole;
    }

    /** Pairs below one node of the tree, and between it and others. */
    private final class Search<R> {

        private final int[] patches;
        private final int[] whole;
        private final PairTest<R> test;
        private final List<R> found = new ArrayList<>();
        private int tests;
        private int visits;

        Search(int[] patches, int[] whole, PairTest<R> test) {
            this.patches = patches;
            this.whole = whole;
            this.test = test;
        }

        void within(int node) {
            if (whole[node] != 0) {
                return;
            }
            if (node < leaves) {
                within(2 * node);
                within(2 * node + 1);
                between(2 * node, 2 * node + 1);
                return;
            }
            int to = start(node - leaves + 1);
            for (int i = start(node - leaves); i < to; i++) {
                for (int j = i + 1; j < to; j++) {
                    look(i, j);
                }
            }
        }

        /** The first before the second in the tree. */
        void between(int first, int second) {
            if (whole[first] != 0 && whole[first] == whole[second] || tests >= MOST_TESTS || !touch(boxes, first, boxes, second)) {
                return;
            }
            if (first >= leaves && second >= leaves) {
                ofLeaves(first, second);
            } else if (first >= leaves || second < leaves && Integer.numberOfLeadingZeros(second) > Integer.numberOfLeadingZeros(first)) {
                between(first, 2 * second);
                between(first, 2 * second + 1);
            } else {
                between(2 * first, second);
                between(2 * first + 1, second);
            }
        }

        private void ofLeaves(int first, int second) {
            if (visits++ % PATIENCE == 0) {
                progress.check();
            }
            int from = start(second - leaves), to = start(second - leaves + 1);
            for (int i = start(first - leaves); i < start(first - leaves + 1); i++) {
                if (touch(triangleBoxes, i, boxes, second)) {
                    for (int j = from; j < to; j++) {
                        look(i, j);
                    }
                }
            }
        }

        private void look(int i, int j) {
            int one = patches[order[i]];
            if ((one == 0 || one != patches[order[j]]) && touch(triangleBoxes, i, triangleBoxes, j)) {
                tests++;
                test.test(order[i], order[j], found);
            }
        }
    }

    private static boolean touch(float[] a, int first, float[] b, int second) {
        int i = 6 * first, j = 6 * second;
        return a[i] <= b[j + 3] && b[j] <= a[i + 3] && a[i + 1] <= b[j + 4] && b[j + 1] <= a[i + 4]
                && a[i + 2] <= b[j + 5] && b[j + 2] <= a[i + 5];
    }

    private int start(int leaf) {
        return (int) ((long) order.length * leaf / leaves);
    }

    private void boxLeaf(int leaf) {
        int b = 6 * (leaves + leaf);
        Arrays.fill(boxes, b, b + 3, Float.POSITIVE_INFINITY);
        Arrays.fill(boxes, b + 3, b + 6, Float.NEGATIVE_INFINITY);
        for (int i = start(leaf); i < start(leaf + 1); i++) {
            for (int axis = 0; axis < 3; axis++) {
                box(i, axis);
                boxes[b + axis] = Math.min(boxes[b + axis], triangleBoxes[6 * i + axis]);
                boxes[b + 3 + axis] = Math.max(boxes[b + 3 + axis], triangleBoxes[6 * i + 3 + axis]);
            }
        }
    }

    private void box(int i, int axis) {
        double u = mesh.coordinate(mesh.corner(order[i], 0), axis), v = mesh.coordinate(mesh.corner(order[i], 1), axis);
        double w = mesh.coordinate(mesh.corner(order[i], 2), axis);
        triangleBoxes[6 * i + axis] = Math.nextDown((float) Math.min(u, Math.min(v, w)));
        triangleBoxes[6 * i + 3 + axis] = Math.nextUp((float) Math.max(u, Math.max(v, w)));
    }

    private void joinChildren(int node) {
        int left = 12 * node, right = left + 6;
        for (int k = 0; k < 3; k++) {
            boxes[6 * node + k] = Math.min(boxes[left + k], boxes[right + k]);
            boxes[6 * node + 3 + k] = Math.max(boxes[left + 3 + k], boxes[right + 3 + k]);
        }
    }
}
