package fabbrica.core.mesh.repair;

import fabbrica.core.mesh.model.HalfEdges;
import fabbrica.core.mesh.model.Holes;
import fabbrica.core.mesh.model.Holes.Hole;
import fabbrica.core.mesh.model.LeastAreaTriangulation;
import fabbrica.core.mesh.model.Mesh;
import fabbrica.core.mesh.model.Triangles;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.HashSet;
import java.util.List;
import java.util.Optional;
import java.util.Set;
import java.util.stream.IntStream;
import java.util.stream.LongStream;

/**
 * Fills the holes of a mesh with triangles between the corners they have. Flat holes, with other flat holes inside them,
 * are triangulated in their plane ({@link FlatPatch}); curved ones of up to {@value #MOST_CURVED_EDGES} edges by the
 * triangulation of least area ({@link LeastAreaTriangulation}). A hole is left open, and said so, when its border is not one
 * closed loop, touches itself, is too long, when a patch would lay a third surface on an edge, or when the surface with
 * its patch would have no thickness.
 *
 * @param filled  holes that were closed
 * @param areaMm2 of the patches
 * @param left    why holes were left open, a sentence each
 */
record HoleFilling(Mesh mesh, int filled, int addedTriangles, double areaMm2, List<String> left) {

    static final int MOST_CURVED_EDGES = 180;
    private static final int MOST_FLAT_EDGES = 20_000;

    static HoleFilling of(Mesh mesh) {
        HalfEdges edges = new HalfEdges(mesh);
        List<Hole> holes = Holes.of(mesh, edges);
        Sheets sheets = holes.isEmpty() ? null : new Sheets(mesh, edges);
        Set<Long> known = inner(mesh, holes);
        List<Integer> added = new ArrayList<>();
        List<String> left = new ArrayList<>();
        int filled = 0;
        boolean[] done = new boolean[holes.size()];
        for (int i = 0; i < done.length; i++) {
            Hole hole = holes.get(i);
            if (done[i]) {
                continue;
            }
            List<Integer> within = within(mesh, holes, i);
            Optional<int[]> patch = obstacle(hole).isPresent() ? Optional.empty()
                    : patch(mesh, hole, within.stream().filter(j -> obstacle(holes.get(j)).isEmpty()).map(holes::get)
                            .toList()).filter(triangles -> edges(triangles).noneMatch(known::contains));
            if (patch.isPresent() && sheets != null && sheets.staysFlat(hole, patch.get())) {
                left.add("A surface of %d border edges has no thickness; closing it would not make it a solid."
                        .formatted(hole.vertices().length));
                done[i] = true;
                continue;
            }
            if (patch.isPresent()) {
                Arrays.stream(patch.get()).forEach(added::add);
                done[i] = true;
                within.forEach(j -> done[j] = true);
                filled += 1 + within.size();
            }
        }
        for (int i = 0; i < done.length; i++) {
            if (!done[i]) {
                left.add("A hole of %d edges stays open: %s.".formatted(holes.get(i).vertices().length,
                        obstacle(holes.get(i)).orElse("a patch would cross the surface around it")));
            }
        }
        int[] corners = added.stream().mapToInt(Integer::intValue).toArray();
        return new HoleFilling(corners.length == 0 ? mesh : Triangles.of(mesh).with(corners).mesh(), filled,
                corners.length / 3, new Triangles(mesh, corners).areaMm2(), List.copyOf(left));
    }

    private static Optional<int[]> patch(Mesh mesh, Hole hole, List<Hole> within) {
        return FlatPatch.of(mesh, hole, within).or(() -> hole.vertices().length <= MOST_CURVED_EDGES
                ? Optional.of(curved(mesh, hole.vertices())) : Optional.empty());
    }

    private static Optional<String> obstacle(Hole hole) {
        int edges = hole.vertices().length;
        if (!hole.closed() || edges < 3) {
            return Optional.of("its border is no closed loop");
        }
        if (Arrays.stream(hole.vertices()).distinct().count() < edges) {
            return Optional.of("its border touches itself");
        }
        return edges > MOST_FLAT_EDGES ? Optional.of("it is too long to be filled safely") : Optional.empty();
    }

    /** Flat holes in the plane of hole {@code i}, wound the other way and inside it: what they enclose is solid. */
    private static List<Integer> within(Mesh mesh, List<Hole> holes, int i) {
        return holes.size() > 500 ? List.of() : IntStream.range(0, holes.size())
                .filter(j -> j != i && FlatPatch.encloses(mesh, holes.get(i), holes.get(j))).boxed().toList();
    }

    private static int[] curved(Mesh mesh, int[] border) {
        double[] xyz = new double[3 * border.length];
        for (int i = 0; i < border.length; i++) {
            xyz[3 * i] = mesh.x(border[i]);
            xyz[3 * i + 1] = mesh.y(border[i]);
            xyz[3 * i + 2] = mesh.z(border[i]);
        }
        return Arrays.stream(LeastAreaTriangulation.of(xyz)).map(i -> border[i]).toArray();
    }

    /** All edges between corners of holes that are no border: a patch with one of them would be a third surface there. */
    private static Set<Long> inner(Mesh mesh, List<Hole> holes) {
        if (holes.isEmpty()) {
            return Set.of();
        }
        boolean[] border = new boolean[mesh.vertexCount()];
        holes.forEach(hole -> Arrays.stream(hole.vertices()).forEach(v -> border[v] = true));
        Set<Long> edges = new HashSet<>();
        for (int t = 0; t < mesh.triangleCount(); t++) {
            for (int corner = 0; corner < 3; corner++) {
                int a = mesh.corner(t, corner), b = mesh.corner(t, (corner + 1) % 3);
                if (border[a] && border[b]) {
                    edges.add(edge(a, b));
                }
            }
        }
        for (Hole hole : holes) {
            int[] v = hole.vertices();
            for (int i = 0; i < v.length; i++) {
                edges.remove(edge(v[i], v[(i + 1) % v.length]));
            }
        }
        return edges;
    }

    /** Volume and area of each body, to tell a hole from the rim of a surface without thickness. */
    private static final class Sheets {

        private static final double THINNEST_MM = 1e-3;

        private final Mesh mesh;
        private final int[] bodies;
        private final double[] volumes;
        private final double[] areas;

        Sheets(Mesh mesh, HalfEdges edges) {
            this.mesh = mesh;
            bodies = new int[mesh.vertexCount()];
            volumes = new double[edges.bodies()];
            areas = new double[edges.bodies()];
            for (int t = 0; t < mesh.triangleCount(); t++) {
                if (edges.body(t) >= 0) {
                    int a = mesh.corner(t, 0), b = mesh.corner(t, 1), c = mesh.corner(t, 2);
                    bodies[a] = edges.body(t);
                    bodies[b] = edges.body(t);
                    bodies[c] = edges.body(t);
                    add(edges.body(t), a, b, c, volumes, areas);
                }
            }
        }

        /** Whether the body of the hole, closed with the patch, would be thinner on average than a thousandth of a mm. */
        boolean staysFlat(Hole hole, int[] patch) {
            double[] volume = {volumes[bodies[hole.vertices()[0]]]}, area = {areas[bodies[hole.vertices()[0]]]};
            for (int i = 0; i < patch.length; i += 3) {
                add(0, patch[i], patch[i + 1], patch[i + 2], volume, area);
            }
            return 2 * Math.abs(volume[0]) < THINNEST_MM * area[0];
        }

        private void add(int body, int a, int b, int c, double[] volume, double[] area) {
            double ox = mesh.x(0), oy = mesh.y(0), oz = mesh.z(0);
            double ux = mesh.x(b) - mesh.x(a), uy = mesh.y(b) - mesh.y(a), uz = mesh.z(b) - mesh.z(a);
            double vx = mesh.x(c) - mesh.x(a), vy = mesh.y(c) - mesh.y(a), vz = mesh.z(c) - mesh.z(a);
            double nx = uy * vz - uz * vy, ny = uz * vx - ux * vz, nz = ux * vy - uy * vx;
            volume[body] += ((mesh.x(a) - ox) * nx + (mesh.y(a) - oy) * ny + (mesh.z(a) - oz) * nz) / 6;
            area[body] += Math.sqrt(nx * nx + ny * ny + nz * nz) / 2;
        }
    }

    private static LongStream edges(int[] triangles) {
        return IntStream.range(0, triangles.length)
                .mapToLong(i -> edge(triangles[i], triangles[i % 3 == 2 ? i - 2 : i + 1]));
    }

    private static long edge(int a, int b) {
        return (long) Math.min(a, b) << 32 | Math.max(a, b);
    }
}
