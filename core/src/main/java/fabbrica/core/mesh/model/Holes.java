package fabbrica.core.mesh.model;

import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;

/**
 * The loops of open edges of a mesh: its holes and rims. Where several loops meet in one vertex they are told apart as
 * they are met, which is arbitrary but complete: every open edge belongs to exactly one loop. Linear in the triangles.
 */
public final class Holes {

    private Holes() {
    }

    /**
     * @param vertices in the order of the hole's border, so that a patch wound in this order continues the surface
     * @param lengthMm around the border
     * @param closed   whether the last vertex is joined to the first by an open edge too
     */
    public record Hole(int[] vertices, double lengthMm, boolean closed) {
    }

    public static List<Hole> of(Mesh mesh, HalfEdges edges) {
        if (edges.openEdges() == 0) {
            return List.of();
        }
        Map<Integer, List<Integer>> leaving = new HashMap<>();
        List<Integer> starts = new ArrayList<>();
        for (int h = 0; h < 3 * mesh.triangleCount(); h++) {
            if (edges.twin(h) == HalfEdges.OPEN) {
                // The missing triangle runs along the edge the other way.
                leaving.computeIfAbsent(edges.to(h), key -> new ArrayList<>(1)).add(edges.from(h));
                starts.add(edges.to(h));
            }
        }
        List<Hole> holes = new ArrayList<>();
        for (int start : starts) {
            while (!leaving.getOrDefault(start, List.of()).isEmpty()) {
                holes.add(follow(mesh, start, leaving));
            }
        }
        return List.copyOf(holes);
    }

    private static Hole follow(Mesh mesh, int start, Map<Integer, List<Integer>> leaving) {
        List<Integer> loop = new ArrayList<>();
        double length = 0;
        int at = start;
        boolean closed = false;
        while (!closed && leaving.containsKey(at) && !leaving.get(at).isEmpty()) {
            loop.add(at);
            int next = leaving.get(at).removeLast();
            length += distance(mesh, at, next);
            at = next;
            closed = at == start;
        }
        if (!closed) {
            loop.add(at);
        }
        return new Hole(loop.stream().mapToInt(Integer::intValue).toArray(), length, closed);
    }

    private static double distance(Mesh mesh, int a, int b) {
        double dx = mesh.x(a) - mesh.x(b), dy = mesh.y(a) - mesh.y(b), dz = mesh.z(a) - mesh.z(b);
        return Math.sqrt(dx * dx + dy * dy + dz * dz);
    }
}
