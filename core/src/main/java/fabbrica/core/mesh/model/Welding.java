package fabbrica.core.mesh.model;

import java.util.Arrays;

/**
 * Joins corners on open edges that lie nearly at one place, so that cracks left by rounding close. Only borders are
 * touched: fine detail elsewhere keeps its shape however small it is. Expected cost is linear, by a hash grid.
 *
 * @param joined   vertices that were joined to another
 * @param movedMm  the farthest any of them moved, in the unit of the mesh
 */
public record Welding(Mesh mesh, int joined, double movedMm) {

    /** 3 µm on a part of 150 mm: far below any layer or line, and above what exports round away. */
    private static final double ROUNDING_PER_DIAGONAL = 2e-5;

    /** Triangles of which two corners become one stay, without area. */
    public static Welding of(Mesh mesh, double tolerance) {
        HalfEdges edges = new HalfEdges(mesh);
        return edges.openEdges() == 0 ? new Welding(mesh, 0, 0) : new Grid(mesh, tolerance).welded(edges);
    }

    /**
     * A mesh whose corners disagree only by rounding made one: within {@value #ROUNDING_PER_DIAGONAL} of its diagonal, or of
     * its distance from the origin if that is more, since coordinates are rounded by their size. A closed body has half as
     * many vertices as triangles and two more (Euler's formula); only meshes with more are looked at.
     */
    public static Mesh ofRounding(Mesh mesh) {
        if (mesh.triangleCount() == 0 || mesh.vertexCount() <= mesh.triangleCount() / 2 + 2) {
            return mesh;
        }
        Bounds b = mesh.bounds();
        double diagonal = Math.sqrt(b.sizeX() * b.sizeX() + b.sizeY() * b.sizeY() + b.sizeZ() * b.sizeZ());
        double farthest = Math.max(Math.max(Math.abs(b.minX()), Math.abs(b.maxX())), Math.max(
                Math.max(Math.abs(b.minY()), Math.abs(b.maxY())), Math.max(Math.abs(b.minZ()), Math.abs(b.maxZ()))));
        Welding welding = of(mesh, ROUNDING_PER_DIAGONAL * Math.max(diagonal, farthest));
        return welding.joined() == 0 ? mesh
                : Triangles.of(welding.mesh()).kept((a, second, third) -> a != second && second != third && third != a).mesh();
    }

    /** Vertices that were kept so far, sorted into cells of the tolerance. */
    private static final class Grid {

        private static final int NONE = -1;

        private final Mesh mesh;
        private final double tolerance;
        private final int[] heads;
        private final int[] next;
        private double distance;

        Grid(Mesh mesh, double tolerance) {
            this.mesh = mesh;
            this.tolerance = tolerance;
            heads = new int[Integer.highestOneBit(Math.max(16, mesh.vertexCount())) * 2];
            next = new int[mesh.vertexCount()];
            Arrays.fill(heads, NONE);
        }

        Welding welded(HalfEdges edges) {
            boolean[] border = new boolean[mesh.vertexCount()];
            for (int h = 0; h < 3 * mesh.triangleCount(); h++) {
                if (edges.twin(h) == HalfEdges.OPEN) {
                    border[edges.from(h)] = true;
                    border[edges.to(h)] = true;
                }
            }
            int[] names = new int[mesh.vertexCount()];
            int joined = 0;
            double moved = 0;
            for (int v = 0; v < names.length; v++) {
                int near = border[v] ? nearest(v) : NONE;
                names[v] = near == NONE ? v : near;
                if (near != NONE) {
                    joined++;
                    moved = Math.max(moved, distance);
                } else if (border[v]) {
                    int slot = slot(cell(mesh.x(v)), cell(mesh.y(v)), cell(mesh.z(v)));
                    next[v] = heads[slot];
                    heads[slot] = v;
                }
            }
            return joined == 0 ? new Welding(mesh, 0, 0)
                    : new Welding(Triangles.of(mesh).renamed(names).mesh(), joined, moved);
        }

        /** The nearest vertex kept so far within the tolerance; sets how far away it is. */
        private int nearest(int v) {
            long x = cell(mesh.x(v)), y = cell(mesh.y(v)), z = cell(mesh.z(v));
            int nearest = NONE;
            distance = tolerance;
            for (int i = 0; i < 27; i++) {
                for (int other = heads[slot(x + i % 3 - 1, y + i / 3 % 3 - 1, z + i / 9 - 1)]; other != NONE; other = next[other]) {
                    double dx = mesh.x(v) - mesh.x(other), dy = mesh.y(v) - mesh.y(other), dz = mesh.z(v) - mesh.z(other);
                    double away = Math.sqrt(dx * dx + dy * dy + dz * dz);
                    if (away <= distance) {
                        distance = away;
                        nearest = other;
                    }
                }
            }
            return nearest;
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
}
