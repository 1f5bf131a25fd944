package fabbrica.core.inspect;

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
 * the {@link TriangleTree}, but for those within one of the {@link Patches}.
 */
final class Intersections {

    /** Crossings shallower than this share of the part's size are rounding in the file, not in the part. */
    private static final double ROUNDING = 1e-6;
    private static final int ONE_SIDE = -1;

    private final Mesh mesh;
    private final double shallow;

    private Intersections(Mesh mesh) {
        this.mesh = mesh;
        this.shallow = ROUNDING * mesh.bounds().largestSide();
    }

    /** Two triangles that cross. */
    record Pair(int first, int second) {
    }

    /** @param patches within which no pair need be looked at, as {@link Patches} numbers them */
    static List<Pair> of(Mesh mesh, TriangleTree tree, int[] patches) {
        return tree.pairs(patches, new Intersections(mesh)::test);
    }

    private void test(int t, int u, List<Pair> found) {
        int a = mesh.corner(t, 0), b = mesh.corner(t, 1), c = mesh.corner(t, 2);
        int d = mesh.corner(u, 0), e = mesh.corner(u, 1), f = mesh.corner(u, 2);
        int shared = shared(a, d, e, f) + shared(b, d, e, f) + shared(c, d, e, f);
        if (shared >= 2 || a == b || b == c || c == a || d == e || e == f || f == d) {
            return;
        }
        int ofT = sides(d, e, f, a, b, c);
        if (ofT == ONE_SIDE) {
            return;
        }
        int ofU = sides(a, b, c, d, e, f);
        if (ofU != ONE_SIDE && (crosses(a, b, c, ofT, d, e, f) || crosses(d, e, f, ofU, a, b, c))) {
            found.add(new Pair(Math.min(t, u), Math.max(t, u)));
        }
    }

    private static int shared(int corner, int d, int e, int f) {
        return corner == d || corner == e || corner == f ? 1 : 0;
    }

    /**
     * On which side of the plane of (a, b, c) each of p, q and r lies, two bits each: 1 on it, 2 above, 0 below; or
     * {@link #ONE_SIDE} when they are not deeper than rounding on both sides.
     */
    private int sides(int a, int b, int c, int p, int q, int r) {
        double ax = mesh.x(a), ay = mesh.y(a), az = mesh.z(a);
        double ux = mesh.x(b) - ax, uy = mesh.y(b) - ay, uz = mesh.z(b) - az;
        double vx = mesh.x(c) - ax, vy = mesh.y(c) - ay, vz = mesh.z(c) - az;
        double nx = uy * vz - uz * vy, ny = uz * vx - ux * vz, nz = ux * vy - uy * vx;
        double hp = (mesh.x(p) - ax) * nx + (mesh.y(p) - ay) * ny + (mesh.z(p) - az) * nz;
        double hq = (mesh.x(q) - ax) * nx + (mesh.y(q) - ay) * ny + (mesh.z(q) - az) * nz;
        double hr = (mesh.x(r) - ax) * nx + (mesh.y(r) - ay) * ny + (mesh.z(r) - az) * nz;
        double highest = Math.max(hp, Math.max(hq, hr)), lowest = Math.min(hp, Math.min(hq, hr));
        if (highest <= 0 || lowest >= 0) {
            return ONE_SIDE;
        }
        double depth = shallow * Math.sqrt(nx * nx + ny * ny + nz * nz);
        if (highest <= depth || lowest >= -depth) {
            return ONE_SIDE;
        }
        return side(hp, depth, a, b, c, p) | side(hq, depth, a, b, c, q) << 2 | side(hr, depth, a, b, c, r) << 4;
    }

    /** Deeper than rounding the height tells; else the exact predicate does. */
    private int side(double height, double depth, int a, int b, int c, int corner) {
        return height > depth ? 2 : height < -depth ? 0 : 1 + Side.of(mesh, a, b, c, corner);
    }

    /** Whether an edge of (p, q, r), its corners on the given sides of the plane of (a, b, c), passes through that. */
    private boolean crosses(int p, int q, int r, int sides, int a, int b, int c) {
        int from = p, to = q, before = r, rest = sides;
        for (int edge = 0; edge < 3; edge++) {
            int ofFrom = rest & 3, ofTo = rest >> 2 & 3;
            if (ofFrom + ofTo == 2 && ofFrom != ofTo && passes(from, to, a, b, c)) {
                return true;
            }
            int swap = from;
            from = to;
            to = before;
            before = swap;
            rest = rest >> 2 | ofFrom << 4;
        }
        return false;
    }

    /** Whether the line through p and q meets the triangle, its border included. */
    private boolean passes(int p, int q, int a, int b, int c) {
        int ab = Side.of(mesh, p, q, a, b), bc = Side.of(mesh, p, q, b, c);
        if (ab * bc < 0) {
            return false;
        }
        int ca = Side.of(mesh, p, q, c, a);
        return ca * ab >= 0 && ca * bc >= 0;
    }
}
