package fabbrica.core.mesh.io;

import fabbrica.core.mesh.model.LeastAreaTriangulation;
import fabbrica.core.mesh.model.MeshBuilder;

/** Cuts the polygons of a file into triangles; polygons that are not convex keep their shape. */
public final class Polygons {

    private static final int MOST_CORNERS = 300;

    private Polygons() {
    }

    /**
     * @param corners numbers of vertices in order, at least three
     * @param count   how many of them are used
     * @return whether the polygon was small enough to be triangulated
     */
    public static boolean add(MeshBuilder builder, Vertices vertices, int[] corners, int count) {
        if (count == 3) {
            vertices.addTriangle(builder, corners[0], corners[1], corners[2]);
            return true;
        }
        if (count > MOST_CORNERS) {
            return false;
        }
        double[] xyz = new double[3 * count];
        for (int i = 0; i < count; i++) {
            System.arraycopy(vertices.at(corners[i]), 0, xyz, 3 * i, 3);
        }
        int[] triangles = LeastAreaTriangulation.of(xyz);
        for (int i = 0; i < triangles.length; i += 3) {
            vertices.addTriangle(builder, corners[triangles[i]], corners[triangles[i + 1]], corners[triangles[i + 2]]);
        }
        return true;
    }

    public static String tooMany() {
        return "holds a polygon of more than %d corners".formatted(MOST_CORNERS);
    }
}
