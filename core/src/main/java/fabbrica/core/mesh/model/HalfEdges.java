package fabbrica.core.mesh.model;

import java.util.Arrays;

/**
 * Which triangles meet at which edges. Half-edge {@code 3t + c} runs from corner {@code c} of triangle {@code t} to its
 * next corner; its twin is the half-edge of the one other triangle at the same edge. Triangles that name a vertex twice
 * have no third edge and are left out.
 *
 * <p>Method: half-edges are sorted into runs by their lower vertex (counting sort), each short run by the higher one,
 * and equal neighbours are one edge; bodies by union–find over the same runs. Triangles that repeat one another share
 * all edges, so they are found among the triangles at one edge. Linear but for the tiny sorts.
 */
public final class HalfEdges {

    /** In place of a twin: no other triangle. */
    public static final int OPEN = -1;
    /** In place of a twin: more than one other triangle. */
    public static final int CROWDED = -2;
    /** In place of a twin: the triangle names one vertex twice. */
    public static final int COLLAPSED = -3;

    private static final int SHORT_RUN = 24;

    private final Mesh mesh;
    private final int[] runEnds;
    private final int[] twins;
    private final int[] parent;
    private long[] entries = {};
    private int openEdges;
    private int crowdedEdges;
    private int inconsistentEdges;
    private int duplicateTriangles;
    private int bodies;

    /** One short method a pass: the compiler then works on one loop at a time. */
    public HalfEdges(Mesh mesh) {
        this.mesh = mesh;
        runEnds = new int[mesh.vertexCount() + 1];
        countRuns();
        entries = new long[runEnds[mesh.vertexCount()]];
        fillRuns();
        parent = new int[mesh.triangleCount()];
        twins = new int[3 * mesh.triangleCount()];
        readRuns();
        entries = new long[0];
        numberBodies();
    }

    /** The half-edge of the other triangle, or {@link #OPEN}, {@link #CROWDED} or {@link #COLLAPSED}. */
    public int twin(int halfEdge) {
        return twins[halfEdge];
    }

    public int from(int halfEdge) {
        return mesh.corner(halfEdge / 3, halfEdge % 3);
    }

    public int to(int halfEdge) {
        return mesh.corner(halfEdge / 3, (halfEdge + 1) % 3);
    }

    /** Whether both triangles at an edge with a twin run along it in opposite directions, as they should. */
    public boolean agrees(int halfEdge) {
        return from(halfEdge) == to(twins[halfEdge]);
    }

    /** Edges with one triangle. */
    public int openEdges() {
        return openEdges;
    }

    /** Edges with more than two triangles. */
    public int crowdedEdges() {
        return crowdedEdges;
    }

    /** Edges whose two triangles are wound against each other. */
    public int inconsistentEdges() {
        return inconsistentEdges;
    }

    /** Triangles that repeat an earlier one's three corners, in whatever order. */
    public int duplicateTriangles() {
        return duplicateTriangles;
    }

    /** Groups of triangles connected across edges. */
    public int bodies() {
        return bodies;
    }

    /** The body of a triangle, from 0 in the order of their first triangles; −1 for a collapsed one. */
    public int body(int triangle) {
        return parent[triangle];
    }

    public static boolean isCollapsed(Mesh mesh, int triangle) {
        int a = mesh.corner(triangle, 0), b = mesh.corner(triangle, 1), c = mesh.corner(triangle, 2);
        return a == b || b == c || c == a;
    }

    /** Leaves the start of every vertex's run in {@code runEnds}. */
    private void countRuns() {
        for (int t = 0; t < mesh.triangleCount(); t++) {
            int a = mesh.corner(t, 0), b = mesh.corner(t, 1), c = mesh.corner(t, 2);
            if (a != b && b != c && c != a) {
                runEnds[Math.min(a, b) + 1]++;
                runEnds[Math.min(b, c) + 1]++;
                runEnds[Math.min(c, a) + 1]++;
            }
        }
        for (int vertex = 0; vertex < mesh.vertexCount(); vertex++) {
            runEnds[vertex + 1] += runEnds[vertex];
        }
    }

    /** Moves every start to its run's end while filling the run. */
    private void fillRuns() {
        for (int t = 0; t < mesh.triangleCount(); t++) {
            int a = mesh.corner(t, 0), b = mesh.corner(t, 1), c = mesh.corner(t, 2);
            if (a != b && b != c && c != a) {
                entries[runEnds[Math.min(a, b)]++] = (long) Math.max(a, b) << 32 | 3 * t;
                entries[runEnds[Math.min(b, c)]++] = (long) Math.max(b, c) << 32 | 3 * t + 1;
                entries[runEnds[Math.min(c, a)]++] = (long) Math.max(c, a) << 32 | 3 * t + 2;
            }
        }
    }

    private void readRuns() {
        Arrays.fill(twins, COLLAPSED);
        for (int t = 0; t < parent.length; t++) {
            parent[t] = t;
        }
        for (int vertex = 0, start = 0; vertex < mesh.vertexCount(); vertex++) {
            sort(start, runEnds[vertex]);
            readRun(start, runEnds[vertex]);
            start = runEnds[vertex];
        }
    }

    /** Runs are nearly always a handful of entries, for which insertion beats the library's sort. */
    private void sort(int start, int end) {
        if (end - start > SHORT_RUN) {
            Arrays.sort(entries, start, end);
            return;
        }
        for (int i = start + 1; i < end; i++) {
            long entry = entries[i];
            int at = i;
            for (; at > start && entries[at - 1] > entry; at--) {
                entries[at] = entries[at - 1];
            }
            entries[at] = entry;
        }
    }

    private void readRun(int start, int end) {
        for (int first = start, next; first < end; first = next) {
            int high = (int) (entries[first] >>> 32);
            next = first + 1;
            while (next < end && (int) (entries[next] >>> 32) == high) {
                join((int) entries[first] / 3, (int) entries[next] / 3);
                next++;
            }
            readEdge(first, next);
        }
    }

    private void readEdge(int first, int next) {
        int halfEdge = (int) entries[first];
        if (next - first == 1) {
            openEdges++;
            twins[halfEdge] = OPEN;
        } else if (next - first == 2) {
            int other = (int) entries[first + 1];
            twins[halfEdge] = other;
            twins[other] = halfEdge;
            inconsistentEdges += from(halfEdge) == from(other) ? 1 : 0;
            duplicateTriangles += repeats(first + 1, first) ? 1 : 0;
        } else {
            crowdedEdges++;
            for (int i = first; i < next; i++) {
                twins[(int) entries[i]] = CROWDED;
                boolean repeats = false;
                for (int earlier = first; earlier < i && !repeats; earlier++) {
                    repeats = repeats(i, earlier);
                }
                duplicateTriangles += repeats ? 1 : 0;
            }
        }
    }

    /** Said only at the edge of a triangle's two lower vertices, so that each repetition counts once. */
    private boolean repeats(int entry, int earlier) {
        int third = third(entry);
        return third == third(earlier) && third > (int) (entries[entry] >>> 32);
    }

    private int third(int entry) {
        int halfEdge = (int) entries[entry];
        return mesh.corner(halfEdge / 3, (halfEdge + 2) % 3);
    }

    /** Disjoint sets with path halving; the lower triangle becomes the root. */
    private void join(int a, int b) {
        int rootA = root(a), rootB = root(b);
        parent[Math.max(rootA, rootB)] = Math.min(rootA, rootB);
    }

    private int root(int triangle) {
        int t = triangle;
        while (parent[t] != t) {
            parent[t] = parent[parent[t]];
            t = parent[t];
        }
        return t;
    }

    /** A root comes before all others of its set, so its number is known when theirs are asked for. */
    private void numberBodies() {
        for (int t = 0; t < parent.length; t++) {
            if (twins[3 * t] == COLLAPSED) {
                parent[t] = -1;
            } else if (parent[t] == t) {
                parent[t] = -2 - bodies++;
            } else {
                parent[t] = parent[rootBefore(t)];
            }
        }
        for (int t = 0; t < parent.length; t++) {
            parent[t] = parent[t] == -1 ? -1 : -2 - parent[t];
        }
    }

    private int rootBefore(int triangle) {
        int t = triangle;
        while (parent[t] >= 0) {
            t = parent[t];
        }
        return t;
    }
}
