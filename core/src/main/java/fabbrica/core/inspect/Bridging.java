package fabbrica.core.inspect;

import fabbrica.core.mesh.model.HalfEdges;
import fabbrica.core.mesh.model.Mesh;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.Comparator;
import java.util.List;

/**
 * How much of a hanging patch can be spanned by straight lines from one supported border to another, and how far.
 *
 * <p>A border is supported where the neighbouring face goes down from it: there a wall stands below. Seen from above,
 * the patch is ruled with parallel lines in several directions; the stretch between two supported borders is bridged.
 * The direction that bridges most is kept, of equal ones the one with the shortest span. Cost: directions × lines ×
 * border edges.
 *
 * @param part   share of the ruled length that is bridged, 0 to 1
 * @param spanMm the longest bridged stretch
 */
record Bridging(double part, double spanMm) {

    private static final int DIRECTIONS = 12;
    private static final int LINES = 48;
    private static final int MOST_BORDER_EDGES = 20_000;

    static Bridging of(Mesh mesh, HalfEdges edges, int[] triangles, int count, int[] patch) {
        int own = patch[triangles[0]];
        double[] border = new double[4 * 64];
        boolean[] supported = new boolean[64];
        int size = 0;
        double longest = 0, longestDirection = 0;
        for (int i = 0; i < 3 * count; i++) {
            int h = 3 * triangles[i / 3] + i % 3;
            int twin = edges.twin(h);
            if (twin >= 0 && patch[twin / 3] == own) {
                continue;
            }
            if (size == supported.length) {
                border = Arrays.copyOf(border, 8 * size);
                supported = Arrays.copyOf(supported, 2 * size);
            }
            int from = edges.from(h), to = edges.to(h);
            border[4 * size] = mesh.x(from);
            border[4 * size + 1] = mesh.y(from);
            border[4 * size + 2] = mesh.x(to);
            border[4 * size + 3] = mesh.y(to);
            supported[size] = twin >= 0 && goesDown(mesh, twin, from, to);
            double length = Math.hypot(mesh.x(to) - mesh.x(from), mesh.y(to) - mesh.y(from));
            if (supported[size] && length > longest) {
                longest = length;
                longestDirection = Math.atan2(mesh.y(to) - mesh.y(from), mesh.x(to) - mesh.x(from)) + Math.PI / 2;
            }
            size++;
        }
        if (longest == 0 || size > MOST_BORDER_EDGES) {
            return new Bridging(0, 0);
        }
        Bridging best = new Bridging(0, 0);
        for (int d = 0; d < DIRECTIONS; d++) {
            Bridging ruled = ruled(border, supported, size, longestDirection + Math.PI * d / DIRECTIONS);
            if (ruled.part > best.part + 0.01 || ruled.part > best.part - 0.01 && ruled.spanMm < best.spanMm) {
                best = ruled;
            }
        }
        return best;
    }

    /** Whether the triangle of {@code halfEdge} has its third corner below the edge. */
    private static boolean goesDown(Mesh mesh, int halfEdge, int from, int to) {
        int third = mesh.corner(halfEdge / 3, (halfEdge + 2) % 3);
        return mesh.z(third) < Math.min(mesh.z(from), mesh.z(to)) - 1e-9
                || mesh.z(third) < (mesh.z(from) + mesh.z(to)) / 2 - 1e-6;
    }

    private static Bridging ruled(double[] border, boolean[] supported, int size, double radians) {
        double cos = Math.cos(radians), sin = Math.sin(radians);
        double low = Double.POSITIVE_INFINITY, high = Double.NEGATIVE_INFINITY;
        for (int e = 0; e < 2 * size; e++) {
            double across = cos * border[2 * e + 1] - sin * border[2 * e];
            low = Math.min(low, across);
            high = Math.max(high, across);
        }
        double bridged = 0, all = 0, span = 0;
        for (int line = 0; line < LINES; line++) {
            List<Crossing> crossings = crossings(border, supported, size, cos, sin,
                    low + (line + 0.5) / LINES * (high - low));
            for (int i = 0; i + 1 < crossings.size(); i += 2) {
                double length = crossings.get(i + 1).at - crossings.get(i).at;
                all += length;
                if (crossings.get(i).supported && crossings.get(i + 1).supported) {
                    bridged += length;
                    span = Math.max(span, length);
                }
            }
        }
        return new Bridging(all == 0 ? 0 : bridged / all, span);
    }

    /** Where a ruling line enters or leaves the patch. */
    private record Crossing(double at, boolean supported) {
    }

    private static List<Crossing> crossings(double[] border, boolean[] supported, int size, double cos, double sin,
                                            double offset) {
        List<Crossing> crossings = new ArrayList<>();
        for (int e = 0; e < size; e++) {
            double x0 = border[4 * e], y0 = border[4 * e + 1], x1 = border[4 * e + 2], y1 = border[4 * e + 3];
            double v0 = cos * y0 - sin * x0, v1 = cos * y1 - sin * x1;
            if (v0 > offset != v1 > offset) {
                double part = (offset - v0) / (v1 - v0);
                crossings.add(new Crossing(cos * (x0 + part * (x1 - x0)) + sin * (y0 + part * (y1 - y0)),
                        supported[e]));
            }
        }
        crossings.sort(Comparator.comparingDouble(Crossing::at));
        return crossings;
    }
}
