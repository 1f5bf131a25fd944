package fabbrica.core.mesh.repair;

import fabbrica.core.mesh.model.HalfEdges;
import fabbrica.core.mesh.model.Mesh;
import fabbrica.core.mesh.model.TriangleTree;

/**
 * Drops bodies that lie wholly inside another solid and are solid themselves: they add nothing, and slicers that count
 * by even and odd would print them as hollows. Bodies whose corners are not all inside stay.
 *
 * @param dropped bodies
 */
record Swallowed(Mesh mesh, int dropped) {

    private static final int MOST_BODIES = 1000;

    static Swallowed of(Mesh mesh) {
        HalfEdges edges = new HalfEdges(mesh);
        int bodies = edges.bodies();
        if (bodies < 2 || bodies > MOST_BODIES) {
            return new Swallowed(mesh, 0);
        }
        boolean[] inside = new boolean[bodies];
        java.util.Arrays.fill(inside, true);
        double[] volumes = new double[bodies];
        double[] normal = new double[3];
        TriangleTree.Ray ray = new TriangleTree(mesh).ray();
        for (int t = 0; t < mesh.triangleCount(); t++) {
            int body = edges.body(t);
            if (body >= 0) {
                int a = mesh.corner(t, 0);
                mesh.normal(t, normal);
                volumes[body] += mesh.x(a) * normal[0] + mesh.y(a) * normal[1] + mesh.z(a) * normal[2];
                inside[body] = inside[body] && ray.windingAt(mesh.x(a), mesh.y(a), mesh.z(a),
                        u -> edges.body(u) >= 0 && edges.body(u) != body) > 0;
            }
        }
        int dropped = 0;
        for (int body = 0; body < bodies; body++) {
            inside[body] &= volumes[body] > 0;
            dropped += inside[body] ? 1 : 0;
        }
        return dropped == 0 ? new Swallowed(mesh, 0)
                : new Swallowed(Triangles.of(mesh).kept(t -> edges.body(t) < 0 || !inside[edges.body(t)]).mesh(), dropped);
    }
}
