package fabbrica.core.mesh.model;

import java.util.Arrays;

/**
 * Collects triangles and welds corners that lie at exactly the same position, by open-addressing hashing of the
 * coordinates. Negative zero is welded to zero. Expected cost is linear in the number of corners.
 */
public final class MeshBuilder {

    private static final int FREE = -1;

    private double[] xyz;
    private int vertices;
    private int[] corners;
    private int cornerCount;
    private int[] table;
    /** The corners of the triangle before: neighbours in a file mostly share two of them. */
    private int lastA = FREE;
    private int lastB = FREE;
    private int lastC = FREE;

    /** @param expectedTriangles a hint; the builder grows as needed */
    public MeshBuilder(int expectedTriangles) {
        int triangles = Math.max(4, expectedTriangles);
        corners = new int[3 * triangles];
        xyz = new double[3 * (triangles / 2 + 4)];
        table = freeTable(Integer.highestOneBit(Math.max(16, triangles)) * 2);
    }

    public void triangle(int a, int b, int c) {
        if (cornerCount + 3 > corners.length) {
            corners = Arrays.copyOf(corners, grown(corners.length));
        }
        corners[cornerCount++] = a;
        corners[cornerCount++] = b;
        corners[cornerCount++] = c;
        lastA = a;
        lastB = b;
        lastC = c;
    }

    /** The index of the vertex at this position, a new one when none lies there yet. */
    public int vertex(double px, double py, double pz) {
        double x = px + 0.0, y = py + 0.0, z = pz + 0.0;
        if (lastA != FREE) {
            if (isAt(lastC, x, y, z)) {
                return lastC;
            }
            if (isAt(lastA, x, y, z)) {
                return lastA;
            }
            if (isAt(lastB, x, y, z)) {
                return lastB;
            }
        }
        int mask = table.length - 1;
        int slot = hash(x, y, z) & mask;
        while (table[slot] != FREE) {
            if (isAt(table[slot], x, y, z)) {
                return table[slot];
            }
            slot = (slot + 1) & mask;
        }
        return insert(slot, x, y, z);
    }

    private boolean isAt(int vertex, double x, double y, double z) {
        int at = 3 * vertex;
        return xyz[at] == x && xyz[at + 1] == y && xyz[at + 2] == z;
    }

    public int triangleCount() {
        return cornerCount / 3;
    }

    public Mesh build() {
        table = new int[0];
        return new Mesh(Arrays.copyOf(xyz, 3 * vertices),
                corners.length == cornerCount ? corners : Arrays.copyOf(corners, cornerCount));
    }

    private int insert(int slot, double x, double y, double z) {
        if (3 * vertices + 3 > xyz.length) {
            xyz = Arrays.copyOf(xyz, grown(xyz.length));
        }
        int at = 3 * vertices;
        xyz[at] = x;
        xyz[at + 1] = y;
        xyz[at + 2] = z;
        table[slot] = vertices++;
        if (2 * vertices > table.length) {
            rehash();
        }
        return vertices - 1;
    }

    private void rehash() {
        table = freeTable(2 * table.length);
        int mask = table.length - 1;
        for (int vertex = 0; vertex < vertices; vertex++) {
            int slot = hash(xyz[3 * vertex], xyz[3 * vertex + 1], xyz[3 * vertex + 2]) & mask;
            while (table[slot] != FREE) {
                slot = (slot + 1) & mask;
            }
            table[slot] = vertex;
        }
    }

    private static int[] freeTable(int size) {
        int[] table = new int[size];
        Arrays.fill(table, FREE);
        return table;
    }

    private static int grown(int length) {
        return Math.toIntExact(Math.min(Integer.MAX_VALUE - 15L, length + (length >> 1) + 3L) / 3 * 3);
    }

    private static int hash(double x, double y, double z) {
        long bits = Double.doubleToRawLongBits(x) * 0x9E3779B97F4A7C15L;
        bits = (Long.rotateLeft(bits, 25) ^ Double.doubleToRawLongBits(y)) * 0xC2B2AE3D27D4EB4FL;
        bits = (Long.rotateLeft(bits, 29) ^ Double.doubleToRawLongBits(z)) * 0x165667B19E3779F9L;
        return (int) (bits ^ (bits >>> 32));
    }
}
