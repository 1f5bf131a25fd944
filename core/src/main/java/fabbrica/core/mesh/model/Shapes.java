package fabbrica.core.mesh.model;

import java.util.ArrayList;
import java.util.List;
import org.locationtech.jts.geom.Coordinate;
import org.locationtech.jts.geom.Geometry;
import org.locationtech.jts.geom.GeometryFactory;
import org.locationtech.jts.geom.LinearRing;
import org.locationtech.jts.geom.Polygon;
import org.locationtech.jts.triangulate.polygon.ConstrainedDelaunayTriangulator;

/** Parametric solids with known volume and area: drawings for tests, benchmarks and the demo. Millimetres. */
public final class Shapes {

    private static final GeometryFactory PLANE = new GeometryFactory();

    private Shapes() {
    }

    /** A box with one corner at the origin: 12 triangles. */
    public static Mesh box(double x, double y, double z) {
        return extrusion(rectangle(0, 0, x, y), z);
    }

    /** A prism over a polygon, holes included. */
    public static Mesh extrusion(Polygon outline, double height) {
        Polygon polygon = (Polygon) outline.norm();
        MeshBuilder builder = new MeshBuilder(64);
        Geometry caps = new ConstrainedDelaunayTriangulator(polygon).getResult();
        for (int i = 0; i < caps.getNumGeometries(); i++) {
            Coordinate[] c = caps.getGeometryN(i).getCoordinates();
            boolean left = cross(c[0], c[1], c[2]) > 0;
            Coordinate second = left ? c[1] : c[2];
            Coordinate third = left ? c[2] : c[1];
            builder.triangle(builder.vertex(c[0].x, c[0].y, height), builder.vertex(second.x, second.y, height),
                    builder.vertex(third.x, third.y, height));
            builder.triangle(builder.vertex(c[0].x, c[0].y, 0), builder.vertex(third.x, third.y, 0),
                    builder.vertex(second.x, second.y, 0));
        }
        addSides(builder, polygon.getExteriorRing(), height);
        for (int hole = 0; hole < polygon.getNumInteriorRing(); hole++) {
            addSides(builder, polygon.getInteriorRingN(hole), height);
        }
        return builder.build();
    }

    /**
     * A solid of revolution about the z axis.
     *
     * @param radiusAndHeight the profile as r, z pairs from bottom to top with the solid on its left hand; a radius of
     *                        zero is a pole, and a profile that neither starts nor ends at a pole is closed
     * @param sides           how many flat sides approximate the round
     */
    public static Mesh revolution(double[] radiusAndHeight, int sides) {
        int points = radiusAndHeight.length / 2;
        boolean closed = radiusAndHeight[0] != 0 || radiusAndHeight[2 * points - 2] != 0;
        MeshBuilder builder = new MeshBuilder(2 * sides * points);
        for (int p = 0; p < (closed ? points : points - 1); p++) {
            int q = (p + 1) % points;
            for (int side = 0; side < sides; side++) {
                int a = onCircle(builder, radiusAndHeight, p, side, sides);
                int b = onCircle(builder, radiusAndHeight, p, side + 1, sides);
                int c = onCircle(builder, radiusAndHeight, q, side + 1, sides);
                int d = onCircle(builder, radiusAndHeight, q, side, sides);
                if (a != b) {
                    builder.triangle(a, b, c);
                }
                if (c != d) {
                    builder.triangle(a, c, d);
                }
            }
        }
        return builder.build();
    }

    /** A cylinder standing on the origin, its sides inscribed in the circle. */
    public static Mesh cylinder(double radius, double height, int sides) {
        return revolution(new double[] {0, 0, radius, 0, radius, height, 0, height}, sides);
    }

    /** A cone standing on the origin; {@code topRadius} zero gives a tip. */
    public static Mesh cone(double bottomRadius, double topRadius, double height, int sides) {
        return topRadius == 0
                ? revolution(new double[] {0, 0, bottomRadius, 0, 0, height}, sides)
                : revolution(new double[] {0, 0, bottomRadius, 0, topRadius, height, 0, height}, sides);
    }

    /** A sphere about the origin with {@code 2·sides·(stacks−1)} triangles. */
    public static Mesh sphere(double radius, int sides, int stacks) {
        double[] profile = new double[2 * (stacks + 1)];
        for (int i = 0; i <= stacks; i++) {
            double angle = Math.PI * i / stacks;
            profile[2 * i] = i == 0 || i == stacks ? 0 : radius * Math.sin(angle);
            profile[2 * i + 1] = -radius * Math.cos(angle);
        }
        return revolution(profile, sides);
    }

    /** All bodies in one mesh; vertices that coincide are welded. */
    public static Mesh together(Mesh... meshes) {
        MeshBuilder builder = new MeshBuilder(64);
        for (Mesh mesh : meshes) {
            for (int t = 0; t < mesh.triangleCount(); t++) {
                builder.triangle(copied(builder, mesh, mesh.corner(t, 0)), copied(builder, mesh, mesh.corner(t, 1)),
                        copied(builder, mesh, mesh.corner(t, 2)));
            }
        }
        return builder.build();
    }

    /** The mesh without some of its triangles: how holes come about. */
    public static Mesh without(Mesh mesh, int... triangles) {
        List<Integer> dropped = java.util.Arrays.stream(triangles).boxed().toList();
        MeshBuilder builder = new MeshBuilder(mesh.triangleCount());
        for (int t = 0; t < mesh.triangleCount(); t++) {
            if (!dropped.contains(t)) {
                builder.triangle(copied(builder, mesh, mesh.corner(t, 0)), copied(builder, mesh, mesh.corner(t, 1)),
                        copied(builder, mesh, mesh.corner(t, 2)));
            }
        }
        return builder.build();
    }

    public static Polygon rectangle(double x0, double y0, double x1, double y1) {
        return polygon(x0, y0, x1, y0, x1, y1, x0, y1);
    }

    public static Polygon disc(double x, double y, double radius, int sides) {
        double[] points = new double[2 * sides];
        for (int i = 0; i < sides; i++) {
            points[2 * i] = x + radius * Math.cos(2 * Math.PI * i / sides);
            points[2 * i + 1] = y + radius * Math.sin(2 * Math.PI * i / sides);
        }
        return polygon(points);
    }

    /** A polygon from x, y pairs; the last point is joined to the first. */
    public static Polygon polygon(double... points) {
        List<Coordinate> ring = new ArrayList<>();
        for (int i = 0; i < points.length; i += 2) {
            ring.add(new Coordinate(points[i], points[i + 1]));
        }
        ring.add(ring.getFirst().copy());
        LinearRing shell = PLANE.createLinearRing(ring.toArray(Coordinate[]::new));
        return PLANE.createPolygon(shell);
    }

    private static void addSides(MeshBuilder builder, LinearRing ring, double height) {
        Coordinate[] c = ring.getCoordinates();
        for (int i = 0; i + 1 < c.length; i++) {
            // A normalised polygon runs clockwise around its shell, so the solid lies on the right.
            int a = builder.vertex(c[i + 1].x, c[i + 1].y, 0);
            int b = builder.vertex(c[i].x, c[i].y, 0);
            int d = builder.vertex(c[i + 1].x, c[i + 1].y, height);
            int e = builder.vertex(c[i].x, c[i].y, height);
            builder.triangle(a, b, e);
            builder.triangle(a, e, d);
        }
    }

    private static int onCircle(MeshBuilder builder, double[] profile, int point, int side, int sides) {
        double radius = profile[2 * point];
        double angle = 2 * Math.PI * (side % sides) / sides;
        return builder.vertex(radius * Math.cos(angle), radius * Math.sin(angle), profile[2 * point + 1]);
    }

    private static int copied(MeshBuilder builder, Mesh mesh, int vertex) {
        return builder.vertex(mesh.x(vertex), mesh.y(vertex), mesh.z(vertex));
    }

    private static double cross(Coordinate a, Coordinate b, Coordinate c) {
        return (b.x - a.x) * (c.y - a.y) - (b.y - a.y) * (c.x - a.x);
    }
}
