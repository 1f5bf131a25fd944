package fabbrica.core.mesh.repair;

import fabbrica.core.mesh.model.HalfEdges;
import fabbrica.core.mesh.model.Mesh;
import fabbrica.core.mesh.model.TriangleTree;
import fabbrica.core.mesh.model.Triangles;
import java.util.Arrays;

/**
 * Makes the winding of each body one, by walking from triangle to triangle across sound edges, and turns bodies inside
 * out that were so. A body wound without contradiction keeps its sense when something surrounds it: it may be a hollow.
 * A body that had to be made one is a hollow where an odd number of others surround it, else solid. Linear.
 *
 * @param turned       triangles that were turned over
 * @param contradicted bodies, such as a Möbius strip, that cannot be wound one way
 */
record Winding(Mesh mesh, int turned, int contradicted) {

    static Winding of(Mesh mesh) {
        return new Work(mesh).winding();
    }

    private static final class Work {

        private final Mesh mesh;
        private final HalfEdges edges;
        private final boolean[] turn;
        private final boolean[] seen;
        private final boolean[] mended;
        private final boolean[] contradicts;
        private final boolean[] open;
        private final double[] volumes;

        Work(Mesh mesh) {
            this.mesh = mesh;
            edges = new HalfEdges(mesh);
            turn = new boolean[mesh.triangleCount()];
            seen = new boolean[mesh.triangleCount()];
            mended = new boolean[edges.bodies()];
            contradicts = new boolean[edges.bodies()];
            open = new boolean[edges.bodies()];
            volumes = new double[edges.bodies()];
        }

        Winding winding() {
            int[] waiting = new int[mesh.triangleCount()];
            for (int seed = 0; seed < seen.length; seed++) {
                if (!seen[seed] && edges.body(seed) >= 0) {
                    spread(seed, waiting);
                }
            }
            addVolumes();
            turnBodies();
            int turned = 0;
            for (boolean t : turn) {
                turned += t ? 1 : 0;
            }
            int contradicted = 0;
            for (boolean body : contradicts) {
                contradicted += body ? 1 : 0;
            }
            return new Winding(turned == 0 ? mesh : Triangles.of(mesh).flipped(t -> turn[t]).mesh(), turned,
                    contradicted);
        }

        /** The larger share of a patch keeps its winding. */
        private void spread(int seed, int[] waiting) {
            int end = 0, turned = 0;
            int body = edges.body(seed);
            waiting[end++] = seed;
            seen[seed] = true;
            for (int at = 0; at < end; at++) {
                int t = waiting[at];
                turned += turn[t] ? 1 : 0;
                for (int corner = 0; corner < 3; corner++) {
                    int h = 3 * t + corner, twin = edges.twin(h);
                    open[body] |= twin == HalfEdges.OPEN;
                    if (twin < 0) {
                        continue;
                    }
                    boolean needed = edges.agrees(h) == turn[t];
                    int other = twin / 3;
                    if (!seen[other]) {
                        seen[other] = true;
                        turn[other] = needed;
                        waiting[end++] = other;
                    } else if (turn[other] != needed) {
                        contradicts[body] = true;
                    }
                }
            }
            mended[body] |= turned > 0;
            for (int at = 0; 2 * turned > end && at < end; at++) {
                turn[waiting[at]] ^= true;
            }
        }

        private void addVolumes() {
            int[] origin = new int[volumes.length];
            Arrays.fill(origin, -1);
            for (int t = 0; t < turn.length; t++) {
                int body = edges.body(t);
                if (body >= 0) {
                    origin[body] = origin[body] < 0 ? mesh.corner(t, 0) : origin[body];
                    volumes[body] += (turn[t] ? -1 : 1) * mesh.volumeFrom(origin[body], t);
                }
            }
        }

        private void turnBodies() {
            TriangleTree.Ray ray = volumes.length > 1 ? new TriangleTree(mesh).ray() : null;
            boolean[] other = new boolean[volumes.length];
            int[] foot = new int[volumes.length];
            for (int t = 0; t < turn.length; t++) {
                if (edges.body(t) >= 0) {
                    foot[edges.body(t)] = mesh.corner(t, 0);
                }
            }
            for (int body = 0; body < volumes.length; body++) {
                int self = body;
                int around = ray != null && !open[body] ? Math.abs(ray.windingAt(mesh.x(foot[body]), mesh.y(foot[body]),
                        mesh.z(foot[body]), t -> edges.body(t) >= 0 && edges.body(t) != self)) : 0;
                boolean hollow = around % 2 == 1 && (mended[body] || volumes[body] < 0);
                other[body] = !open[body] && volumes[body] < 0 != hollow;
            }
            for (int t = 0; t < turn.length; t++) {
                turn[t] ^= edges.body(t) >= 0 && other[edges.body(t)];
            }
        }
    }
}
