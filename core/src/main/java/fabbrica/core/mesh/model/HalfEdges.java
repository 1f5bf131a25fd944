package fabbrica.core.mesh.model;

import java.lang.invoke.MethodHandles;
import java.lang.invoke.VarHandle;
import java.util.Arrays;
import java.util.stream.IntStream;

/**
 * Which triangles meet at which edges. Half-edge {@code 3t + c} runs from corner {@code c} of triangle {@code t} to its
 * next corner; its twin is the half-edge of the one other triangle at the same edge. Triangles that name a vertex twice
 * have no third edge and are left out.
 *
 * <p>Method: half-edges are sorted into runs by their lower vertex (counting sort), each short run by the higher one,
 * and equal neighbours are one edge; bodies by union–find over the same runs. Triangles that repeat one another share
 * all edges, so they are found among the triangles at one edge. Linear but for the tiny sorts. Of large meshes each processor
 * takes the edges of a share of the vertices.
 */
public final class HalfEdges {

    /** In place of a twin: no other triangle. */
    public static final int OPEN = -1;
    /** In place of a twin: more than one other triangle. */
    public static final int CROWDED = -2;
    /** In place of a twin: the triangle names one vertex twice. */
    public static final int COLLAPSED = -3;

    private static final int SHORT_RUN = 24;
    private static final int WORTH_SHARING = 1 << 15;
    /** All of them look at all triangles. */
    private static final int MOST_SHARES = 8;
    private static final VarHandle ELEMENT = MethodHandles.arrayElementVarHandle(int[].class);

    private final Mesh mesh;
    private final int[] twins;
    private final int[] parent;
    private int openEdges;
    private int crowdedEdges;
    private int inconsistentEdges;
    private int duplicateTriangles;
    private int bodies;

    public HalfEdges(Mesh mesh) {
        this.mesh = mesh;
        twins = new int[3 * mesh.triangleCount()];
        parent = new int[mesh.triangleCount()];
        Arrays.fill(twins, COLLAPSED);
        for (int t = 0; t < parent.length; t++) {
            parent[t] = t;
        }
        int shares = mesh.triangleCount() < WORTH_SHARING ? 1 : Math.min(MOST_SHARES, Runtime.getRuntime().availableProcessors());
        int vertices = mesh.vertexCount();
        for (Runs runs : IntStream.range(0, shares).parallel().mapToObj(i -> new Runs((int) ((long) vertices * i / shares),
                (int) ((long) vertices * (i + 1) / shares))).toList()) {
            openEdges += runs.open;
            crowdedEdges += runs.crowded;
            inconsistentEdges += runs.inconsistent;
            duplicateTriangles += runs.duplicates;
        }
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

    /** Disjoint sets with path halving; the lower triangle becomes the root, unless somebody else has joined the higher in the meantime. */
    private void join(int a, int b) {
        int rootA = root(a), rootB = root(b);
        while (rootA != rootB && !ELEMENT.compareAndSet(parent, Math.max(rootA, rootB), Math.max(rootA, rootB), Math.min(rootA, rootB))) {
            rootA = root(rootA);
            rootB = root(rootB);
        }
    }

    /** Whoever is no root never becomes one again, so a way that others shorten in the meantime still leads up. */
    private int root(int triangle) {
        int t = triangle;
        for (int up = parent[t]; up != t; up = parent[t]) {
            int next = parent[up];
            parent[t] = next;
            t = next;
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

    /** The edges whose lower vertex is one of {@code first} to {@code beyond}. One short method a pass: the compiler then works on one loop at a time. */
    private final class Runs {

        private final int first;
        private final int beyond;
        private final int[] ends;
        private final long[] entries;
        private int open;
        private int crowded;
        private int inconsistent;
        private int duplicates;

        Runs(int first, int beyond) {
            this.first = first;
            this.beyond = beyond;
            ends = new int[beyond - first + 1];
            count();
            entries = new long[ends[beyond - first]];
            fill();
            read();
        }

        /** Leaves the start of every vertex's run in {@code ends}. */
        private void count() {
            for (int t = 0; t < mesh.triangleCount(); t++) {
                int a = mesh.corner(t, 0), b = mesh.corner(t, 1), c = mesh.corner(t, 2);
                if (a != b && b != c && c != a) {
                    count(Math.min(a, b));
                    count(Math.min(b, c));
                    count(Math.min(c, a));
                }
            }
            for (int vertex = 0; vertex < beyond - first; vertex++) {
                ends[vertex + 1] += ends[vertex];
            }
        }

        private void count(int lower) {
            if (lower >= first && lower < beyond) {
                ends[lower - first + 1]++;
            }
        }

        /** Moves every start to its run's end while filling the run. */
        private void fill() {
            for (int t = 0; t < mesh.triangleCount(); t++) {
                int a = mesh.corner(t, 0), b = mesh.corner(t, 1), c = mesh.corner(t, 2);
                if (a != b && b != c && c != a) {
                    fill(a, b, 3 * t);
                    fill(b, c, 3 * t + 1);
                    fill(c, a, 3 * t + 2);
                }
            }
        }

        private void fill(int a, int b, int halfEdge) {
            int lower = Math.min(a, b);
            if (lower >= first && lower < beyond) {
                entries[ends[lower - first]++] = (long) Math.max(a, b) << 32 | halfEdge;
            }
        }

        private void read() {
            for (int vertex = 0, start = 0; vertex < beyond - first; vertex++) {
                sort(start, ends[vertex]);
                readRun(start, ends[vertex]);
                start = ends[vertex];
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
            for (int one = start, next; one < end; one = next) {
                int high = (int) (entries[one] >>> 32);
                next = one + 1;
                while (next < end && (int) (entries[next] >>> 32) == high) {
                    join((int) entries[one] / 3, (int) entries[next] / 3);
                    next++;
                }
                readEdge(one, next);
            }
        }

        private void readEdge(int one, int next) {
            int halfEdge = (int) entries[one];
            if (next - one == 1) {
                open++;
                twins[halfEdge] = OPEN;
            } else if (next - one == 2) {
                int other = (int) entries[one + 1];
                twins[halfEdge] = other;
                twins[other] = halfEdge;
                inconsistent += from(halfEdge) == from(other) ? 1 : 0;
                duplicates += repeats(one + 1, one) ? 1 : 0;
            } else {
                crowded++;
                for (int i = one; i < next; i++) {
                    twins[(int) entries[i]] = CROWDED;
                    boolean repeats = false;
                    for (int earlier = one; earlier < i && !repeats; earlier++) {
                        repeats = repeats(i, earlier);
                    }
                    duplicates += repeats ? 1 : 0;
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
    }
}
