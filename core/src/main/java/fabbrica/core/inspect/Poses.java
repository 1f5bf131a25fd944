package fabbrica.core.inspect;

import fabbrica.core.mesh.model.Bounds;
import fabbrica.core.mesh.model.Mesh;
import fabbrica.core.mesh.model.Rotation;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.Collection;
import java.util.Comparator;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.stream.IntStream;

/**
 * Ways a part may lie on the bed, scored, best first.
 *
 * <p>Candidates are the faces of the part's convex hull, on which it may come to rest, its large flat faces, and the pose
 * it has. Each is measured on the mesh itself when that has at most
 * {@value #FINE_TRIANGLES} triangles, else on a {@link Coarser} copy; overhang, contact and height of the best ones are
 * then taken from the mesh itself.
 *
 * <p>The cost of a pose is a sum of parts of one, with weights that are a judgement of ours (common practice, no
 * source: reorient before supporting; big flat contact; no tall thin tower; supports are sparse): support volume over
 * part volume × {@value #SUPPORT}, hanging area over surface × {@value #SCAR}, shallow upper slopes over surface (visible steps) ×
 * {@value #STEPS}, height over the largest side × {@value #HEIGHT}, and {@value #UNSTABLE} for a pose that tips over.
 * Contact counts as its share of the outline's box × {@value #CONTACT}, taken off.
 */
public final class Poses {

    private static final int FINE_TRIANGLES = 30_000;
    private static final int COARSE_CELLS = 64;
    private static final int DIRECTIONS = 240;
    private static final int MOST_CANDIDATES = 24;
    private static final int MOST_POSES = 5;
    private static final int CELLS = 128;
    private static final int CHUNK = 1 << 16;
    private static final double SAME_DEG = 4;
    private static final double SUPPORT = 0.5;
    private static final double SCAR = 1.5;
    private static final double STEPS = 0.4;
    private static final double HEIGHT = 0.3;
    private static final double CONTACT = 0.4;
    private static final double UNSTABLE = 1.0;

    private Poses() {
    }

    /**
     * One way to lie.
     *
     * @param score       100 for a pose that costs nothing, towards 0 with the cost
     * @param overhangMm2 area steeper than {@link Overhang#STEEP_DEG}
     * @param visibleMm2  area on which steps or support marks will show
     */
    public record Pose(Rotation rotation, double score, double overhangMm2, double contactMm2, double heightMm,
                       double supportMm3, double visibleMm2, boolean stable) {
    }

    /** At most five poses, best first; the first is the best one found. */
    public static List<Pose> of(Mesh mesh) {
        Mesh coarse = mesh.triangleCount() <= FINE_TRIANGLES ? mesh : Coarser.of(mesh, COARSE_CELLS);
        List<double[]> candidates = candidates(coarse);
        List<Pose> rough = candidates.parallelStream()
                .map(down -> pose(coarse, Rotation.bringingDown(down[0], down[1], down[2])))
                .sorted(Comparator.comparingDouble(Pose::score).reversed()).toList();
        List<Pose> best = distinct(rough).stream().limit(MOST_POSES).toList();
        return coarse == mesh ? best : measuredAgain(mesh, best);
    }

    /** Overhang, contact and height from the mesh itself, all poses in one pass over its vertices and one over its triangles. */
    private static List<Pose> measuredAgain(Mesh mesh, List<Pose> poses) {
        double[][] turns = poses.stream().map(pose -> pose.rotation().matrix()).toArray(double[][]::new);
        double[][] reaches = chunks(mesh.vertexCount(), (from, to) -> reaches(mesh, from, to, turns));
        double[] lowest = new double[turns.length], highest = new double[turns.length];
        for (int p = 0; p < turns.length; p++) {
            int pose = p;
            lowest[p] = Arrays.stream(reaches).mapToDouble(reach -> reach[2 * pose]).min().orElse(0);
            highest[p] = Arrays.stream(reaches).mapToDouble(reach -> reach[2 * pose + 1]).max().orElse(0);
        }
        double[][] areas = chunks(mesh.triangleCount(), (from, to) -> areas(mesh, from, to, turns, lowest));
        return IntStream.range(0, turns.length).mapToObj(p -> new Pose(poses.get(p).rotation(), poses.get(p).score(),
                Arrays.stream(areas).mapToDouble(area -> area[2 * p]).sum(), Arrays.stream(areas).mapToDouble(area -> area[2 * p + 1]).sum(),
                highest[p] - lowest[p], poses.get(p).supportMm3(), poses.get(p).visibleMm2(), poses.get(p).stable())).toList();
    }

    private interface Range {
        double[] measured(int from, int to);
    }

    private static double[][] chunks(int length, Range range) {
        return IntStream.rangeClosed(0, length / CHUNK).parallel().mapToObj(chunk -> range.measured(chunk * CHUNK,
                Math.min(length, (chunk + 1) * CHUNK))).toArray(double[][]::new);
    }

    /** The lowest and the highest vertex, for each pose. */
    private static double[] reaches(Mesh mesh, int from, int to, double[][] turns) {
        double[] reaches = new double[2 * turns.length];
        for (int p = 0; p < turns.length; p++) {
            double lowest = Double.POSITIVE_INFINITY, highest = Double.NEGATIVE_INFINITY;
            for (int v = from; v < to; v++) {
                double z = height(mesh, v, turns[p]);
                lowest = z < lowest ? z : lowest;
                highest = z > highest ? z : highest;
            }
            reaches[2 * p] = lowest;
            reaches[2 * p + 1] = highest;
        }
        return reaches;
    }

    /** What hangs steeply and what lies on the bed, for each pose. */
    private static double[] areas(Mesh mesh, int from, int to, double[][] turns, double[] lowest) {
        double steep = Math.sin(Math.toRadians(Overhang.STEEP_DEG)) + 1e-6;
        double[] areas = new double[2 * turns.length], n = new double[3];
        for (int t = from; t < to; t++) {
            mesh.normal(t, n);
            double length = Math.sqrt(n[0] * n[0] + n[1] * n[1] + n[2] * n[2]);
            for (int p = 0; p < turns.length; p++) {
                double[] m = turns[p];
                double down = -(m[6] * n[0] + m[7] * n[1] + m[8] * n[2]);
                if (down > 0) {
                    if (liesOn(mesh, t, m, lowest[p] + Overhang.ON_BED_MM)) {
                        areas[2 * p + 1] += down / 2;
                    } else if (down > steep * length) {
                        areas[2 * p] += length / 2;
                    }
                }
            }
        }
        return areas;
    }

    private static boolean liesOn(Mesh mesh, int t, double[] m, double bed) {
        return height(mesh, mesh.corner(t, 0), m) <= bed && height(mesh, mesh.corner(t, 1), m) <= bed && height(mesh, mesh.corner(t, 2), m) <= bed;
    }

    private static double height(Mesh mesh, int v, double[] m) {
        return m[6] * mesh.x(v) + m[7] * mesh.y(v) + m[8] * mesh.z(v);
    }

    /** Of poses that measure the same, as those of a turned part do, only the first. */
    private static List<Pose> distinct(List<Pose> sorted) {
        List<Pose> distinct = new ArrayList<>();
        for (Pose pose : sorted) {
            if (distinct.stream().noneMatch(known -> measuresLike(pose, known))) {
                distinct.add(pose);
            }
        }
        return distinct;
    }

    private static boolean measuresLike(Pose a, Pose b) {
        return near(a.heightMm(), b.heightMm()) && near(a.overhangMm2(), b.overhangMm2())
                && near(a.contactMm2(), b.contactMm2()) && near(a.supportMm3(), b.supportMm3());
    }

    private static boolean near(double a, double b) {
        return Math.abs(a - b) <= 0.02 * Math.max(a, b) + 0.01;
    }

    /** The measures and score of one pose. */
    public static Pose pose(Mesh mesh, Rotation rotation) {
        Mesh turned = mesh.turned(rotation);
        Bounds bounds = turned.bounds();
        Measures measures = Measures.of(turned, bounds);
        Stand stand = Stand.of(turned, measures.bedContactAreaMm2());
        Columns columns = Columns.of(turned, Overhang.STEEP_DEG, CELLS);
        double[] hangingAndStepped = hangingAndStepped(turned, bounds.minZ());
        double volume = Math.max(measures.volumeMm3(), 1e-9), area = Math.max(measures.areaMm2(), 1e-9);
        double box = Math.max(bounds.sizeX() * bounds.sizeY(), 1e-9);
        double cost = SUPPORT * columns.supportMm3() / volume + SCAR * hangingAndStepped[0] / area
                + STEPS * hangingAndStepped[1] / area + HEIGHT * bounds.sizeZ() / bounds.largestSide()
                + (stand.stable() ? 0 : UNSTABLE) + CONTACT * (1 - Math.min(1, measures.bedContactAreaMm2() / box));
        return new Pose(rotation, 100 / (1 + cost), hangingAndStepped[0], measures.bedContactAreaMm2(),
                bounds.sizeZ(), columns.supportMm3(), hangingAndStepped[0] + hangingAndStepped[1], stand.stable());
    }

    /** Area steeper than {@link Overhang#STEEP_DEG}, and area of upper slopes between 3° and 30° from level. */
    private static double[] hangingAndStepped(Mesh mesh, double bed) {
        double steep = Math.sin(Math.toRadians(Overhang.STEEP_DEG)) + 1e-6;
        double shallow = Math.cos(Math.toRadians(30)), level = Math.cos(Math.toRadians(3));
        double hanging = 0, stepped = 0;
        double[] n = new double[3];
        for (int t = 0; t < mesh.triangleCount(); t++) {
            mesh.normal(t, n);
            double length = Math.sqrt(n[0] * n[0] + n[1] * n[1] + n[2] * n[2]);
            if (-n[2] > steep * length && !Overhang.liesOn(mesh, t, bed + Overhang.ON_BED_MM)) {
                hanging += length / 2;
            } else if (n[2] > shallow * length && n[2] < level * length) {
                stepped += length / 2;
            }
        }
        return new double[] {hanging, stepped};
    }

    /** Directions that may point down, those with the largest faces first, after the one that points down now. */
    private static List<double[]> candidates(Mesh mesh) {
        Map<Long, double[]> weighted = new HashMap<>();
        double[] n = new double[3];
        for (int t = 0; t < mesh.triangleCount(); t++) {
            mesh.normal(t, n);
            gather(weighted, n[0], n[1], n[2]);
        }
        double smallest = 0.01 * weighted.values().stream().mapToDouble(Hull::length).sum();
        List<double[]> found = new ArrayList<>(weighted.values().stream().filter(v -> Hull.length(v) > smallest).toList());
        found.addAll(restingFaces(mesh));
        found.sort(Comparator.comparingDouble(Hull::length).reversed());
        found.addFirst(new double[] {0, 0, -1});
        List<double[]> apart = new ArrayList<>();
        double same = Math.cos(Math.toRadians(SAME_DEG));
        for (double[] direction : found) {
            boolean known = apart.stream().anyMatch(other -> cosine(direction, other) > same);
            if (!known && apart.size() < MOST_CANDIDATES) {
                apart.add(direction);
            }
        }
        return apart;
    }

    /** Faces of the convex hull, neighbours that are nearly level gathered, as area vectors that point out. */
    private static Collection<double[]> restingFaces(Mesh mesh) {
        double[][] points = extremes(mesh);
        Map<Long, double[]> weighted = new HashMap<>();
        for (int[] face : Hull.faces(points)) {
            double[] normal = Hull.normal(points[face[0]], points[face[1]], points[face[2]]);
            gather(weighted, normal[0], normal[1], normal[2]);
        }
        return weighted.values();
    }

    /** The farthest vertex in each of many directions, and along the axes, each once. */
    private static double[][] extremes(Mesh mesh) {
        List<double[]> directions = new ArrayList<>();
        for (int axis = 0; axis < 6; axis++) {
            double[] along = new double[3];
            along[axis / 2] = axis % 2 == 0 ? 1 : -1;
            directions.add(along);
        }
        for (int i = 0; i < DIRECTIONS; i++) {
            // Evenly over the sphere, on a spiral that turns by the golden angle.
            double z = 1 - (2 * i + 1.0) / DIRECTIONS, r = Math.sqrt(1 - z * z), turn = i * Math.PI * (3 - Math.sqrt(5));
            directions.add(new double[] {r * Math.cos(turn), r * Math.sin(turn), z});
        }
        int[] farthest = directions.parallelStream().mapToInt(d -> {
            int best = 0;
            double bestReach = Double.NEGATIVE_INFINITY;
            for (int v = 0; v < mesh.vertexCount(); v++) {
                double reach = d[0] * mesh.x(v) + d[1] * mesh.y(v) + d[2] * mesh.z(v);
                if (reach > bestReach) {
                    bestReach = reach;
                    best = v;
                }
            }
            return best;
        }).distinct().toArray();
        double[][] points = new double[farthest.length][];
        for (int i = 0; i < farthest.length; i++) {
            points[i] = new double[] {mesh.x(farthest[i]), mesh.y(farthest[i]), mesh.z(farthest[i])};
        }
        return points;
    }

    /** Sums area vectors that point within about a degree and a half of one another. */
    private static void gather(Map<Long, double[]> weighted, double x, double y, double z) {
        double length = Math.sqrt(x * x + y * y + z * z);
        if (length > 0) {
            long key = (Math.round(x / length * 40) + 64) << 16 | (Math.round(y / length * 40) + 64) << 8
                    | Math.round(z / length * 40) + 64;
            double[] sum = weighted.computeIfAbsent(key, k -> new double[3]);
            sum[0] += x;
            sum[1] += y;
            sum[2] += z;
        }
    }

    private static double cosine(double[] a, double[] b) {
        return (a[0] * b[0] + a[1] * b[1] + a[2] * b[2]) / (Hull.length(a) * Hull.length(b));
    }
}
