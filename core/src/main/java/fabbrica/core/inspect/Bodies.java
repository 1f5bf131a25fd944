package fabbrica.core.inspect;

import fabbrica.core.mesh.model.Bounds;
import fabbrica.core.mesh.model.BoxTree;
import fabbrica.core.mesh.model.HalfEdges;
import fabbrica.core.mesh.model.Mesh;
import fabbrica.core.mesh.model.TriangleTree;
import java.util.Arrays;
import java.util.List;
import java.util.stream.IntStream;

/**
 * What each body of a mesh is. A closed body's signed volume tells how it is wound; how often the other bodies wind
 * around one of its points tells what it lies in. Linear in the triangles, plus a few
 * rays for each body with others around it.
 */
public final class Bodies {

    /** A body this close above another, or above the bed, is carried by it. */
    private static final double TOUCHING_MM = 0.05;
    /** About a second of rays. Beyond, in heaps of ten thousands of bodies one inside another, none is called surrounded or floating. */
    private static final long MOST_VISITS = 50_000_000;

    private final Mesh mesh;
    private final HalfEdges edges;
    private final TriangleTree.Ray ray;
    private final int count;
    private final int[] triangles;
    private final int[] origins;
    private final int[] lowest;
    private final int[] highest;
    private final double[] volumes;
    private final double[] areas;
    private final double[][] boxes;
    private final boolean[] open;
    private final boolean[] crossing;
    private double bed;
    @SuppressWarnings("NullAway.Init")
    private BoxTree around;
    @SuppressWarnings("NullAway.Init")
    private BoxTree tops;

    private Bodies(Mesh mesh, HalfEdges edges, TriangleTree tree) {
        this.mesh = mesh;
        this.edges = edges;
        ray = tree.ray();
        count = edges.bodies();
        triangles = new int[count];
        origins = new int[count];
        lowest = new int[count];
        highest = new int[count];
        volumes = new double[count];
        areas = new double[count];
        boxes = new double[count][];
        open = new boolean[count];
        crossing = new boolean[count];
    }

    /** What a body is for the print. */
    public enum Kind {
        /** Closed and wound the right way, in free space or overlapping others. */
        SOLID,
        /** A hollow sealed inside a solid. */
        VOID,
        /** Closed and wound inside out where nothing surrounds it. */
        INSIDE_OUT,
        /** Wholly inside another solid: it adds nothing. */
        SWALLOWED,
        /** Not closed. */
        OPEN
    }

    /**
     * @param signedVolumeMm3 negative when wound inside out; means little unless closed
     * @param floating        a solid that neither stands on the bed nor touches another body
     * @param lowest          its lowest point
     */
    public record Body(Kind kind, int triangles, double signedVolumeMm3, double areaMm2, Bounds bounds,
                       boolean floating, Place lowest) {
    }

    /** @return the bodies in the order of their first triangles */
    static List<Body> of(Mesh mesh, HalfEdges edges, TriangleTree tree, List<Intersections.Pair> intersections) {
        Bodies bodies = new Bodies(mesh, edges, tree);
        bodies.addTriangles();
        for (Intersections.Pair pair : intersections) {
            int a = edges.body(pair.first()), b = edges.body(pair.second());
            bodies.crossing[a] |= a != b;
            bodies.crossing[b] |= a != b;
        }
        bodies.sort();
        return IntStream.range(0, bodies.count).mapToObj(bodies::body).toList();
    }

    private void sort() {
        bed = Arrays.stream(boxes).mapToDouble(box -> box[2]).min().orElse(0);
        around = new BoxTree(boxes);
        tops = new BoxTree(Arrays.stream(highest).mapToObj(v -> new double[] {mesh.x(v), mesh.y(v), mesh.z(v), mesh.x(v), mesh.y(v),
                mesh.z(v)}).toArray(double[][]::new));
    }

    private void addTriangles() {
        double[] normal = new double[3];
        for (int t = 0; t < mesh.triangleCount(); t++) {
            int body = edges.body(t);
            if (body >= 0) {
                int first = mesh.corner(t, 0);
                if (triangles[body]++ == 0) {
                    origins[body] = first;
                    lowest[body] = first;
                    highest[body] = first;
                    boxes[body] = new double[6];
                    Arrays.fill(boxes[body], 0, 3, Double.POSITIVE_INFINITY);
                    Arrays.fill(boxes[body], 3, 6, Double.NEGATIVE_INFINITY);
                }
                // Tetrahedra about a corner of the body itself, which keeps the rounding small.
                mesh.normal(t, normal);
                areas[body] += Math.sqrt(normal[0] * normal[0] + normal[1] * normal[1] + normal[2] * normal[2]) / 2;
                volumes[body] += ((mesh.x(first) - mesh.x(origins[body])) * normal[0] + (mesh.y(first) - mesh.y(origins[body])) * normal[1]
                        + (mesh.z(first) - mesh.z(origins[body])) * normal[2]) / 6;
                for (int corner = 0; corner < 3; corner++) {
                    open[body] |= edges.twin(3 * t + corner) == HalfEdges.OPEN;
                    if (count > 1) {
                        addCorner(mesh.corner(t, corner), body);
                    }
                }
            }
        }
        for (int v = 0; count == 1 && v < mesh.vertexCount(); v++) {
            addCorner(v, 0);
        }
    }

    private void addCorner(int v, int body) {
        double[] box = boxes[body];
        box[0] = Math.min(box[0], mesh.x(v));
        box[1] = Math.min(box[1], mesh.y(v));
        box[2] = Math.min(box[2], mesh.z(v));
        box[3] = Math.max(box[3], mesh.x(v));
        box[4] = Math.max(box[4], mesh.y(v));
        box[5] = Math.max(box[5], mesh.z(v));
        lowest[body] = mesh.z(v) < mesh.z(lowest[body]) ? v : lowest[body];
        highest[body] = mesh.z(v) > mesh.z(highest[body]) ? v : highest[body];
    }

    private Body body(int body) {
        int foot = lowest[body];
        boolean surrounded = othersAround(body, 0) > 0;
        Kind kind = kind(body, surrounded);
        boolean floating = count > 1 && kind == Kind.SOLID && !surrounded && !crossing[body] && ray.visits() < MOST_VISITS && !isCarried(body);
        double[] b = boxes[body];
        return new Body(kind, triangles[body], volumes[body], areas[body],
                new Bounds(b[0], b[1], b[2], b[3], b[4], b[5]), floating,
                new Place(mesh.x(foot), mesh.y(foot), mesh.z(foot), ""));
    }

    private Kind kind(int body, boolean surrounded) {
        if (open[body]) {
            return Kind.OPEN;
        }
        if (volumes[body] < 0) {
            return surrounded ? Kind.VOID : Kind.INSIDE_OUT;
        }
        return surrounded && !crossing[body] ? Kind.SWALLOWED : Kind.SOLID;
    }

    /** Stands on the bed, or just above another body's surface, or has another's highest point just below its own. */
    private boolean isCarried(int body) {
        if (boxes[body][2] <= bed + TOUCHING_MM || othersAround(body, -TOUCHING_MM) > 0) {
            return true;
        }
        double[] box = boxes[body].clone();
        box[2] -= TOUCHING_MM;
        return tops.any(box, other -> other != body && (ray.visits() > MOST_VISITS
                || ray.windingAt(mesh.x(highest[other]), mesh.y(highest[other]), mesh.z(highest[other]) + TOUCHING_MM,
                        t -> edges.body(t) == body) > 0));
    }

    /** How many other bodies wind around the lowest point of a body, moved up by so much. */
    private int othersAround(int body, double above) {
        int v = lowest[body];
        double x = mesh.x(v), y = mesh.y(v), z = mesh.z(v) + above;
        return count > 1 && ray.visits() < MOST_VISITS && around.any(new double[] {x, y, z, x, y, z}, other -> other != body)
                ? ray.windingAt(x, y, z, t -> edges.body(t) != body) : 0;
    }
}
