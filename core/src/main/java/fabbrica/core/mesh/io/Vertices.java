package fabbrica.core.mesh.io;

import fabbrica.core.mesh.model.MeshBuilder;
import java.util.Arrays;

/** The vertex list of a format that names corners by number; grows as vertices come, whatever a header promises. */
public final class Vertices {

    private double[] xyz = new double[3 * 256];
    private int count;

    public void add(double x, double y, double z) {
        if (3 * count == xyz.length) {
            xyz = Arrays.copyOf(xyz, 2 * xyz.length);
        }
        xyz[3 * count] = x;
        xyz[3 * count + 1] = y;
        xyz[3 * count++ + 2] = z;
    }

    public int count() {
        return count;
    }

    /** The position of a vertex as three numbers. */
    public double[] at(int vertex) {
        return Arrays.copyOfRange(xyz, 3 * vertex, 3 * vertex + 3);
    }

    /** Adds a triangle; corners at the same position are welded. */
    public void addTriangle(MeshBuilder builder, int a, int b, int c) {
        builder.triangle(corner(builder, a), corner(builder, b), corner(builder, c));
    }

    private int corner(MeshBuilder builder, int vertex) {
        return builder.vertex(xyz[3 * vertex], xyz[3 * vertex + 1], xyz[3 * vertex + 2]);
    }
}
