package fabbrica.bench;

import fabbrica.core.mesh.io.stl.BinaryStlWriter;
import fabbrica.core.mesh.model.Mesh;
import java.io.BufferedOutputStream;
import java.io.IOException;
import java.io.OutputStream;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.function.DoubleBinaryOperator;

/** Spheres for measuring: rings of corners between two poles, at which all triangles of a ring meet. */
public final class Spheres {

    private static final double RADIUS_MM = 40;

    private Spheres() {
    }

    /** Even: near the poles triangles are long and thin. @return {@code 4n(n − 1)} triangles */
    public static Mesh even(int n) {
        return of(n, (polar, turn) -> RADIUS_MM);
    }

    /** With knobs 2 mm high and deep, as scanned and sculpted surfaces have. @return {@code 4n(n − 1)} triangles */
    public static Mesh knobbly(int n) {
        return of(n, (polar, turn) -> RADIUS_MM + 2 * Math.sin(24 * polar) * Math.cos(24 * turn) * Math.sin(polar));
    }

    /** As binary STL. */
    public static void write(Mesh mesh, Path file) throws IOException {
        try (OutputStream out = new BufferedOutputStream(Files.newOutputStream(file))) {
            BinaryStlWriter.write(mesh, "sphere", out);
        }
    }

    /** @param n rings and one, each of 2n corners */
    private static Mesh of(int n, DoubleBinaryOperator radiusMm) {
        int around = 2 * n, rings = n - 1, top = rings * around, bottom = top + 1;
        double[] xyz = new double[3 * (bottom + 1)];
        for (int ring = 0; ring < rings; ring++) {
            double polar = Math.PI * (ring + 1) / n;
            for (int i = 0; i < around; i++) {
                double turn = 2 * Math.PI * i / around;
                set(xyz, ring * around + i, radiusMm.applyAsDouble(polar, turn), polar, turn);
            }
        }
        set(xyz, top, radiusMm.applyAsDouble(0, 0), 0, 0);
        set(xyz, bottom, radiusMm.applyAsDouble(Math.PI, 0), Math.PI, 0);
        int[] corners = new int[3 * 2 * around * rings];
        int at = 0;
        for (int i = 0; i < around; i++) {
            int next = (i + 1) % around;
            at = triangle(corners, at, top, i, next);
            for (int ring = 0; ring < rings - 1; ring++) {
                int a = ring * around + i, b = ring * around + next;
                at = triangle(corners, at, a, a + around, b);
                at = triangle(corners, at, b, a + around, b + around);
            }
            at = triangle(corners, at, (rings - 1) * around + i, bottom, (rings - 1) * around + next);
        }
        return new Mesh(xyz, corners);
    }

    private static void set(double[] xyz, int vertex, double radius, double polar, double turn) {
        xyz[3 * vertex] = radius * Math.sin(polar) * Math.cos(turn);
        xyz[3 * vertex + 1] = radius * Math.sin(polar) * Math.sin(turn);
        xyz[3 * vertex + 2] = radius * Math.cos(polar);
    }

    private static int triangle(int[] corners, int at, int a, int b, int c) {
        corners[at] = a;
        corners[at + 1] = b;
        corners[at + 2] = c;
        return at + 3;
    }
}
