package fabbrica.core.inspect;

import fabbrica.core.mesh.model.HalfEdges;
import fabbrica.core.mesh.model.Mesh;
import fabbrica.core.mesh.model.TriangleTree;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.Comparator;
import java.util.List;
import java.util.stream.IntStream;

/**
 * How thick the walls of a part are, and how wide its gaps.
 *
 * <p>From points all over the surface a ray goes straight in (for walls) or straight out (for gaps) to the next
 * surface. The length counts where that surface faces back to within {@value #OPPOSED_DEG}°: then the two are the sides
 * of a wall or a gap, and the ray is its thickness there; a corner, whose sides meet at a wider angle, has none. In a
 * wedge the ray from one side differs from the shortest way to the other by less than 1/cos of the wedge's angle. A
 * ball rolled inside, the other usual measure, is zero at every sharp edge, and would call every box thin.
 *
 * <p>Points lie at equal shares of the area, at most about {@value #MOST_POINTS}; coarse meshes get points next to every
 * corner besides, since thickness is extreme at the ends of flat faces. The thinnest places are then followed from
 * triangle to triangle until no neighbour is thinner. Cost: a ray, log n, a point.
 *
 * @param thinnestWallMm infinite when no two sides face each other
 * @param narrowestGapMm infinite when there is no gap
 * @param wallAreas      area in mm² by wall thickness, in steps of {@link #stepMm}; the last step holds all thicker ones
 * @param gapAreas       the same by gap width
 * @param thinPlaces     the thinnest places apart from one another, thinnest first
 * @param gapPlaces      the same for gaps
 */
public record Thickness(double thinnestWallMm, double narrowestGapMm, double stepMm, double[] wallAreas,
                        double[] gapAreas, List<ThinPlace> thinPlaces, List<ThinPlace> gapPlaces) {

    static final int MOST_POINTS = 20_000;
    static final double OPPOSED_DEG = 30;

    private static final double OPPOSED = Math.cos(Math.toRadians(OPPOSED_DEG));
    private static final int STEPS = 200;
    private static final double STEP_MM = 0.05;
    private static final int MOST_PLACES = 12;

    /**
     * One thin place and how far it reaches.
     *
     * @param mm       thickness or width at its thinnest
     * @param lengthMm the longest side of the box around all connected points at most a quarter thicker
     * @param widthMm  the middle side of that box
     */
    public record ThinPlace(double x, double y, double z, double mm, double lengthMm, double widthMm) {
    }

    static Thickness of(Mesh mesh, HalfEdges edges, TriangleTree tree) {
        Sampling walls = new Sampling(mesh, edges, tree, true);
        Sampling gaps = new Sampling(mesh, edges, tree, false);
        // All rays in one stream: in two, whoever had done with the gaps would only watch the walls being measured.
        IntStream.range(0, walls.chunks() + gaps.chunks()).parallel().forEach(i -> {
            if (i < walls.chunks()) {
                walls.measure(i);
            } else {
                gaps.measure(i - walls.chunks());
            }
        });
        List<List<ThinPlace>> places = List.of(walls, gaps).parallelStream().map(Sampling::places).toList();
        return new Thickness(thinnest(places.get(0)), thinnest(places.get(1)), STEP_MM, walls.areas, gaps.areas,
                places.get(0), places.get(1));
    }

    /** Area in mm² of walls thinner than {@code mm}, to within a step. */
    public double wallAreaThinnerThan(double mm) {
        return areaBelow(wallAreas, mm);
    }

    public double gapAreaNarrowerThan(double mm) {
        return areaBelow(gapAreas, mm);
    }

    private double areaBelow(double[] areas, double mm) {
        double steps = Math.min(STEPS - 1, mm / stepMm);
        double area = IntStream.range(0, (int) steps).mapToDouble(i -> areas[i]).sum();
        return area + (steps - (int) steps) * areas[(int) steps];
    }

    private static double thinnest(List<ThinPlace> places) {
        return places.isEmpty() ? Double.POSITIVE_INFINITY : places.getFirst().mm();
    }

    /** Points on the surface with the length of the ray from each; infinite where it does not count. */
    private static final class Sampling {

        private static final double NEAR_CORNER = 0.001;
        private static final int CHUNK = 512;

        private final Mesh mesh;
        private final HalfEdges edges;
        private final TriangleTree tree;
        private final boolean inwards;
        private final double spacing;
        private final double start;
        private final double[] areas = new double[STEPS];
        private int[] triangles = new int[1024];
        private double[] points = new double[3 * 1024];
        private double[] weights = new double[1024];
        private final double[] lengths;
        private int count;

        Sampling(Mesh mesh, HalfEdges edges, TriangleTree tree, boolean inwards) {
            this.mesh = mesh;
            this.edges = edges;
            this.tree = tree;
            this.inwards = inwards;
            double[] sizes = IntStream.range(0, mesh.triangleCount()).mapToDouble(mesh::area).toArray();
            double total = Arrays.stream(sizes).sum();
            spacing = Math.sqrt(Math.max(total, Double.MIN_NORMAL) / MOST_POINTS);
            start = 1e-7 * mesh.bounds().largestSide();
            scatter(sizes);
            lengths = new double[count];
        }

        private void scatter(double[] sizes) {
            boolean coarse = mesh.triangleCount() <= MOST_POINTS / 2;
            double due = 0.5;
            long scattered = 0;
            for (int t = 0; t < sizes.length; t++) {
                if (coarse && sizes[t] > 0) {
                    for (int corner = 0; corner < 3; corner++) {
                        add(t, corner == 0 ? 1 - 2 * NEAR_CORNER : NEAR_CORNER, corner == 1 ? 1 - 2 * NEAR_CORNER
                                : NEAR_CORNER, 0);
                    }
                }
                due += sizes[t] / (spacing * spacing);
                int here = (int) due;
                due -= here;
                for (int i = 0; i < here; i++) {
                    // The R2 sequence (Roberts 2018, a generalised golden ratio), folded into the triangle; it goes on
                    // from triangle to triangle, so that points of narrow neighbours do not lie side by side.
                    double u = 0.7548776662466927 * ++scattered % 1, v = 0.5698402909980532 * scattered % 1;
                    add(t, u + v > 1 ? 1 - u : u, u + v > 1 ? 1 - v : v, spacing * spacing);
                }
            }
        }

        private void add(int t, double u, double v, double weight) {
            if (count == triangles.length) {
                triangles = Arrays.copyOf(triangles, 2 * count);
                points = Arrays.copyOf(points, 6 * count);
                weights = Arrays.copyOf(weights, 2 * count);
            }
            triangles[count] = t;
            weights[count] = weight;
            put(t, u, v, points, 3 * count++);
        }

        private void put(int t, double u, double v, double[] into, int at) {
            int a = mesh.corner(t, 0), b = mesh.corner(t, 1), c = mesh.corner(t, 2);
            double w = 1 - u - v;
            into[at] = u * mesh.x(a) + v * mesh.x(b) + w * mesh.x(c);
            into[at + 1] = u * mesh.y(a) + v * mesh.y(b) + w * mesh.y(c);
            into[at + 2] = u * mesh.z(a) + v * mesh.z(b) + w * mesh.z(c);
        }

        int chunks() {
            return (count + CHUNK - 1) / CHUNK;
        }

        /** The lengths of the rays from the points of one chunk. */
        void measure(int chunk) {
            TriangleTree.Ray ray = tree.ray();
            for (int s = chunk * CHUNK; s < Math.min(count, (chunk + 1) * CHUNK); s++) {
                lengths[s] = length(ray, triangles[s], points[3 * s], points[3 * s + 1], points[3 * s + 2]);
            }
        }

        /** Once all chunks are measured. */
        List<ThinPlace> places() {
            for (int s = 0; s < count; s++) {
                if (lengths[s] < Double.POSITIVE_INFINITY) {
                    areas[(int) Math.min(STEPS - 1, lengths[s] / STEP_MM)] += weights[s];
                }
            }
            return new Grouping(this).places();
        }

        /** Length of the ray from a point of triangle {@code t} to an opposed surface; infinite when there is none. */
        double length(TriangleTree.Ray ray, int t, double x, double y, double z) {
            double[] normal = new double[3];
            mesh.normal(t, normal);
            double size = Math.sqrt(normal[0] * normal[0] + normal[1] * normal[1] + normal[2] * normal[2]);
            if (size == 0) {
                return Double.POSITIVE_INFINITY;
            }
            double sign = inwards ? -1 / size : 1 / size;
            double[] direction = {sign * normal[0], sign * normal[1], sign * normal[2]};
            if (!ray.cast(new double[] {x, y, z}, direction, start, Double.POSITIVE_INFINITY)) {
                return Double.POSITIVE_INFINITY;
            }
            double[] other = new double[3];
            mesh.normal(ray.triangle(), other);
            double along = (direction[0] * other[0] + direction[1] * other[1] + direction[2] * other[2])
                    / Math.sqrt(other[0] * other[0] + other[1] * other[1] + other[2] * other[2]);
            return (inwards ? along : -along) >= OPPOSED ? ray.distance() : Double.POSITIVE_INFINITY;
        }

        /** Follows the surface from a point to where no neighbouring triangle is thinner. */
        ThinPlace descend(int sample, double lengthMm, double widthMm) {
            TriangleTree.Ray ray = tree.ray();
            double best = lengths[sample];
            int triangle = triangles[sample];
            double[] at = {points[3 * sample], points[3 * sample + 1], points[3 * sample + 2]};
            double[] tried = new double[3];
            for (boolean moved = true; moved;) {
                moved = false;
                int around = triangle;
                for (int i = 0; i < 4; i++) {
                    int twin = i == 3 ? 0 : edges.twin(3 * around + i);
                    int neighbour = i == 3 ? around : twin / 3;
                    for (int spot = 0; twin >= 0 && spot < 4; spot++) {
                        put(neighbour, spot == 0 ? 1 - 2 * NEAR_CORNER : spot == 3 ? 1 / 3.0 : NEAR_CORNER,
                                spot == 1 ? 1 - 2 * NEAR_CORNER : spot == 3 ? 1 / 3.0 : NEAR_CORNER, tried, 0);
                        double length = length(ray, neighbour, tried[0], tried[1], tried[2]);
                        if (length < best * (1 - 1e-6)) {
                            best = length;
                            triangle = neighbour;
                            at = tried.clone();
                            moved = true;
                        }
                    }
                }
            }
            return new ThinPlace(at[0], at[1], at[2], best, lengthMm, widthMm);
        }
    }

    /** Gathers neighbouring points of like thickness into places, thinnest first, by a hash grid over the points. */
    private static final class Grouping {

        private static final double LIKE = 1.25;
        private static final double SURELY_LIKE_MM = 0.05;
        private static final double REACH = 2.5;

        private final Sampling samples;
        private final int[] next;
        private final int[] heads;
        private final boolean[] taken;
        private final double cell;

        Grouping(Sampling samples) {
            this.samples = samples;
            cell = Math.max(REACH * samples.spacing, 1e-9);
            next = new int[samples.count];
            taken = new boolean[samples.count];
            heads = new int[Integer.highestOneBit(Math.max(16, samples.count)) * 2];
            Arrays.fill(heads, -1);
            for (int s = 0; s < samples.count; s++) {
                if (samples.lengths[s] < Double.POSITIVE_INFINITY) {
                    int slot = slot(cellOf(s, 0), cellOf(s, 1), cellOf(s, 2));
                    next[s] = heads[slot];
                    heads[slot] = s;
                }
            }
        }

        List<ThinPlace> places() {
            List<ThinPlace> places = new ArrayList<>();
            for (int s = thinnestLeft(); s >= 0 && places.size() < MOST_PLACES; s = thinnestLeft()) {
                if (samples.lengths[s] > STEPS * STEP_MM && !places.isEmpty()) {
                    break;
                }
                double[] sides = sidesAround(s);
                places.add(samples.descend(s, sides[2], sides[1]));
            }
            places.sort(Comparator.comparingDouble(ThinPlace::mm));
            return List.copyOf(places);
        }

        /** −1 when none is left that counts. */
        private int thinnestLeft() {
            int thinnest = -1;
            double least = Double.POSITIVE_INFINITY;
            for (int s = 0; s < samples.count; s++) {
                if (samples.lengths[s] < least && !taken[s]) {
                    thinnest = s;
                    least = samples.lengths[s];
                }
            }
            return thinnest;
        }

        /** Takes all points connected to {@code seed} that are hardly thicker; the sides of their box, smallest first. */
        private double[] sidesAround(int seed) {
            double limit = Math.max(LIKE * samples.lengths[seed], samples.lengths[seed] + SURELY_LIKE_MM);
            double[] box = {Double.POSITIVE_INFINITY, Double.POSITIVE_INFINITY, Double.POSITIVE_INFINITY,
                Double.NEGATIVE_INFINITY, Double.NEGATIVE_INFINITY, Double.NEGATIVE_INFINITY};
            int[] waiting = new int[samples.count];
            int size = 0;
            waiting[size++] = seed;
            taken[seed] = true;
            while (size > 0) {
                int s = waiting[--size];
                for (int axis = 0; axis < 3; axis++) {
                    box[axis] = Math.min(box[axis], samples.points[3 * s + axis]);
                    box[3 + axis] = Math.max(box[3 + axis], samples.points[3 * s + axis]);
                }
                for (int n = 0; n < 27; n++) {
                    int slot = slot(cellOf(s, 0) + n % 3 - 1, cellOf(s, 1) + n / 3 % 3 - 1, cellOf(s, 2) + n / 9 - 1);
                    for (int other = heads[slot], before = -1; other >= 0; other = next[other]) {
                        if (!taken[other] && samples.lengths[other] <= limit && isNear(s, other)) {
                            taken[other] = true;
                            waiting[size++] = other;
                        }
                        // What is taken need not be come upon again.
                        if (!taken[other]) {
                            before = other;
                        } else if (before < 0) {
                            heads[slot] = next[other];
                        } else {
                            next[before] = next[other];
                        }
                    }
                }
            }
            double[] sides = {box[3] - box[0], box[4] - box[1], box[5] - box[2]};
            Arrays.sort(sides);
            return sides;
        }

        private boolean isNear(int a, int b) {
            double dx = samples.points[3 * a] - samples.points[3 * b];
            double dy = samples.points[3 * a + 1] - samples.points[3 * b + 1];
            double dz = samples.points[3 * a + 2] - samples.points[3 * b + 2];
            return dx * dx + dy * dy + dz * dz <= cell * cell;
        }

        private long cellOf(int s, int axis) {
            return (long) Math.floor(samples.points[3 * s + axis] / cell);
        }

        private int slot(long x, long y, long z) {
            long bits = (x * 0x9E3779B97F4A7C15L + y) * 0xC2B2AE3D27D4EB4FL + z;
            bits *= 0x165667B19E3779F9L;
            return (int) (bits >>> 40) & (heads.length - 1);
        }
    }
}
