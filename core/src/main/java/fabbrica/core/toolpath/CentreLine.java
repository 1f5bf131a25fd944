package fabbrica.core.toolpath;

import java.util.ArrayList;
import java.util.Arrays;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import org.locationtech.jts.densify.Densifier;
import org.locationtech.jts.geom.Coordinate;
import org.locationtech.jts.geom.Geometry;
import org.locationtech.jts.geom.LineSegment;
import org.locationtech.jts.triangulate.polygon.ConstrainedDelaunayTriangulator;

/**
 * The line along the middle of a thin area, in pieces of about one width each, which add up to the area. The area is cut
 * into triangles (constrained Delaunay, JTS); the line runs from the middle of one inner edge to that of the next and
 * meets others in the middle of triangles with three inner edges: the chordal axis of Prasad, "Morphological analysis of
 * shapes" (1997). Over each triangle the width is its area over the length of line in it.
 *
 * @param points x, y pairs
 */
record CentreLine(double[] points, double widthMm) {

    private static final double PIECE_PER_WIDTH = 0.5;
    private static final double SAME_WIDTH = 0.15;

    static List<CentreLine> of(Island area, double thinnestMm, double widestMm) {
        return new Axis(area, thinnestMm, widestMm).lines();
    }

    double lengthMm() {
        double length = 0;
        for (int i = 2; i < points.length; i += 2) {
            length += Math.hypot(points[i] - points[i - 2], points[i + 1] - points[i - 1]);
        }
        return length;
    }

    /** A step from node to node, with the area it stands for. */
    private record Step(int from, int to, double length, double area) {
    }

    private static final class Axis {

        private final double thinnest;
        private final double widest;
        private final List<double[]> nodes = new ArrayList<>();
        private final List<List<Step>> steps = new ArrayList<>();

        Axis(Island area, double thinnestMm, double widestMm) {
            thinnest = thinnestMm;
            widest = widestMm;
            Geometry dense = Densifier.densify(area.toJts(), Math.max(widestMm * PIECE_PER_WIDTH, 1e-3));
            Geometry triangles = ConstrainedDelaunayTriangulator.triangulate(dense);
            Map<LineSegment, Integer> shared = new HashMap<>();
            for (int t = 0; t < triangles.getNumGeometries(); t++) {
                for (LineSegment edge : edges(triangles.getGeometryN(t))) {
                    shared.merge(edge, 1, Integer::sum);
                }
            }
            Map<LineSegment, Integer> middles = new HashMap<>();
            for (int t = 0; t < triangles.getNumGeometries(); t++) {
                add(triangles.getGeometryN(t), shared, middles);
            }
        }

        private void add(Geometry triangle, Map<LineSegment, Integer> shared, Map<LineSegment, Integer> middles) {
            int[] inner = Arrays.stream(edges(triangle)).filter(edge -> shared.get(edge) > 1)
                    .mapToInt(edge -> middles.computeIfAbsent(edge, e -> node(e.midPoint()))).toArray();
            double area = triangle.getArea();
            switch (inner.length) {
                case 1 -> join(inner[0], node(triangle.getCentroid().getCoordinate()), area);
                case 2 -> join(inner[0], inner[1], area);
                case 3 -> {
                    int middle = node(triangle.getCentroid().getCoordinate());
                    for (int node : inner) {
                        join(node, middle, area / 3);
                    }
                }
                default -> {
                }
            }
        }

        private static LineSegment[] edges(Geometry triangle) {
            Coordinate[] corners = triangle.getCoordinates();
            LineSegment[] edges = new LineSegment[3];
            for (int i = 0; i < 3; i++) {
                edges[i] = new LineSegment(corners[i], corners[i + 1]);
                edges[i].normalize();
            }
            return edges;
        }

        private int node(Coordinate at) {
            nodes.add(new double[] {at.x, at.y});
            steps.add(new ArrayList<>());
            return nodes.size() - 1;
        }

        private void join(int a, int b, double area) {
            double length = Math.hypot(nodes.get(a)[0] - nodes.get(b)[0], nodes.get(a)[1] - nodes.get(b)[1]);
            steps.get(a).add(new Step(a, b, length, area));
            steps.get(b).add(new Step(b, a, length, area));
        }

        /** From ends and meetings along single steps to the next; then what runs in circles. */
        List<CentreLine> lines() {
            List<CentreLine> lines = new ArrayList<>();
            boolean[] passed = new boolean[nodes.size()];
            for (int node = 0; node < nodes.size(); node++) {
                if (steps.get(node).size() != 2) {
                    passed[node] = true;
                    for (Step step : steps.get(node)) {
                        if (!passed[step.to()] || steps.get(step.to()).size() != 2 && step.to() > node) {
                            addPieces(follow(step, passed), lines);
                        }
                    }
                }
            }
            for (int node = 0; node < nodes.size(); node++) {
                if (!passed[node]) {
                    passed[node] = true;
                    addPieces(follow(steps.get(node).getFirst(), passed), lines);
                }
            }
            return lines;
        }

        private List<Step> follow(Step first, boolean[] passed) {
            List<Step> way = new ArrayList<>(List.of(first));
            Step step = first;
            while (steps.get(step.to()).size() == 2 && !passed[step.to()]) {
                passed[step.to()] = true;
                List<Step> on = steps.get(step.to());
                step = on.get(0).to() == step.from() && on.get(0).area() == step.area() ? on.get(1) : on.get(0);
                way.add(step);
            }
            return way;
        }

        private void addPieces(List<Step> way, List<CentreLine> into) {
            int from = 0;
            while (from < way.size()) {
                double length = 0, area = 0;
                int to = from;
                while (to < way.size()) {
                    Step step = way.get(to);
                    double width = length == 0 ? 0 : area / length, wider = (area + step.area()) / (length + step.length());
                    if (length > widest && Math.abs(step.area() / step.length() - width) > SAME_WIDTH * width
                            && Math.abs(wider - width) > 0.02 * width) {
                        break;
                    }
                    length += step.length();
                    area += step.area();
                    to++;
                }
                double width = Math.min(widest, area / length);
                if (length > 0 && width >= thinnest) {
                    double[] points = new double[2 * (to - from + 1)];
                    System.arraycopy(nodes.get(way.get(from).from()), 0, points, 0, 2);
                    for (int i = from; i < to; i++) {
                        System.arraycopy(nodes.get(way.get(i).to()), 0, points, 2 * (i - from + 1), 2);
                    }
                    into.add(new CentreLine(points, width));
                }
                from = to;
            }
        }
    }
}
