package fabbrica.core.inspect;

import fabbrica.core.mesh.model.HalfEdges;
import fabbrica.core.mesh.model.Mesh;
import fabbrica.core.mesh.model.Side;
import fabbrica.core.mesh.model.TriangleTree;
import java.util.List;

/**
 * Pairs of triangles that pass through one another. A pair counts when an edge of one has its ends strictly on either
 * side of the other's plane and meets that triangle, borders included; surfaces that only touch do not. Sides are told
 * by exact predicates ({@link Side}), so shared corners and coplanar neighbours never count by rounding.
 *
 * <p>Method: Möller, "A fast triangle–triangle intersection test" (1997) for what is ruled out early; pairs come from
 * the {@link TriangleTree}.
 */
final class Intersections {

    /** Crossings shallower than this share of the part's size are rounding in the file, not in the part. */
    private static final double ROUNDING = 1e-6;

    private final Mesh mesh;
    private final double shallow;

    private Intersections(Mesh mesh) {
        this.mesh = mesh;
        this.shallow = ROUNDING * mesh.bounds().largestSide();
    }

    /** Two triangles that cross. */
    record Pair(int first, int second) {
    }

    static List<Pair> of(Mesh mesh, TriangleTree tree) {
        return tree.pairs(new Intersections(mesh)::test);
    }

    private void test(int t, int u, List<Pair> found) {
        if (shareAnEdge(t, u) || HalfEdges.isCollapsed(mesh, t) || HalfEdges.isCollapsed(mesh, u)) {
            return;
        }
        if (reaches(t, u) && reaches(u, t) && (crosses(t, u) || crosses(u, t))) {
            found.add(new Pair(Math.min(t, u), Math.max(t, u)));
        }
    }

    private boolean shareAnEdge(int t, int u) {
        int shared = 0;
        for (int i = 0; i < 3; i++) {
            int corner = mesh.corner(t, i);
            shared += corner == mesh.corner(u, 0) || corner == mesh.corner(u, 1) || corner == mesh.corner(u, 2) ? 1 : 0;
        }
        return shared >= 2;
    }

    /** Whether {@code t} has corners deeper than rounding on both sides of the plane of {@code u}. */
    private boolean reaches(int t, int u) {
        int a = mesh.corner(u, 0), b = mesh.corner(u, 1), c = mesh.corner(u, 2);
        double ux = mesh.x(b) - mesh.x(a), uy = mesh.y(b) - mesh.y(a), uz = mesh.z(b) - mesh.z(a);
        double vx = mesh.x(c) - mesh.x(a), vy = mesh.y(c) - mesh.y(a), vz = mesh.z(c) - mesh.z(a);
        double nx = uy * vz - uz * vy, ny = uz * vx - ux * vz, nz = ux * vy - uy * vx;
        double depth = shallow * Math.sqrt(nx * nx + ny * ny + nz * nz);
        boolean above = false, below = false;
        for (int i = 0; i < 3; i++) {
            int v = mesh.corner(t, i);
            double height = (mesh.x(v) - mesh.x(a)) * nx + (mesh.y(v) - mesh.y(a)) * ny + (mesh.z(v) - mesh.z(a)) * nz;
            above |= height > depth;
            below |= height < -depth;
        }
        return above && below;
    }

    /** Whether an edge of {@code t} passes through {@code u}. */
    private boolean crosses(int t, int u) {
        int a = mesh.corner(u, 0), b = mesh.corner(u, 1), c = mesh.corner(u, 2);
        for (int i = 0; i < 3; i++) {
            int p = mesh.corner(t, i), q = mesh.corner(t, (i + 1) % 3);
            if (Side.of(mesh, a, b, c, p) * Side.of(mesh, a, b, c, q) < 0) {
                int ab = Side.of(mesh, p, q, a, b), bc = Side.of(mesh, p, q, b, c), ca = Side.of(mesh, p, q, c, a);
                if (ab >= 0 && bc >= 0 && ca >= 0 || ab <= 0 && bc <= 0 && ca <= 0) {
                    return true;
                }
            }
        }
        return false;
    }
}
