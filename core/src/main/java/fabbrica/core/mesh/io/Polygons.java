package fabbrica.core.mesh.io;

import fabbrica.core.mesh.model.LeastAreaTriangulation;
import fabbrica.core.mesh.model.MeshBuilder;
import java.util.Optional;

/**
 * Cuts the polygons of one file into triangles; polygons that are not convex keep their shape. The time that takes grows
 * with the cube of the corners, so that there is a bound on all of them together.
 */
public final class Polygons {

    private static final int MOST_CORNERS = 300;
    /** Steps of the triangulation: a few seconds of work, and ninety polygons of as many corners as there may be. */
    private static final long MOST_STEPS = 400_000_000;

    private final MeshBuilder builder;
    private final Vertices vertices;
    private long steps;

    /** @param builder takes the triangles */
    public Polygons(MeshBuilder builder, Vertices vertices) {
        this.builder = builder;
        this.vertices = vertices;
    }

    /**
     * @param corners numbers of vertices in order, at least three
     * @param count   how many of them are used
     * @return why the polygon is refused, as the rest of a sentence about it; empty when it is taken
     */
    public Optional<String> add(int[] corners, int count) {
        if (count == 3) {
            vertices.addTriangle(builder, corners[0], corners[1], corners[2]);
            return Optional.empty();
        }
        if (count > MOST_CORNERS) {
            return Optional.of("holds a polygon of more than %d corners".formatted(MOST_CORNERS));
        }
        steps += LeastAreaTriangulation.steps(count);
        if (steps > MOST_STEPS) {
            return Optional.of("holds one polygon of many corners too many: export the model as triangles");
        }
        double[] xyz = new double[3 * count];
        for (int i = 0; i < count; i++) {
            System.arraycopy(vertices.at(corners[i]), 0, xyz, 3 * i, 3);
        }
        int[] triangles = LeastAreaTriangulation.of(xyz);
        for (int i = 0; i < triangles.length; i += 3) {
            vertices.addTriangle(builder, corners[triangles[i]], corners[triangles[i + 1]], corners[triangles[i + 2]]);
        }
        return Optional.empty();
    }
}
