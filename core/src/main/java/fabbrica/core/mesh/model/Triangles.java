package fabbrica.core.mesh.model;

import java.util.Arrays;
import java.util.function.IntPredicate;
import java.util.stream.IntStream;

/** A mesh's corners while they are being changed; each step gives a new set, vertices stay where they are. */
public record Triangles(Mesh source, int[] corners) {

    public static Triangles of(Mesh mesh) {
        int[] corners = new int[3 * mesh.triangleCount()];
        Arrays.setAll(corners, i -> mesh.corner(i / 3, i % 3));
        return new Triangles(mesh, corners);
    }

    /** Every vertex called by another name. */
    public Triangles renamed(int[] names) {
        return new Triangles(source, Arrays.stream(corners).map(v -> names[v]).toArray());
    }

    public Triangles kept(IntPredicate wanted) {
        int[] kept = new int[corners.length];
        int count = 0;
        for (int t = 0; t < corners.length / 3; t++) {
            if (wanted.test(t)) {
                System.arraycopy(corners, 3 * t, kept, count, 3);
                count += 3;
            }
        }
        return new Triangles(source, Arrays.copyOf(kept, count));
    }

    /** By the vertices of each. */
    public interface Wanted {
        boolean test(int a, int b, int c);
    }

    public Triangles kept(Wanted wanted) {
        return kept((int t) -> wanted.test(corners[3 * t], corners[3 * t + 1], corners[3 * t + 2]));
    }

    public Triangles flipped(IntPredicate turned) {
        int[] flipped = corners.clone();
        for (int t = 0; t < corners.length / 3; t++) {
            if (turned.test(t)) {
                flipped[3 * t + 1] = corners[3 * t + 2];
                flipped[3 * t + 2] = corners[3 * t + 1];
            }
        }
        return new Triangles(source, flipped);
    }

    public Triangles with(int[] more) {
        int[] all = Arrays.copyOf(corners, corners.length + more.length);
        System.arraycopy(more, 0, all, corners.length, more.length);
        return new Triangles(source, all);
    }

    public double areaMm2() {
        Mesh mesh = mesh();
        return IntStream.range(0, mesh.triangleCount()).mapToDouble(mesh::area).sum();
    }

    /** A mesh of these triangles and the vertices they use. */
    public Mesh mesh() {
        int[] names = new int[source.vertexCount()];
        Arrays.fill(names, -1);
        double[] xyz = new double[3 * Math.min(source.vertexCount(), corners.length)];
        int[] renamed = new int[corners.length];
        int used = 0;
        for (int i = 0; i < corners.length; i++) {
            int v = corners[i];
            if (names[v] < 0) {
                xyz[3 * used] = source.x(v);
                xyz[3 * used + 1] = source.y(v);
                xyz[3 * used + 2] = source.z(v);
                names[v] = used++;
            }
            renamed[i] = names[v];
        }
        return new Mesh(Arrays.copyOf(xyz, 3 * used), renamed);
    }
}
