package fabbrica.core.inspect;

import fabbrica.core.mesh.model.Mesh;
import java.util.Arrays;
import java.util.concurrent.CompletableFuture;

/**
 * How well a mesh's triangles close into solid bodies. An edge is sound when exactly two triangles meet at it; with
 * one it is open, with more it is non-manifold. Bodies are the groups of triangles connected across edges.
 *
 * <p>Triangles that name one vertex twice have no area and no third edge; they are counted as degenerate and left out
 * of the rest. Triangles whose corners lie in one line are degenerate too but keep their edges, which may close a seam.
 *
 * <p>Method: half-edges are sorted into runs by their lower vertex (counting sort), each short run by the higher one,
 * and equal neighbours are counted; bodies by union–find over the same runs. Triangles that repeat one another share
 * all edges, so they are found among the triangles at one edge. Linear but for the tiny sorts.
 *
 * @param duplicateTriangles triangles that repeat an earlier one's three corners, in whatever order
 */
public record Soundness(int bodies, int openEdges, int nonManifoldEdges, int degenerateTriangles,
                        int duplicateTriangles) {

    /** Twice a triangle's area over its longest edge squared: below this its corners lie in one line. */
    private static final double FLAT = 1e-9;

    public static Soundness of(Mesh mesh) {
        CompletableFuture<Integer> degenerate = CompletableFuture.supplyAsync(() -> degenerate(mesh));
        HalfEdges edges = new HalfEdges(mesh);
        return new Soundness(edges.bodies(), edges.open, edges.nonManifold, degenerate.join(), edges.duplicates);
    }

    /** Whether every edge belongs to exactly two triangles. */
    public boolean watertight() {
        return openEdges == 0 && nonManifoldEdges == 0;
    }

    private static int degenerate(Mesh mesh) {
        int degenerate = 0;
        for (int t = 0; t < mesh.triangleCount(); t++) {
            int a = mesh.corner(t, 0), b = mesh.corner(t, 1), c = mesh.corner(t, 2);
            if (isCollapsed(a, b, c) || isFlat(mesh, a, b, c)) {
                degenerate++;
            }
        }
        return degenerate;
    }

    private static boolean isCollapsed(int a, int b, int c) {
        return a == b || b == c || c == a;
    }

    private static boolean isFlat(Mesh mesh, int a, int b, int c) {
        double ux = mesh.x(b) - mesh.x(a), uy = mesh.y(b) - mesh.y(a), uz = mesh.z(b) - mesh.z(a);
        double vx = mesh.x(c) - mesh.x(a), vy = mesh.y(c) - mesh.y(a), vz = mesh.z(c) - mesh.z(a);
        double wx = vx - ux, wy = vy - uy, wz = vz - uz;
        double nx = uy * vz - uz * vy, ny = uz * vx - ux * vz, nz = ux * vy - uy * vx;
        double longest = Math.max(ux * ux + uy * uy + uz * uz,
                Math.max(vx * vx + vy * vy + vz * vz, wx * wx + wy * wy + wz * wz));
        return nx * nx + ny * ny + nz * nz <= FLAT * FLAT * longest * longest;
    }

    /** All half-edges, as one run per lower vertex of (higher vertex, triangle) pairs, and what the runs tell. */
    private static final class HalfEdges {

        private static final int SHORT_RUN = 24;

        private final Mesh mesh;
        private final int[] runEnds;
        private final long[] entries;
        private final int[] parent;
        private int open;
        private int nonManifold;
        private int duplicates;

        /** One short method a pass: the compiler then works on one loop at a time. */
        HalfEdges(Mesh mesh) {
            this.mesh = mesh;
            runEnds = new int[mesh.vertexCount() + 1];
            countRuns();
            entries = new long[runEnds[mesh.vertexCount()]];
            fillRuns();
            parent = new int[mesh.triangleCount()];
            readRuns();
        }

        /** Leaves the start of every vertex's run in {@code runEnds}. */
        private void countRuns() {
            for (int t = 0; t < mesh.triangleCount(); t++) {
                int a = mesh.corner(t, 0), b = mesh.corner(t, 1), c = mesh.corner(t, 2);
                if (!isCollapsed(a, b, c)) {
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
                if (!isCollapsed(a, b, c)) {
                    entries[runEnds[Math.min(a, b)]++] = (long) Math.max(a, b) << 32 | t;
                    entries[runEnds[Math.min(b, c)]++] = (long) Math.max(b, c) << 32 | t;
                    entries[runEnds[Math.min(c, a)]++] = (long) Math.max(c, a) << 32 | t;
                }
            }
        }

        private void readRuns() {
            for (int t = 0; t < parent.length; t++) {
                parent[t] = t;
            }
            for (int vertex = 0, start = 0; vertex < mesh.vertexCount(); vertex++) {
                sort(start, runEnds[vertex]);
                readRun(vertex, start, runEnds[vertex]);
                start = runEnds[vertex];
            }
        }

        int bodies() {
            int bodies = 0;
            for (int t = 0; t < parent.length; t++) {
                if (parent[t] == t
                        && !isCollapsed(mesh.corner(t, 0), mesh.corner(t, 1), mesh.corner(t, 2))) {
                    bodies++;
                }
            }
            return bodies;
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

        private void readRun(int low, int start, int end) {
            for (int first = start, next; first < end; first = next) {
                int high = (int) (entries[first] >>> 32);
                next = first + 1;
                while (next < end && (int) (entries[next] >>> 32) == high) {
                    join((int) entries[first], (int) entries[next]);
                    next++;
                }
                if (next - first == 1) {
                    open++;
                } else {
                    nonManifold += next - first > 2 ? 1 : 0;
                    countDuplicates(low, high, first, next);
                }
            }
        }

        /** Counted only at the edge of a triangle's two lower vertices, so that each repetition counts once. */
        private void countDuplicates(int low, int high, int first, int next) {
            for (int i = first + 1; i < next; i++) {
                int third = third(i, low, high);
                boolean repeats = false;
                for (int earlier = first; third > high && earlier < i && !repeats; earlier++) {
                    repeats = third(earlier, low, high) == third;
                }
                duplicates += repeats ? 1 : 0;
            }
        }

        private int third(int entry, int low, int high) {
            int t = (int) entries[entry];
            return mesh.corner(t, 0) ^ mesh.corner(t, 1) ^ mesh.corner(t, 2) ^ low ^ high;
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
    }
}
