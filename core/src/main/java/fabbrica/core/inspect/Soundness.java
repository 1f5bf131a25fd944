package fabbrica.core.inspect;

import fabbrica.core.inspect.Bodies.Body;
import fabbrica.core.inspect.Bodies.Kind;
import fabbrica.core.mesh.model.HalfEdges;
import fabbrica.core.mesh.model.HilbertOrder;
import fabbrica.core.mesh.model.Holes;
import fabbrica.core.mesh.model.Mesh;
import fabbrica.core.mesh.model.TriangleTree;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.concurrent.CompletableFuture;

/**
 * How well a mesh's triangles close into solid bodies. An edge is sound when exactly two triangles meet at it, running
 * along it in opposite directions; with one it is open, with more it is non-manifold.
 *
 * <p>Triangles that name one vertex twice have no area and no third edge; they are counted as degenerate and left out
 * of the rest. Triangles whose corners lie in one line are degenerate too but keep their edges, which may close a seam.
 *
 * @param duplicateTriangles triangles that repeat an earlier one's three corners, in whatever order
 * @param inconsistentEdges  edges whose two triangles are wound against each other
 * @param intersectingPairs  pairs of triangles that pass through one another
 * @param betweenBodies      how many of these pairs belong to two bodies
 * @param holes              loops of open edges, the longest first
 * @param bodies             largest first
 * @param places             some places of each kind of trouble
 */
public record Soundness(int openEdges, int nonManifoldEdges, int degenerateTriangles, int duplicateTriangles,
                        int inconsistentEdges, int intersectingPairs, int betweenBodies, List<Hole> holes,
                        List<Body> bodies, Places places) {

    /** Twice a triangle's area over its longest edge squared: below this its corners lie in one line. */
    private static final double FLAT = 1e-9;
    private static final int MOST_PLACES = 12;

    /** A loop of open edges: a hole, or a rim. */
    public record Hole(int edges, double lengthMm) {
    }

    /** Where it is, for each kind of trouble that has a place; at most {@value #MOST_PLACES} each. */
    public record Places(List<Place> open, List<Place> nonManifold, List<Place> inconsistent, List<Place> crossing,
                         List<Place> degenerate) {
    }

    public static Soundness of(Mesh part) {
        Mesh mesh = HilbertOrder.sorted(part);
        return of(mesh, new HalfEdges(mesh), TriangleTree.ofSorted(mesh));
    }

    static Soundness of(Mesh mesh, HalfEdges edges, TriangleTree tree) {
        CompletableFuture<List<Integer>> degenerate = CompletableFuture.supplyAsync(() -> degenerate(mesh));
        List<Intersections.Pair> crossing = Intersections.of(mesh, tree, Patches.of(mesh, edges));
        int between = (int) crossing.stream().filter(p -> edges.body(p.first()) != edges.body(p.second())).count();
        List<Holes.Hole> loops = Holes.of(mesh, edges);
        return new Soundness(edges.openEdges(), edges.crowdedEdges(), degenerate.join().size(),
                edges.duplicateTriangles(), edges.inconsistentEdges(), crossing.size(), between, holes(loops),
                Bodies.of(mesh, edges, tree, crossing).stream()
                        .sorted((a, b) -> Double.compare(Math.abs(b.signedVolumeMm3()), Math.abs(a.signedVolumeMm3())))
                        .toList(), places(mesh, edges, crossing, loops, degenerate.join()));
    }

    /** Whether every edge belongs to exactly two triangles. */
    public boolean watertight() {
        return openEdges == 0 && nonManifoldEdges == 0;
    }

    public long count(Kind kind) {
        return bodies.stream().filter(body -> body.kind() == kind).count();
    }

    /** Solids wholly inside another. */
    public long swallowed() {
        return count(Kind.SWALLOWED);
    }

    public List<Body> floating() {
        return bodies.stream().filter(Body::floating).toList();
    }

    private static List<Hole> holes(List<Holes.Hole> loops) {
        return loops.stream().map(loop -> new Hole(loop.vertices().length - (loop.closed() ? 0 : 1), loop.lengthMm()))
                .sorted((a, b) -> Double.compare(b.lengthMm(), a.lengthMm())).toList();
    }

    private static Places places(Mesh mesh, HalfEdges edges, List<Intersections.Pair> crossing,
                                 List<Holes.Hole> loops, List<Integer> degenerate) {
        List<Place> nonManifold = new ArrayList<>(), inconsistent = new ArrayList<>();
        if (edges.crowdedEdges() > 0 || edges.inconsistentEdges() > 0) {
            for (int h = 0; h < 3 * mesh.triangleCount(); h++) {
                int twin = edges.twin(h);
                if (twin == HalfEdges.CROWDED) {
                    add(nonManifold, middle(mesh, "more than two surfaces", edges.from(h), edges.to(h)));
                } else if (twin > h && !edges.agrees(h)) {
                    add(inconsistent, middle(mesh, "turned over", edges.from(h), edges.to(h)));
                }
            }
        }
        return new Places(
                loops.stream().sorted((a, b) -> Double.compare(b.lengthMm(), a.lengthMm())).limit(MOST_PLACES)
                        .map(loop -> middle(mesh, String.format(Locale.ROOT, "hole, %.1f mm around", loop.lengthMm()),
                                loop.vertices())).toList(),
                List.copyOf(nonManifold), List.copyOf(inconsistent),
                crossing.stream().limit(MOST_PLACES).map(pair -> middle(mesh, "surfaces cross",
                        mesh.corner(pair.first(), 0), mesh.corner(pair.first(), 1), mesh.corner(pair.first(), 2)))
                        .toList(),
                degenerate.stream().limit(MOST_PLACES).map(t -> middle(mesh, "no area", mesh.corner(t, 0),
                        mesh.corner(t, 1), mesh.corner(t, 2))).toList());
    }

    private static void add(List<Place> places, Place place) {
        if (places.size() < MOST_PLACES && !places.contains(place)) {
            places.add(place);
        }
    }

    private static Place middle(Mesh mesh, String label, int... vertices) {
        double x = 0, y = 0, z = 0;
        for (int v : vertices) {
            x += mesh.x(v) / vertices.length;
            y += mesh.y(v) / vertices.length;
            z += mesh.z(v) / vertices.length;
        }
        return new Place(x, y, z, label);
    }

    private static List<Integer> degenerate(Mesh mesh) {
        List<Integer> degenerate = new ArrayList<>();
        for (int t = 0; t < mesh.triangleCount(); t++) {
            if (isDegenerate(mesh, t)) {
                degenerate.add(t);
            }
        }
        return degenerate;
    }

    /** Whether a triangle names a vertex twice or has all corners in one line. */
    static boolean isDegenerate(Mesh mesh, int t) {
        int a = mesh.corner(t, 0), b = mesh.corner(t, 1), c = mesh.corner(t, 2);
        if (a == b || b == c || c == a) {
            return true;
        }
        double ux = mesh.x(b) - mesh.x(a), uy = mesh.y(b) - mesh.y(a), uz = mesh.z(b) - mesh.z(a);
        double vx = mesh.x(c) - mesh.x(a), vy = mesh.y(c) - mesh.y(a), vz = mesh.z(c) - mesh.z(a);
        double wx = vx - ux, wy = vy - uy, wz = vz - uz;
        double nx = uy * vz - uz * vy, ny = uz * vx - ux * vz, nz = ux * vy - uy * vx;
        double longest = Math.max(ux * ux + uy * uy + uz * uz,
                Math.max(vx * vx + vy * vy + vz * vz, wx * wx + wy * wy + wz * wz));
        return nx * nx + ny * ny + nz * nz <= FLAT * FLAT * longest * longest;
    }
}
