package fabbrica.core.inspect;

import fabbrica.core.mesh.model.HalfEdges;
import fabbrica.core.mesh.model.Mesh;
import fabbrica.core.mesh.model.TriangleTree;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.Comparator;
import java.util.List;
import java.util.Locale;

/**
 * Parts of layers that begin in mid-air: the lowest points of the surface, other than on the bed, with the solid above
 * them. As a cut plane rises, a new piece of the cut begins exactly at such a minimum of the height (Reeb 1946; Milnor,
 * "Morse theory", 1963), so no layer needs to be cut. A minimum that the surface around it joins to something lower
 * within one layer height is a ripple, not an island; one under which another body lies is carried by it.
 *
 * <p>Linear in the triangles; each minimum then looks at its surroundings up to one layer height.
 */
final class Islands {

    private static final double LAYER_MM = 0.2;
    private static final int WIDE_ENOUGH = 20_000;
    private static final int MOST_MINIMA = 20_000;
    /** About a second of rays; beyond, in heaps of ten thousands of bodies on one another, plateaus are taken as carried. */
    private static final long MOST_VISITS = 50_000_000;
    private static final int MOST_FACES = 200;
    private static final int PROBES = 10;

    private final Mesh mesh;
    private final HalfEdges edges;
    private final int[] parent;
    private final boolean[] hasLower;
    private final double[] upward;
    private int[] levelFaces = {};
    private int[] nextLevelFace = {};

    private Islands(Mesh mesh, HalfEdges edges) {
        this.mesh = mesh;
        this.edges = edges;
        parent = new int[mesh.vertexCount()];
        hasLower = new boolean[mesh.vertexCount()];
        upward = new double[mesh.vertexCount()];
    }

    /** @return where islands begin, lowest first */
    static List<Place> of(Mesh mesh, HalfEdges edges, TriangleTree tree) {
        return new Islands(mesh, edges).places(tree);
    }

    private List<Place> places(TriangleTree tree) {
        joinLevelVertices();
        findMinima();
        double bed = mesh.bounds().minZ();
        int[] seeds = seedTriangles(bed + Overhang.ON_BED_MM);
        int[] seen = new int[mesh.triangleCount()];
        TriangleTree.Ray ray = tree.ray();
        List<Place> places = new ArrayList<>();
        for (int i = 0; i < Math.min(MOST_MINIMA, seeds.length); i++) {
            int v = lowestCorner(seeds[i]);
            if (!joinsSomethingLower(seeds[i], mesh.z(v), seen, i + 1) && !isCarried(ray, seeds[i], v)) {
                places.add(new Place(mesh.x(v), mesh.y(v), mesh.z(v), String.format(Locale.ROOT,
                        "begins in mid-air at %.1f mm", mesh.z(v) - bed)));
            }
        }
        places.sort(Comparator.comparingDouble(Place::z));
        return List.copyOf(places);
    }

    /** Vertices at one height along an edge are one plateau. */
    private void joinLevelVertices() {
        for (int v = 0; v < parent.length; v++) {
            parent[v] = v;
        }
        for (int t = 0; t < mesh.triangleCount(); t++) {
            int a = mesh.corner(t, 0), b = mesh.corner(t, 1), c = mesh.corner(t, 2);
            double za = mesh.z(a), zb = mesh.z(b), zc = mesh.z(c);
            if (za == zb) {
                join(a, b);
            }
            if (zb == zc) {
                join(b, c);
            }
            if (zc == za) {
                join(c, a);
            }
        }
    }

    private void findMinima() {
        double[] normal = new double[3];
        for (int t = 0; t < mesh.triangleCount(); t++) {
            mesh.normal(t, normal);
            double length = Math.sqrt(normal[0] * normal[0] + normal[1] * normal[1] + normal[2] * normal[2]);
            double lowest = Math.min(mesh.z(mesh.corner(t, 0)), Math.min(mesh.z(mesh.corner(t, 1)),
                    mesh.z(mesh.corner(t, 2))));
            for (int corner = 0; corner < 3; corner++) {
                int v = mesh.corner(t, corner);
                int root = root(v);
                hasLower[root] |= mesh.z(v) > lowest;
                upward[root] += length == 0 ? 0 : normal[2] / length;
            }
        }
    }

    /** One triangle at each minimum above the bed with the solid over it. */
    private int[] seedTriangles(double above) {
        boolean[] seeded = new boolean[parent.length];
        int[] seeds = new int[16];
        int count = 0;
        for (int t = 0; t < mesh.triangleCount(); t++) {
            for (int corner = 0; corner < 3; corner++) {
                int root = root(mesh.corner(t, corner));
                if (!hasLower[root] && !seeded[root] && upward[root] < 0 && mesh.z(root) > above
                        && !HalfEdges.isCollapsed(mesh, t)) {
                    seeded[root] = true;
                    if (count == seeds.length) {
                        seeds = Arrays.copyOf(seeds, 2 * count);
                    }
                    seeds[count++] = t;
                }
            }
        }
        return Arrays.copyOf(seeds, count);
    }

    private boolean joinsSomethingLower(int seed, double z, int[] seen, int mark) {
        int[] waiting = new int[64];
        int end = 0;
        waiting[end++] = seed;
        seen[seed] = mark;
        for (int at = 0; at < end && end < WIDE_ENOUGH; at++) {
            int t = waiting[at];
            for (int corner = 0; corner < 3; corner++) {
                if (mesh.z(mesh.corner(t, corner)) < z) {
                    return true;
                }
                int h = 3 * t + corner;
                int twin = edges.twin(h);
                boolean within = Math.min(mesh.z(edges.from(h)), mesh.z(edges.to(h))) < z + LAYER_MM;
                if (twin >= 0 && within && seen[twin / 3] != mark) {
                    seen[twin / 3] = mark;
                    if (end == waiting.length) {
                        waiting = Arrays.copyOf(waiting, 2 * end);
                    }
                    waiting[end++] = twin / 3;
                }
            }
        }
        return false;
    }

    /** Whether another body lies just below some point of the plateau: its faces are looked at on a grid. */
    private boolean isCarried(TriangleTree.Ray ray, int seed, int v) {
        if (edges.bodies() < 2) {
            return false;
        }
        if (ray.visits() > MOST_VISITS) {
            return true;
        }
        int body = edges.body(seed), plateau = root(v);
        double below = mesh.z(v) - Overhang.ON_BED_MM;
        if (ray.windingAt(mesh.x(v), mesh.y(v), below, t -> edges.body(t) != body) > 0) {
            return true;
        }
        int looked = 0;
        for (int t = levelFaces()[plateau]; t >= 0 && looked < MOST_FACES; t = nextLevelFace[t]) {
            if (ray.visits() > MOST_VISITS) {
                return true;
            }
            if (edges.body(t) == body) {
                int a = mesh.corner(t, 0), b = mesh.corner(t, 1), c = mesh.corner(t, 2);
                looked++;
                for (int i = 1; i < PROBES; i++) {
                    for (int j = 1; i + j < PROBES; j++) {
                        double p = (double) i / PROBES, q = (double) j / PROBES, r = 1 - p - q;
                        if (ray.windingAt(p * mesh.x(a) + q * mesh.x(b) + r * mesh.x(c),
                                p * mesh.y(a) + q * mesh.y(b) + r * mesh.y(c), below, u -> edges.body(u) != body) > 0) {
                            return true;
                        }
                    }
                }
            }
        }
        return false;
    }

    /** The first face of each plateau, by its root; −1 where there is none. */
    private int[] levelFaces() {
        if (levelFaces.length == 0) {
            levelFaces = new int[mesh.vertexCount()];
            nextLevelFace = new int[mesh.triangleCount()];
            Arrays.fill(levelFaces, -1);
            for (int t = mesh.triangleCount() - 1; t >= 0; t--) {
                int plateau = root(mesh.corner(t, 0));
                if (root(mesh.corner(t, 1)) == plateau && root(mesh.corner(t, 2)) == plateau) {
                    nextLevelFace[t] = levelFaces[plateau];
                    levelFaces[plateau] = t;
                }
            }
        }
        return levelFaces;
    }

    private int lowestCorner(int t) {
        int a = mesh.corner(t, 0), b = mesh.corner(t, 1), c = mesh.corner(t, 2);
        int lower = mesh.z(a) <= mesh.z(b) ? a : b;
        return mesh.z(lower) <= mesh.z(c) ? lower : c;
    }

    private void join(int a, int b) {
        int rootA = root(a), rootB = root(b);
        parent[Math.max(rootA, rootB)] = Math.min(rootA, rootB);
    }

    private int root(int vertex) {
        int v = vertex;
        while (parent[v] != v) {
            parent[v] = parent[parent[v]];
            v = parent[v];
        }
        return v;
    }
}
