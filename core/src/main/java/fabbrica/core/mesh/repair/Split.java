package fabbrica.core.mesh.repair;

import fabbrica.core.mesh.model.HalfEdges;
import fabbrica.core.mesh.model.Mesh;
import fabbrica.core.mesh.model.Triangles;
import java.util.List;
import java.util.stream.IntStream;

/** Takes the bodies of a mesh apart, and puts meshes together; either undoes the other. */
public final class Split {

    private Split() {
    }

    /** One mesh a body, in the order of their first triangles; collapsed triangles belong to none. */
    public static List<Mesh> of(Mesh mesh) {
        HalfEdges edges = new HalfEdges(mesh);
        Triangles all = Triangles.of(mesh);
        return IntStream.range(0, edges.bodies()).mapToObj(body -> all.kept(t -> edges.body(t) == body).mesh()).toList();
    }

    /** All triangles of all meshes; no corners are joined. */
    public static Mesh joined(List<Mesh> meshes) {
        double[] xyz = new double[3 * meshes.stream().mapToInt(Mesh::vertexCount).sum()];
        int[] corners = new int[3 * meshes.stream().mapToInt(Mesh::triangleCount).sum()];
        int vertex = 0, corner = 0;
        for (Mesh mesh : meshes) {
            for (int i = 0; i < 3 * mesh.triangleCount(); i++) {
                corners[corner++] = vertex + mesh.corner(i / 3, i % 3);
            }
            for (int v = 0; v < mesh.vertexCount(); v++, vertex++) {
                xyz[3 * vertex] = mesh.x(v);
                xyz[3 * vertex + 1] = mesh.y(v);
                xyz[3 * vertex + 2] = mesh.z(v);
            }
        }
        return new Mesh(xyz, corners);
    }
}
