package fabbrica.core.mesh.repair;

import fabbrica.core.mesh.model.Holes.Hole;
import fabbrica.core.mesh.model.Mesh;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.Optional;
import org.locationtech.jts.geom.Coordinate;
import org.locationtech.jts.geom.Geometry;
import org.locationtech.jts.geom.GeometryFactory;
import org.locationtech.jts.geom.LinearRing;
import org.locationtech.jts.geom.Polygon;
import org.locationtech.jts.triangulate.polygon.ConstrainedDelaunayTriangulator;

/**
 * The constrained Delaunay triangulation (JTS) of a flat hole in its plane; the plane is Newell's, the one whose normal
 * is the border's area vector. A hole is flat when no corner is farther from the plane than {@value #FLAT} of its size.
 */
final class FlatPatch {

    private static final double FLAT = 1e-3;
    private static final GeometryFactory PLANE = new GeometryFactory();

    private FlatPatch() {
    }

    /**
     * @param islands holes inside it whose inside is solid
     * @return corners of the triangles, three each, wound as the border is; empty when the hole is not flat or crosses
     *         itself
     */
    static Optional<int[]> of(Mesh mesh, Hole hole, List<Hole> islands) {
        Frame frame = new Frame(mesh, hole.vertices());
        if (!frame.isFlat(hole.vertices())) {
            return Optional.empty();
        }
        Map<Coordinate, Integer> names = new HashMap<>();
        Polygon polygon = PLANE.createPolygon(frame.ring(hole.vertices(), names),
                islands.stream().map(island -> frame.ring(island.vertices(), names)).toArray(LinearRing[]::new));
        if (!polygon.isValid()) {
            return Optional.empty();
        }
        Geometry triangles = new ConstrainedDelaunayTriangulator(polygon).getResult();
        int[] corners = new int[3 * triangles.getNumGeometries()];
        for (int t = 0; t < triangles.getNumGeometries(); t++) {
            Coordinate[] c = triangles.getGeometryN(t).getCoordinates();
            boolean left = (c[1].x - c[0].x) * (c[2].y - c[0].y) - (c[1].y - c[0].y) * (c[2].x - c[0].x) > 0;
            corners[3 * t] = name(names, c[0]);
            corners[3 * t + 1] = name(names, c[left ? 1 : 2]);
            corners[3 * t + 2] = name(names, c[left ? 2 : 1]);
        }
        return Optional.of(corners);
    }

    /** Every corner of the triangulation is one of the polygon's. */
    private static int name(Map<Coordinate, Integer> names, Coordinate corner) {
        return Objects.requireNonNull(names.get(corner));
    }

    /** Whether {@code inner} lies in the plane of {@code outer}, inside it, and is wound the other way. */
    static boolean encloses(Mesh mesh, Hole outer, Hole inner) {
        if (!outer.closed() || !inner.closed() || outer.vertices().length < 3 || inner.vertices().length < 3
                || inner.lengthMm() > outer.lengthMm()) {
            return false;
        }
        Frame frame = new Frame(mesh, outer.vertices());
        if (!frame.isFlat(outer.vertices()) || !frame.isFlat(inner.vertices())) {
            return false;
        }
        Frame other = new Frame(mesh, inner.vertices());
        double along = frame.normal[0] * other.normal[0] + frame.normal[1] * other.normal[1]
                + frame.normal[2] * other.normal[2];
        Polygon polygon = PLANE.createPolygon(frame.ring(outer.vertices(), new HashMap<>()));
        return along < 0 && polygon.isValid()
                && polygon.contains(PLANE.createPolygon(frame.ring(inner.vertices(), new HashMap<>())));
    }

    /** A plane with two axes in it. */
    private static final class Frame {

        private final Mesh mesh;
        private final double[] normal = new double[3];
        private final double[] across = new double[3];
        private final double[] along = new double[3];
        private final int origin;
        private final double size;

        Frame(Mesh mesh, int[] border) {
            this.mesh = mesh;
            origin = border[0];
            double farthest = 0;
            for (int i = 0; i < border.length; i++) {
                int a = border[i], b = border[(i + 1) % border.length];
                double[] p = from(a), q = from(b);
                normal[0] += p[1] * q[2] - p[2] * q[1];
                normal[1] += p[2] * q[0] - p[0] * q[2];
                normal[2] += p[0] * q[1] - p[1] * q[0];
                farthest = Math.max(farthest, length(p));
            }
            size = farthest;
            scale(normal, 1 / Math.max(length(normal), Double.MIN_NORMAL));
            int least = Math.abs(normal[0]) < Math.abs(normal[1]) ? 0 : 1;
            least = Math.abs(normal[2]) < Math.abs(normal[least]) ? 2 : least;
            double[] axis = new double[3];
            axis[least] = 1;
            cross(axis, normal, across);
            scale(across, 1 / Math.max(length(across), Double.MIN_NORMAL));
            cross(normal, across, along);
        }

        boolean isFlat(int[] vertices) {
            for (int v : vertices) {
                double[] p = from(v);
                if (Math.abs(p[0] * normal[0] + p[1] * normal[1] + p[2] * normal[2]) > FLAT * size) {
                    return false;
                }
            }
            return length(normal) > 0.5;
        }

        LinearRing ring(int[] vertices, Map<Coordinate, Integer> names) {
            Coordinate[] ring = new Coordinate[vertices.length + 1];
            for (int i = 0; i < vertices.length; i++) {
                double[] p = from(vertices[i]);
                ring[i] = new Coordinate(p[0] * across[0] + p[1] * across[1] + p[2] * across[2],
                        p[0] * along[0] + p[1] * along[1] + p[2] * along[2]);
                names.put(ring[i], vertices[i]);
            }
            ring[vertices.length] = ring[0].copy();
            return PLANE.createLinearRing(ring);
        }

        private double[] from(int v) {
            return new double[] {mesh.x(v) - mesh.x(origin), mesh.y(v) - mesh.y(origin), mesh.z(v) - mesh.z(origin)};
        }

        private static double length(double[] v) {
            return Math.sqrt(v[0] * v[0] + v[1] * v[1] + v[2] * v[2]);
        }

        private static void scale(double[] v, double factor) {
            for (int i = 0; i < 3; i++) {
                v[i] *= factor;
            }
        }

        private static void cross(double[] a, double[] b, double[] into) {
            into[0] = a[1] * b[2] - a[2] * b[1];
            into[1] = a[2] * b[0] - a[0] * b[2];
            into[2] = a[0] * b[1] - a[1] * b[0];
        }
    }
}
