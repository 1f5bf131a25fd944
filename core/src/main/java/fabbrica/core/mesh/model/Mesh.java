package fabbrica.core.mesh.model;

/**
 * A triangle mesh in flat arrays: vertex {@code v} lies at {@code xyz[3v..3v+2]} (millimetres once a unit has been
 * applied), triangle {@code t} joins the vertices {@code corners[3t..3t+2]}, counter-clockwise seen from outside.
 *
 * <p>The arrays are handed over, not copied, because models of millions of triangles pass through here; whoever holds
 * them must not write to them.
 */
public final class Mesh {

    private final double[] xyz;
    private final int[] corners;

    public Mesh(double[] xyz, int[] corners) {
        if (xyz.length % 3 != 0 || corners.length % 3 != 0) {
            throw new IllegalArgumentException("coordinates and corners come in threes");
        }
        this.xyz = xyz;
        this.corners = corners;
    }

    public int vertexCount() {
        return xyz.length / 3;
    }

    public int triangleCount() {
        return corners.length / 3;
    }

    public double x(int vertex) {
        return xyz[3 * vertex];
    }

    public double y(int vertex) {
        return xyz[3 * vertex + 1];
    }

    public double z(int vertex) {
        return xyz[3 * vertex + 2];
    }

    /** The x, y or z of a vertex, by axis 0, 1 or 2. */
    public double coordinate(int vertex, int axis) {
        return xyz[3 * vertex + axis];
    }

    /** The vertex at {@code corner} (0, 1 or 2) of {@code triangle}. */
    public int corner(int triangle, int corner) {
        return corners[3 * triangle + corner];
    }

    /** The box around all vertices; all zero for a mesh without any. */
    public Bounds bounds() {
        if (xyz.length == 0) {
            return new Bounds(0, 0, 0, 0, 0, 0);
        }
        double minX = xyz[0], minY = xyz[1], minZ = xyz[2];
        double maxX = minX, maxY = minY, maxZ = minZ;
        for (int i = 3; i < xyz.length; i += 3) {
            double x = xyz[i], y = xyz[i + 1], z = xyz[i + 2];
            minX = x < minX ? x : minX;
            maxX = x > maxX ? x : maxX;
            minY = y < minY ? y : minY;
            maxY = y > maxY ? y : maxY;
            minZ = z < minZ ? z : minZ;
            maxZ = z > maxZ ? z : maxZ;
        }
        return new Bounds(minX, minY, minZ, maxX, maxY, maxZ);
    }

    /** The same mesh with every coordinate multiplied by {@code factor} (&gt; 0). */
    public Mesh scaled(double factor) {
        if (!(factor > 0)) {
            throw new IllegalArgumentException("scale must be above zero");
        }
        if (factor == 1) {
            return this;
        }
        double[] scaled = new double[xyz.length];
        for (int i = 0; i < xyz.length; i++) {
            scaled[i] = xyz[i] * factor;
        }
        return new Mesh(scaled, corners);
    }

    /** The same mesh turned counter-clockwise about the vertical, seen from above. */
    public Mesh turned(double degrees) {
        if (degrees == 0) {
            return this;
        }
        double cos = Math.cos(Math.toRadians(degrees));
        double sin = Math.sin(Math.toRadians(degrees));
        double[] turned = xyz.clone();
        for (int i = 0; i < xyz.length; i += 3) {
            turned[i] = cos * xyz[i] - sin * xyz[i + 1];
            turned[i + 1] = sin * xyz[i] + cos * xyz[i + 1];
        }
        return new Mesh(turned, corners);
    }

    /** The same mesh turned about the origin. */
    public Mesh turned(Rotation rotation) {
        if (rotation.equals(Rotation.NONE)) {
            return this;
        }
        double[] m = rotation.matrix();
        double[] turned = new double[xyz.length];
        for (int i = 0; i < xyz.length; i += 3) {
            double x = xyz[i], y = xyz[i + 1], z = xyz[i + 2];
            turned[i] = m[0] * x + m[1] * y + m[2] * z;
            turned[i + 1] = m[3] * x + m[4] * y + m[5] * z;
            turned[i + 2] = m[6] * x + m[7] * y + m[8] * z;
        }
        return new Mesh(turned, corners);
    }

    /** The same mesh moved by the given distances. */
    public Mesh moved(double dx, double dy, double dz) {
        double[] moved = new double[xyz.length];
        for (int i = 0; i < xyz.length; i += 3) {
            moved[i] = xyz[i] + dx;
            moved[i + 1] = xyz[i + 1] + dy;
            moved[i + 2] = xyz[i + 2] + dz;
        }
        return new Mesh(moved, corners);
    }

    /** Twice the signed area vector of a triangle, written to {@code into[0..2]}. */
    public void normal(int triangle, double[] into) {
        int a = 3 * corners[3 * triangle], b = 3 * corners[3 * triangle + 1], c = 3 * corners[3 * triangle + 2];
        double ux = xyz[b] - xyz[a], uy = xyz[b + 1] - xyz[a + 1], uz = xyz[b + 2] - xyz[a + 2];
        double vx = xyz[c] - xyz[a], vy = xyz[c + 1] - xyz[a + 1], vz = xyz[c + 2] - xyz[a + 2];
        into[0] = uy * vz - uz * vy;
        into[1] = uz * vx - ux * vz;
        into[2] = ux * vy - uy * vx;
    }

    public double area(int triangle) {
        double[] normal = new double[3];
        normal(triangle, normal);
        return Math.sqrt(normal[0] * normal[0] + normal[1] * normal[1] + normal[2] * normal[2]) / 2;
    }

    /** Signed volume of the tetrahedron between a vertex and a triangle: over a closed body they sum to its volume. */
    public double volumeFrom(int vertex, int triangle) {
        double[] normal = new double[3];
        normal(triangle, normal);
        int a = corners[3 * triangle];
        return ((x(a) - x(vertex)) * normal[0] + (y(a) - y(vertex)) * normal[1] + (z(a) - z(vertex)) * normal[2]) / 6;
    }
}
