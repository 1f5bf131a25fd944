package fabbrica.core.inspect;

import fabbrica.core.mesh.model.Mesh;
import java.util.Arrays;

/**
 * How well a mesh's triangles close into solid bodies. An edge is sound when exactly two triangles meet at it; with
 * one it is open, with more it is non-manifold. Bodies are the groups of triangles connected across edges.
 *
 * <p>Triangles that name one vertex twice have no area and no third edge; they are counted as degenerate and left out
 * of the rest. Triangles whose corners lie in one line are degenerate too but keep their edges, which may close a seam.
 *
 * <p>Method: edges and triangles are sorted into buckets by their lowest vertex (counting sort), each bucket is sorted
 * by the remaining key, and equal neighbours are counted; bodies by union–find. Linear but for the tiny bucket sorts.
 *
 * @param duplicateTriangles triangles that repeat an earlier one's three corners, in whatever order
 */
public record Soundness(int bodies, int openEdges, int nonManifoldEdges, int degenerateTriangles,
                        int duplicateTriangles) {

    /** Twice a triangle's area over its longest edge squared: below this its corners lie in one line. */
    private static final double FLAT = 1e-9;

    public static Soundness of(Mesh mesh) {
        int triangles = mesh.triangleCount();
        boolean[] collapsed = new boolean[triangles];
        int degenerate = 0;
        for (int t = 0; t < triangles; t++) {
            int a = mesh.corner(t, 0), b = mesh.corner(t, 1), c = mesh.corner(t, 2);
            collapsed[t] = a == b || b == c || c == a;
            if (collapsed[t] || isFlat(mesh, a, b, c)) {
                degenerate++;
            }
        }
        EdgeCount edges = EdgeCount.of(mesh, collapsed);
        return new Soundness(edges.bodies, edges.open, edges.nonManifold, degenerate,
                duplicates(mesh, collapsed));
    }

    /** Whether every edge belongs to exactly two triangles. */
    public boolean watertight() {
        return openEdges == 0 && nonManifoldEdges == 0;
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

    private static int duplicates(Mesh mesh, boolean[] collapsed) {
        int triangles = mesh.triangleCount();
        Buckets buckets = new Buckets(mesh.vertexCount());
        for (int t = 0; t < triangles; t++) {
            if (!collapsed[t]) {
                buckets.count(lowest(mesh, t));
            }
        }
        buckets.allocate();
        for (int t = 0; t < triangles; t++) {
            if (!collapsed[t]) {
                int a = mesh.corner(t, 0), b = mesh.corner(t, 1), c = mesh.corner(t, 2);
                int low = Math.min(a, Math.min(b, c)), high = Math.max(a, Math.max(b, c));
                int middle = a ^ b ^ c ^ low ^ high;
                buckets.add(low, (long) middle << 32 | high);
            }
        }
        int duplicates = 0;
        for (int vertex = 0; vertex < mesh.vertexCount(); vertex++) {
            int end = buckets.sort(vertex);
            for (int i = buckets.start(vertex) + 1; i < end; i++) {
                if (buckets.entry(i) == buckets.entry(i - 1)) {
                    duplicates++;
                }
            }
        }
        return duplicates;
    }

    private static int lowest(Mesh mesh, int triangle) {
        return Math.min(mesh.corner(triangle, 0), Math.min(mesh.corner(triangle, 1), mesh.corner(triangle, 2)));
    }

    private record EdgeCount(int open, int nonManifold, int bodies) {

        static EdgeCount of(Mesh mesh, boolean[] collapsed) {
            int triangles = mesh.triangleCount();
            Buckets buckets = new Buckets(mesh.vertexCount());
            for (int t = 0; t < triangles; t++) {
                for (int corner = 0; corner < 3 && !collapsed[t]; corner++) {
                    buckets.count(Math.min(mesh.corner(t, corner), mesh.corner(t, (corner + 1) % 3)));
                }
            }
            buckets.allocate();
            for (int t = 0; t < triangles; t++) {
                for (int corner = 0; corner < 3 && !collapsed[t]; corner++) {
                    int from = mesh.corner(t, corner), to = mesh.corner(t, (corner + 1) % 3);
                    buckets.add(Math.min(from, to), (long) Math.max(from, to) << 32 | t);
                }
            }
            UnionFind groups = new UnionFind(triangles);
            int open = 0, nonManifold = 0;
            for (int vertex = 0; vertex < mesh.vertexCount(); vertex++) {
                int end = buckets.sort(vertex);
                for (int first = buckets.start(vertex), next; first < end; first = next) {
                    long other = buckets.entry(first) >>> 32;
                    for (next = first + 1; next < end && buckets.entry(next) >>> 32 == other; next++) {
                        groups.join((int) buckets.entry(first), (int) buckets.entry(next));
                    }
                    if (next - first == 1) {
                        open++;
                    } else if (next - first > 2) {
                        nonManifold++;
                    }
                }
            }
            int bodies = 0;
            for (int t = 0; t < triangles; t++) {
                if (!collapsed[t] && groups.isRoot(t)) {
                    bodies++;
                }
            }
            return new EdgeCount(open, nonManifold, bodies);
        }
    }

    /** Longs sorted into one run per vertex: count all, allocate, add all, then sort run by run. */
    private static final class Buckets {

        private final int[] starts;
        private final int[] filled;
        private long[] entries;

        Buckets(int vertices) {
            starts = new int[vertices + 1];
            filled = new int[vertices];
        }

        void count(int vertex) {
            starts[vertex + 1]++;
        }

        void allocate() {
            for (int vertex = 0; vertex < filled.length; vertex++) {
                starts[vertex + 1] += starts[vertex];
                filled[vertex] = starts[vertex];
            }
            entries = new long[starts[filled.length]];
        }

        void add(int vertex, long entry) {
            entries[filled[vertex]++] = entry;
        }

        int start(int vertex) {
            return starts[vertex];
        }

        long entry(int at) {
            return entries[at];
        }

        /** Sorts a vertex's run and returns its end. */
        int sort(int vertex) {
            Arrays.sort(entries, starts[vertex], starts[vertex + 1]);
            return starts[vertex + 1];
        }
    }

    /** Disjoint sets with path halving; the lower index becomes the root. */
    private static final class UnionFind {

        private final int[] parent;

        UnionFind(int size) {
            parent = new int[size];
            Arrays.setAll(parent, i -> i);
        }

        void join(int a, int b) {
            int rootA = root(a), rootB = root(b);
            parent[Math.max(rootA, rootB)] = Math.min(rootA, rootB);
        }

        boolean isRoot(int i) {
            return parent[i] == i;
        }

        private int root(int start) {
            int i = start;
            while (parent[i] != i) {
                parent[i] = parent[parent[i]];
                i = parent[i];
            }
            return i;
        }
    }
}
