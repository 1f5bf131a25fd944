package fabbrica.core.inspect;

import fabbrica.core.mesh.model.Bounds;
import fabbrica.core.mesh.model.Mesh;
import java.util.Arrays;

/**
 * A coarser copy of a fine mesh: vertices gathered on a grid along the longest side (Rossignac
 * and Borrel, "Multi-resolution 3D approximations for rendering complex scenes", 1993). Every vertex of the copy is one
 * of the mesh; triangles within a cell vanish. For looking and for scoring, not for measuring. Linear.
 */
public final class Coarser {

    private Coarser() {
    }

    /** How far, in mm, the copy's surface may lie from the mesh's: a cell's diagonal. */
    public static double movedAtMost(Mesh mesh, int cells) {
        return mesh.bounds().largestSide() / cells * Math.sqrt(3);
    }

    /** @param cells along the longest side, at most 500 */
    public static Mesh of(Mesh mesh, int cells) {
        Bounds bounds = mesh.bounds();
        double cell = Math.max(bounds.largestSide() / cells, 1e-9);
        int side = cells + 1;
        int[] representatives = new int[side * side * side];
        int[] vertices = new int[mesh.vertexCount()];
        double[] xyz = new double[3 * Math.min(mesh.vertexCount(), representatives.length)];
        int count = 0;
        for (int v = 0; v < vertices.length; v++) {
            int at = ((int) ((mesh.x(v) - bounds.minX()) / cell) * side + (int) ((mesh.y(v) - bounds.minY()) / cell))
                    * side + (int) ((mesh.z(v) - bounds.minZ()) / cell);
            if (representatives[at] == 0) {
                xyz[3 * count] = mesh.x(v);
                xyz[3 * count + 1] = mesh.y(v);
                xyz[3 * count + 2] = mesh.z(v);
                representatives[at] = ++count;
            }
            vertices[v] = representatives[at] - 1;
        }
        int[] corners = new int[3 * mesh.triangleCount()];
        int kept = 0;
        for (int t = 0; t < mesh.triangleCount(); t++) {
            int a = vertices[mesh.corner(t, 0)], b = vertices[mesh.corner(t, 1)], c = vertices[mesh.corner(t, 2)];
            if (a != b && b != c && c != a) {
                corners[kept++] = a;
                corners[kept++] = b;
                corners[kept++] = c;
            }
        }
        return new Mesh(Arrays.copyOf(xyz, 3 * count), Arrays.copyOf(corners, kept));
    }
}
