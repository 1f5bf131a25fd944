package fabbrica.core.mesh.model;

import java.util.Arrays;
import java.util.stream.IntStream;

/**
 * Sorts the triangles of a mesh along a Hilbert curve, so that what is near in space is near in memory. Linear: keys on
 * all processors, then a radix sort.
 */
public final class HilbertOrder {

    private static final int CODE_BITS = 10;
    private static final int CHUNK = 1 << 16;

    private HilbertOrder() {
    }

    /** The same mesh with its triangles along the curve, and its vertices as the triangles first name them. */
    public static Mesh sorted(Mesh mesh) {
        int[] order = of(mesh);
        int[] names = new int[mesh.vertexCount()];
        Arrays.fill(names, -1);
        int[] corners = new int[3 * order.length];
        double[] xyz = new double[3 * mesh.vertexCount()];
        int used = 0;
        for (int i = 0; i < corners.length; i++) {
            int v = mesh.corner(order[i / 3], i % 3);
            if (names[v] < 0) {
                xyz[3 * used] = mesh.x(v);
                xyz[3 * used + 1] = mesh.y(v);
                xyz[3 * used + 2] = mesh.z(v);
                names[v] = used++;
            }
            corners[i] = names[v];
        }
        return new Mesh(used == mesh.vertexCount() ? xyz : Arrays.copyOf(xyz, 3 * used), corners);
    }

    /** Triangles in the order in which the curve visits their centres. */
    static int[] of(Mesh mesh) {
        Bounds bounds = mesh.bounds();
        double scale = ((1 << CODE_BITS) - 1) / Math.max(bounds.largestSide(), Double.MIN_NORMAL);
        long[] keys = new long[mesh.triangleCount()];
        IntStream.rangeClosed(0, keys.length / CHUNK).parallel().forEach(chunk -> {
            for (int t = chunk * CHUNK; t < Math.min(keys.length, (chunk + 1) * CHUNK); t++) {
                int a = mesh.corner(t, 0), b = mesh.corner(t, 1), c = mesh.corner(t, 2);
                int x = (int) (((mesh.x(a) + mesh.x(b) + mesh.x(c)) / 3 - bounds.minX()) * scale);
                int y = (int) (((mesh.y(a) + mesh.y(b) + mesh.y(c)) / 3 - bounds.minY()) * scale);
                int z = (int) (((mesh.z(a) + mesh.z(b) + mesh.z(c)) / 3 - bounds.minZ()) * scale);
                keys[t] = (long) hilbert(x, y, z) << 32 | t;
            }
        });
        long[] sorted = sorted(keys);
        int[] order = new int[keys.length];
        for (int i = 0; i < keys.length; i++) {
            order[i] = (int) sorted[i];
        }
        return order;
    }

    /** The place of a cell along the curve (Skilling, "Programming the Hilbert curve", 2004), for three axes. */
    private static int hilbert(int px, int py, int pz) {
        int x = px, y = py, z = pz;
        for (int q = 1 << CODE_BITS - 1; q > 1; q >>= 1) {
            int low = q - 1;
            if ((x & q) != 0) {
                x ^= low;
            }
            if ((y & q) != 0) {
                x ^= low;
            } else {
                int swap = (x ^ y) & low;
                x ^= swap;
                y ^= swap;
            }
            if ((z & q) != 0) {
                x ^= low;
            } else {
                int swap = (x ^ z) & low;
                x ^= swap;
                z ^= swap;
            }
        }
        y ^= x;
        z ^= y;
        int flip = 0;
        for (int q = 1 << CODE_BITS - 1; q > 1; q >>= 1) {
            flip ^= (z & q) != 0 ? q - 1 : 0;
        }
        return spread(x ^ flip) << 2 | spread(y ^ flip) << 1 | spread(z ^ flip);
    }

    /** Moves the ten lowest bits three places apart. */
    private static int spread(int bits) {
        int b = bits & 0x3FF;
        b = (b | b << 16) & 0x030000FF;
        b = (b | b << 8) & 0x0300F00F;
        b = (b | b << 4) & 0x030C30C3;
        return (b | b << 2) & 0x09249249;
    }

    /** Radix sort by the upper 30 bits, ten at a time. */
    private static long[] sorted(long[] keys) {
        long[] from = keys, to = new long[keys.length];
        for (int shift = 32; shift < 62; shift += 10) {
            int[] ends = new int[1 << 10];
            for (long key : from) {
                ends[(int) (key >>> shift) & 0x3FF]++;
            }
            for (int i = 0, sum = 0; i < ends.length; i++) {
                int count = ends[i];
                ends[i] = sum;
                sum += count;
            }
            for (long key : from) {
                to[ends[(int) (key >>> shift) & 0x3FF]++] = key;
            }
            long[] swap = from;
            from = to;
            to = swap;
        }
        return from;
    }
}
