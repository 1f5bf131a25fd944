package fabbrica.core.toolpath;

import java.util.ArrayList;
import java.util.List;
import org.jspecify.annotations.Nullable;

/**
 * The way from path to path on one layer. A short hop is made straight away, and so is one that stays inside the part.
 * One that would leave the part follows the outline from where it would leave to where it would come in again, as long
 * as that is the same ring and no great detour; else the filament is drawn back and the head flies straight.
 */
final class Router {

    private static final double LONGEST_DETOUR = 3;
    /** How far inside the outline the head follows it. */
    private static final double INSIDE_MM = 0.6;

    private final Layer.Builder layer;
    private final List<double[]> rings;
    private @Nullable EdgeGrid grid;

    private record Crossing(double part, int ring, int edge) {
    }

    Router(List<Island> areas, Layer.Builder layer) {
        this.rings = Island.rings(areas);
        this.layer = layer;
    }

    /** Travels to the point unless the head is there already. */
    void to(double x, double y) {
        double fromX = layer.lastX(), fromY = layer.lastY(), length = distance(x - fromX, y - fromY);
        if (layer.isEmpty() || length < 1e-6) {
            return;
        }
        if (length < Layer.SHORT_HOP_MM) {
            layer.travel(x, y, false);
            return;
        }
        List<Crossing> crossings = crossings(fromX, fromY, x, y);
        List<double[]> way = crossings.isEmpty() ? List.of() : detour(crossings, fromX, fromY, x, y);
        layer.travel(way == null);
        if (way != null) {
            way.forEach(point -> layer.point(point[0], point[1]));
        }
        layer.point(x, y);
    }

    private List<Crossing> crossings(double x0, double y0, double x1, double y1) {
        EdgeGrid edges = edges();
        List<Crossing> found = new ArrayList<>();
        edges.crossings(x0, y0, x1, y1, (edge, part) -> {
            Crossing crossing = new Crossing(part, edges.ringOf(edge), edges.placeOnRing(edge));
            if (!found.contains(crossing)) {
                found.add(crossing);
            }
        });
        found.sort((a, b) -> Double.compare(a.part(), b.part()));
        return found;
    }

    private EdgeGrid edges() {
        EdgeGrid edges = grid == null ? new EdgeGrid(rings) : grid;
        grid = edges;
        return edges;
    }

    /** @return the points on the way, or null when there is none worth going */
    private @Nullable List<double[]> detour(List<Crossing> crossings, double x0, double y0, double x1, double y1) {
        if (crossings.size() % 2 == 1) {
            return null;
        }
        double longest = LONGEST_DETOUR * distance(x1 - x0, y1 - y0), length = 0, lastX = x0, lastY = y0;
        List<double[]> way = new ArrayList<>();
        for (int i = 0; i < crossings.size(); i += 2) {
            Crossing out = crossings.get(i), in = crossings.get(i + 1);
            List<double[]> along = out.ring() == in.ring()
                    ? along(rings.get(out.ring()), out.edge(), in.edge(), longest) : null;
            if (along == null) {
                return null;
            }
            for (double[] point : along) {
                length += distance(point[0] - lastX, point[1] - lastY);
                lastX = point[0];
                lastY = point[1];
                way.add(point);
            }
        }
        return length + distance(x1 - lastX, y1 - lastY) <= longest ? way : null;
    }

    /** The corners of a ring from one edge to another, moved a little inwards; null when both ways about are too long. */
    private static @Nullable List<double[]> along(double[] ring, int fromEdge, int toEdge, double longest) {
        int size = ring.length / 2;
        List<double[]> forward = new ArrayList<>(), backward = new ArrayList<>();
        int ahead = fromEdge, behind = fromEdge;
        double forwardMm = 0, backwardMm = 0;
        while (forwardMm <= longest || backwardMm <= longest) {
            if (forwardMm <= backwardMm) {
                if (ahead == toEdge) {
                    return forward;
                }
                forwardMm += edge(ring, ahead);
                ahead = (ahead + 1) % size;
                forward.add(inside(ring, ahead));
            } else {
                if (behind == toEdge) {
                    return backward;
                }
                backward.add(inside(ring, behind));
                behind = (behind + size - 1) % size;
                backwardMm += edge(ring, behind);
            }
        }
        return null;
    }

    private static double edge(double[] ring, int edge) {
        int from = 2 * edge, to = (from + 2) % ring.length;
        return distance(ring[to] - ring[from], ring[to + 1] - ring[from + 1]);
    }

    private static double distance(double dx, double dy) {
        return Math.sqrt(dx * dx + dy * dy);
    }

    private static double[] inside(double[] ring, int corner) {
        int size = ring.length / 2, before = (corner + size - 1) % size, after = (corner + 1) % size;
        double dx = ring[2 * after] - ring[2 * before], dy = ring[2 * after + 1] - ring[2 * before + 1];
        double scale = INSIDE_MM / Math.max(1e-9, distance(dx, dy));
        return new double[] {ring[2 * corner] - scale * dy, ring[2 * corner + 1] + scale * dx};
    }
}
