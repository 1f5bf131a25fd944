package fabbrica.core.mesh.repair;

import fabbrica.core.mesh.model.HalfEdges;
import fabbrica.core.mesh.model.Mesh;
import fabbrica.core.mesh.model.Triangles;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.HashMap;
import java.util.List;
import java.util.Map;

/**
 * Joins corners on open edges that lie nearly at one place, so that cracks left by rounding close. Only borders are
 * touched: fine detail elsewhere keeps its shape however small it is. Expected cost is linear, by a hash grid.
 *
 * @param joined   vertices that were joined to another
 * @param movedMm  the farthest any of them moved
 */
record Welding(Mesh mesh, int joined, double movedMm) {

    static Welding of(Mesh mesh, double toleranceMm) {
        HalfEdges edges = new HalfEdges(mesh);
        if (edges.openEdges() == 0) {
            return new Welding(mesh, 0, 0);
        }
        int[] target = new int[mesh.vertexCount()];
        Arrays.setAll(target, v -> v);
        boolean[] border = new boolean[mesh.vertexCount()];
        for (int h = 0; h < 3 * mesh.triangleCount(); h++) {
            if (edges.twin(h) == HalfEdges.OPEN) {
                border[edges.from(h)] = true;
                border[edges.to(h)] = true;
            }
        }
        Map<List<Long>, List<Integer>> grid = new HashMap<>();
        int joined = 0;
        double moved = 0;
        for (int v = 0; v < border.length; v++) {
            if (border[v]) {
                int near = nearest(mesh, v, grid, toleranceMm);
                if (near >= 0) {
                    target[v] = near;
                    joined++;
                    moved = Math.max(moved, distance(mesh, v, near));
                } else {
                    grid.computeIfAbsent(cell(mesh, v, toleranceMm, 0, 0, 0), key -> new ArrayList<>(1)).add(v);
                }
            }
        }
        return joined == 0 ? new Welding(mesh, 0, 0)
                : new Welding(Triangles.of(mesh).renamed(target).mesh(), joined, moved);
    }

    private static int nearest(Mesh mesh, int v, Map<List<Long>, List<Integer>> grid, double toleranceMm) {
        int best = -1;
        double bestDistance = toleranceMm;
        for (int n = 0; n < 27; n++) {
            for (int other : grid.getOrDefault(cell(mesh, v, toleranceMm, n % 3 - 1, n / 3 % 3 - 1, n / 9 - 1),
                    List.of())) {
                double distance = distance(mesh, v, other);
                if (distance <= bestDistance) {
                    bestDistance = distance;
                    best = other;
                }
            }
        }
        return best;
    }

    private static List<Long> cell(Mesh mesh, int v, double size, int dx, int dy, int dz) {
        return List.of((long) Math.floor(mesh.x(v) / size) + dx, (long) Math.floor(mesh.y(v) / size) + dy,
                (long) Math.floor(mesh.z(v) / size) + dz);
    }

    private static double distance(Mesh mesh, int a, int b) {
        double dx = mesh.x(a) - mesh.x(b), dy = mesh.y(a) - mesh.y(b), dz = mesh.z(a) - mesh.z(b);
        return Math.sqrt(dx * dx + dy * dy + dz * dz);
    }
}
