package fabbrica.core.mesh.repair;

import fabbrica.core.mesh.model.HalfEdges;
import fabbrica.core.mesh.model.Mesh;
import fabbrica.core.mesh.model.TriangleTree;
import fabbrica.core.mesh.model.Triangles;

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
        double[] volumes = new double[bodies];
        for (int t = 0; t < mesh.triangleCount(); t++) {
            if (edges.body(t) >= 0) {
                volumes[edges.body(t)] += mesh.volumeFrom(0, t);
            }
        }
        boolean[] inside = new boolean[bodies];
        for (int body = 0; body < bodies; body++) {
            inside[body] = volumes[body] > 0;
        }
        TriangleTree.Ray ray = new TriangleTree(mesh).ray();
        for (int t = 0; t < mesh.triangleCount(); t++) {
            int body = edges.body(t), a = mesh.corner(t, 0);
            if (body >= 0 && inside[body]) {
                inside[body] = ray.windingAt(mesh.x(a), mesh.y(a), mesh.z(a),
                        u -> edges.body(u) >= 0 && edges.body(u) != body) > 0;
            }
        }
        int dropped = 0;
        for (boolean wholly : inside) {
            dropped += wholly ? 1 : 0;
        }
        return dropped == 0 ? new Swallowed(mesh, 0)
                : new Swallowed(Triangles.of(mesh).kept(t -> edges.body(t) < 0 || !inside[edges.body(t)]).mesh(), dropped);
    }
}
