package fabbrica.core.mesh.model;

import java.util.Arrays;

/**
 * Closes cracks that rounding left: corners on open edges that lie nearly at one place become one. Nearly is within
 * {@value #PER_DIAGONAL} of the part's diagonal, or of its distance from the origin if that is more, since coordinates are
 * rounded by their size: 3 µm on a part of 150 mm, far below any layer or line. Other corners stay where they are, so that
 * fine detail keeps its shape. A closed body has half as many vertices as triangles and two more (Euler's formula); only
 * meshes with more are looked at. Expected cost is linear, by a hash grid.
 */
public final class Rounding {

    private static final double PER_DIAGONAL = 2e-5;
    private static final int NONE = -1;

    private final Mesh mesh;
    private final double tolerance;
    private final int[] heads;
    private final int[] next;

    private Rounding(Mesh mesh, double tolerance) {
        this.mesh = mesh;
        this.tolerance = tolerance;
        heads = new int[Integer.highestOneBit(Math.max(16, mesh.vertexCount())) * 2];
        next = new int[mesh.vertexCount()];
        Arrays.fill(heads, NONE);
    }

    public static Mesh closed(Mesh mesh) {
        if (mesh.triangleCount() == 0 || mesh.vertexCount() <= mesh.triangleCount() / 2 + 2) {
            return mesh;
        }
        HalfEdges edges = new HalfEdges(mesh);
        if (edges.openEdges() == 0) {
            return mesh;
        }
        Bounds b = mesh.bounds();
        double diagonal = Math.sqrt(b.sizeX() * b.sizeX() + b.sizeY() * b.sizeY() + b.sizeZ() * b.sizeZ());
        double farthest = Math.max(Math.max(Math.abs(b.minX()), Math.abs(b.maxX())), Math.max(
                Math.max(Math.abs(b.minY()), Math.abs(b.maxY())), Math.max(Math.abs(b.minZ()), Math.abs(b.maxZ()))));
        return new Rounding(mesh, PER_DIAGONAL * Math.max(diagonal, farthest)).joined(edges);
    }

    private Mesh joined(HalfEdges edges) {
        boolean[] border = new boolean[mesh.vertexCount()];
        for (int h = 0; h < 3 * mesh.triangleCount(); h++) {
            if (edges.twin(h) == HalfEdges.OPEN) {
                border[edges.from(h)] = true;
                border[edges.to(h)] = true;
            }
        }
        int[] names = new int[mesh.vertexCount()];
        boolean any = false;
        for (int v = 0; v < names.length; v++) {
            int near = border[v] ? near(v) : NONE;
            names[v] = near == NONE ? v : near;
            any |= near != NONE;
        }
        return any ? Triangles.of(mesh).renamed(names).kept(Rounding::hasThreeCorners).mesh() : mesh;
    }

    private static boolean hasThreeCorners(int a, int b, int c) {
        return a != b && b != c && c != a;
    }

    /** An earlier vertex within the tolerance; else this one is entered for later ones. */
    private int near(int v) {
        long x = cell(mesh.x(v)), y = cell(mesh.y(v)), z = cell(mesh.z(v));
        for (int i = 0; i < 27; i++) {
            for (int other = heads[slot(x + i % 3 - 1, y + i / 3 % 3 - 1, z + i / 9 - 1)]; other != NONE; other = next[other]) {
                double dx = mesh.x(v) - mesh.x(other), dy = mesh.y(v) - mesh.y(other), dz = mesh.z(v) - mesh.z(other);
                if (dx * dx + dy * dy + dz * dz <= tolerance * tolerance) {
                    return other;
                }
            }
        }
        int slot = slot(x, y, z);
        next[v] = heads[slot];
        heads[slot] = v;
        return NONE;
    }

    private long cell(double at) {
        return (long) Math.floor(at / tolerance);
    }

    private int slot(long x, long y, long z) {
        long bits = (x * 0x9E3779B97F4A7C15L ^ y) * 0xC2B2AE3D27D4EB4FL;
        bits = (Long.rotateLeft(bits, 29) ^ z) * 0x165667B19E3779F9L;
        return (int) (bits ^ bits >>> 32) & heads.length - 1;
    }
}
