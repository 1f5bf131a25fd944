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
    private static final int DIGIT_BITS = 10;

    private HilbertOrder() {
    }

    /** The same mesh with its triangles along the curve, and its vertices as the triangles first name them. */
    public static Mesh sorted(Mesh mesh) {
        int[] order = of(mesh), corners = new int[3 * order.length];
        inChunks(order.length, (from, to) -> {
            for (int i = from; i < to; i++) {
                for (int corner = 0; corner < 3; corner++) {
                    corners[3 * i + corner] = mesh.corner(order[i], corner);
                }
            }
        });
        int[] named = named(corners, mesh.vertexCount());
        double[] xyz = new double[3 * named.length];
        inChunks(named.length, (from, to) -> {
            for (int v = from; v < to; v++) {
                xyz[3 * v] = mesh.x(named[v]);
                xyz[3 * v + 1] = mesh.y(named[v]);
                xyz[3 * v + 2] = mesh.z(named[v]);
            }
        });
        return new Mesh(xyz, corners);
    }

    /** Gives corners new names in the order in which they come; what each was called before. */
    private static int[] named(int[] corners, int vertices) {
        int[] names = new int[vertices], before = new int[vertices];
        Arrays.fill(names, -1);
        int used = 0;
        for (int i = 0; i < corners.length; i++) {
            int v = corners[i];
            if (names[v] < 0) {
                before[used] = v;
                names[v] = used++;
            }
            corners[i] = names[v];
        }
        return used == vertices ? before : Arrays.copyOf(before, used);
    }

    private interface Range {
        void run(int from, int to);
    }

    private static void inChunks(int length, Range range) {
        IntStream.rangeClosed(0, length / CHUNK).parallel().forEach(chunk -> range.run(chunk * CHUNK, Math.min(length, (chunk + 1) * CHUNK)));
    }

    /** Triangles in the order in which the curve visits their centres. */
    static int[] of(Mesh mesh) {
        Bounds bounds = mesh.bounds();
        double scale = ((1 << CODE_BITS) - 1) / Math.max(bounds.largestSide(), Double.MIN_NORMAL);
        long[] keys = new long[mesh.triangleCount()];
        inChunks(keys.length, (from, to) -> {
            for (int t = from; t < to; t++) {
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

    /**
     * The place of a cell along the curve (Skilling, "Programming the Hilbert curve", 2004), for three axes. Without branches:
     * nobody can foresee which way bits of coordinates would turn them.
     */
    private static int hilbert(int px, int py, int pz) {
        int x = px, y = py, z = pz;
        for (int bit = CODE_BITS - 1; bit > 0; bit--) {
            int low = (1 << bit) - 1, inY = set(y, bit), inZ = set(z, bit);
            x ^= low & set(x, bit);
            int swap = (x ^ y) & low & ~inY;
            x ^= low & inY | swap;
            y ^= swap;
            swap = (x ^ z) & low & ~inZ;
            x ^= low & inZ | swap;
            z ^= swap;
        }
        y ^= x;
        z ^= y;
        int flip = 0;
        for (int bit = CODE_BITS - 1; bit > 0; bit--) {
            flip ^= (1 << bit) - 1 & set(z, bit);
        }
        return spread(x ^ flip) << 2 | spread(y ^ flip) << 1 | spread(z ^ flip);
    }

    /** All ones when a bit is set, else none. */
    private static int set(int value, int bit) {
        return -(value >> bit & 1);
    }

    /** Moves the ten lowest bits three places apart. */
    private static int spread(int bits) {
        int b = bits & 0x3FF;
        b = (b | b << 16) & 0x030000FF;
        b = (b | b << 8) & 0x0300F00F;
        b = (b | b << 4) & 0x030C30C3;
        return (b | b << 2) & 0x09249249;
    }

    /** Radix sort by the upper 30 bits, ten at a time, each processor with a share of the keys. */
    private static long[] sorted(long[] keys) {
        int shares = keys.length < CHUNK ? 1 : Runtime.getRuntime().availableProcessors();
        long[] from = keys, to = new long[keys.length];
        for (int shift = 32; shift < 62; shift += DIGIT_BITS) {
            scatter(from, to, shift, shares);
            long[] swap = from;
            from = to;
            to = swap;
        }
        return from;
    }

    /** One pass: keys with equal digits stay in their order. */
    private static void scatter(long[] from, long[] to, int shift, int shares) {
        int[][] ends = new int[shares][1 << DIGIT_BITS];
        IntStream.range(0, shares).parallel().forEach(share -> {
            int[] counts = ends[share];
            for (int i = start(from, share, shares); i < start(from, share + 1, shares); i++) {
                counts[digit(from[i], shift)]++;
            }
        });
        for (int digit = 0, sum = 0; digit < 1 << DIGIT_BITS; digit++) {
            for (int[] counts : ends) {
                int count = counts[digit];
                counts[digit] = sum;
                sum += count;
            }
        }
        IntStream.range(0, shares).parallel().forEach(share -> {
            int[] next = ends[share];
            for (int i = start(from, share, shares); i < start(from, share + 1, shares); i++) {
                to[next[digit(from[i], shift)]++] = from[i];
            }
        });
    }

    private static int start(long[] keys, int share, int shares) {
        return (int) ((long) keys.length * share / shares);
    }

    private static int digit(long key, int shift) {
        return (int) (key >>> shift) & (1 << DIGIT_BITS) - 1;
    }
}
