package fabbrica.core.mesh.io;

import fabbrica.core.mesh.model.Mesh;
import fabbrica.core.units.Spoken;
import java.util.Arrays;

/**
 * The meshes of a file put together in their places. A file may name one mesh many times, so that what comes of it has a
 * bound: what is written in the file, and {@value #MOST_COPIED} triangles more.
 */
public final class Assembly {

    private static final int MOST_COPIED = 2_000_000;

    private final long most;
    private double[] xyz = new double[3 * 64];
    private int[] corners = new int[3 * 128];
    private int vertices;
    private int triangles;

    /** @param written triangles of all meshes of the file */
    public Assembly(long written) {
        most = written + MOST_COPIED;
    }

    /**
     * Adds a mesh, its own numbers multiplied by {@code factor}, as {@code transform} places it; mirrored ones are rewound.
     *
     * @throws ModelFormatException when it becomes too much
     */
    public void add(Mesh mesh, Transform transform, double factor) throws ModelFormatException {
        if (triangles + (long) mesh.triangleCount() > most) {
            throw new ModelFormatException("The objects of this file, put together, have more than %s triangles, most of them copies."
                    .formatted(Spoken.count(most)));
        }
        xyz = room(xyz, 3 * (vertices + mesh.vertexCount()));
        corners = room(corners, 3 * (triangles + mesh.triangleCount()));
        int second = transform.isMirrored() ? 2 : 1, from = vertices;
        for (int t = 0; t < mesh.triangleCount(); t++, triangles++) {
            corners[3 * triangles] = from + mesh.corner(t, 0);
            corners[3 * triangles + 1] = from + mesh.corner(t, second);
            corners[3 * triangles + 2] = from + mesh.corner(t, 3 - second);
        }
        for (int v = 0; v < mesh.vertexCount(); v++, vertices++) {
            for (int column = 0; column < 3; column++) {
                xyz[3 * vertices + column] = factor * transform.coordinate(column, mesh.x(v), mesh.y(v), mesh.z(v));
            }
        }
    }

    /** All that was added; no corners are joined. */
    public Mesh mesh() {
        return new Mesh(Arrays.copyOf(xyz, 3 * vertices), Arrays.copyOf(corners, 3 * triangles));
    }

    private static double[] room(double[] array, int needed) {
        return needed <= array.length ? array : Arrays.copyOf(array, Math.max(needed, array.length + array.length / 2));
    }

    private static int[] room(int[] array, int needed) {
        return needed <= array.length ? array : Arrays.copyOf(array, Math.max(needed, array.length + array.length / 2));
    }
}
