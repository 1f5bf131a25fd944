package fabbrica.core.inspect;

import fabbrica.core.mesh.model.Bounds;
import fabbrica.core.mesh.model.HalfEdges;
import fabbrica.core.mesh.model.Mesh;
import fabbrica.core.mesh.model.TriangleTree;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import java.util.stream.IntStream;

/**
 * Surface that hangs over air as the part lies, by steepness, and its patches told apart.
 *
 * <p>The overhang angle is measured from the vertical: 0° is a wall, 90° a ceiling. Faces that lie on the bed do not
 * hang, nor does what another body carries ({@link Carried}). Patches are the connected faces steeper than {@value #STEEP_DEG}°; {@link Bridging} tells whether plastic can
 * span them. Linear in the triangles but for the borders of the patches.
 *
 * @param areaByDegree mm² hanging at more than each whole degree from 0 to 89, up to the next
 * @param patches      largest first
 */
public record Overhang(double[] areaByDegree, List<Patch> patches) {

    /** Common practice, no source: steeper than this wants support. */
    public static final double STEEP_DEG = 45;
    /** A face this close to the lowest point is squeezed onto the bed by the first layer. */
    static final double ON_BED_MM = 0.05;

    private static final double SMALLEST_PATCH_MM2 = 0.5;
    private static final int MOST_PATCHES = 50;
    private static final double ROUNDING_DEG = 1e-4;
    /** Of each whole degree, a rounding above it. */
    private static final double[] SINES = IntStream.range(0, 90).mapToDouble(degree -> Math.sin(Math.toRadians(degree + ROUNDING_DEG))).toArray();

    /**
     * Connected steep faces.
     *
     * @param lowestZMm   where it begins, above the bed
     * @param bridgedPart share of its area, seen from below, between two supported borders
     * @param spanMm      the longest such span along the direction that bridges most; 0 without any
     */
    public record Patch(double areaMm2, double lowestZMm, double bridgedPart, double spanMm, double x, double y,
                        double z) {

        /** Whether it bridges nearly all its area, over spans of at most {@code longestMm}. */
        public boolean isBridge(double longestMm) {
            return bridgedPart > 0.95 && spanMm <= longestMm;
        }
    }

    static Overhang of(Mesh mesh, HalfEdges edges, TriangleTree tree) {
        Bounds bounds = mesh.bounds();
        double[] areas = new double[90];
        boolean[] steep = new boolean[mesh.triangleCount()];
        double[] free = new double[mesh.triangleCount()];
        byte[] degrees = new byte[mesh.triangleCount()];
        double[] normal = new double[3];
        for (int t = 0; t < mesh.triangleCount(); t++) {
            mesh.normal(t, normal);
            double length = Math.sqrt(normal[0] * normal[0] + normal[1] * normal[1] + normal[2] * normal[2]);
            if (normal[2] < -1e-9 * length && !liesOn(mesh, t, bounds.minZ() + ON_BED_MM)) {
                free[t] = length / 2;
                degrees[t] = degrees(-normal[2] / length);
                steep[t] = -normal[2] > SINES[(int) STEEP_DEG] * length;
            }
        }
        Carried carried = new Carried(mesh, edges, tree, steep);
        for (int t = 0; t < mesh.triangleCount(); t++) {
            if (steep[t]) {
                free[t] *= 1 - carried.part(t);
                steep[t] = free[t] > 0;
            }
            areas[degrees[t]] += free[t];
        }
        return new Overhang(areas, patches(mesh, edges, steep, free, bounds.minZ()));
    }

    /** Whole degrees of the overhang angle with this sine. */
    private static byte degrees(double sine) {
        int at = Arrays.binarySearch(SINES, sine);
        return (byte) Math.max(0, at < 0 ? -at - 2 : at);
    }

    static boolean liesOn(Mesh mesh, int t, double height) {
        return mesh.z(mesh.corner(t, 0)) <= height && mesh.z(mesh.corner(t, 1)) <= height
                && mesh.z(mesh.corner(t, 2)) <= height;
    }

    /** Area in mm² steeper than {@code degrees}, to within the degree it falls in. */
    public double areaSteeperThan(double degrees) {
        int whole = (int) Math.max(0, Math.min(89, degrees));
        double area = (1 - Math.min(1, degrees - whole)) * areaByDegree[whole];
        for (int d = whole + 1; d < 90; d++) {
            area += areaByDegree[d];
        }
        return area;
    }

    /** Area in mm² of patches that are no bridges of at most {@code longestBridgeMm}. */
    public double freeAreaMm2(double longestBridgeMm) {
        return patches.stream().filter(patch -> !patch.isBridge(longestBridgeMm)).mapToDouble(Patch::areaMm2).sum();
    }

    private static List<Patch> patches(Mesh mesh, HalfEdges edges, boolean[] steep, double[] free, double bed) {
        int[] patch = new int[steep.length];
        int[] waiting = new int[steep.length];
        int found = 0;
        List<Patch> patches = new ArrayList<>();
        for (int seed = 0; seed < steep.length; seed++) {
            if (!steep[seed] || patch[seed] != 0) {
                continue;
            }
            int end = 0;
            patch[seed] = ++found;
            waiting[end++] = seed;
            for (int at = 0; at < end; at++) {
                for (int corner = 0; corner < 3; corner++) {
                    int twin = edges.twin(3 * waiting[at] + corner);
                    if (twin >= 0 && steep[twin / 3] && patch[twin / 3] == 0) {
                        patch[twin / 3] = found;
                        waiting[end++] = twin / 3;
                    }
                }
            }
            measure(mesh, edges, waiting, end, patch, free, bed, patches);
        }
        return patches.stream().sorted((a, b) -> Double.compare(b.areaMm2(), a.areaMm2())).limit(MOST_PATCHES)
                .toList();
    }

    private static void measure(Mesh mesh, HalfEdges edges, int[] triangles, int count, int[] patch, double[] free,
                                double bed, List<Patch> into) {
        double area = 0, lowest = Double.POSITIVE_INFINITY;
        double[] normal = new double[3];
        double largest = -1;
        int middle = triangles[0];
        for (int i = 0; i < count; i++) {
            int t = triangles[i];
            mesh.normal(t, normal);
            double twice = Math.sqrt(normal[0] * normal[0] + normal[1] * normal[1] + normal[2] * normal[2]);
            area += free[t];
            if (twice > largest) {
                largest = twice;
                middle = t;
            }
            for (int corner = 0; corner < 3; corner++) {
                lowest = Math.min(lowest, mesh.z(mesh.corner(t, corner)) - bed);
            }
        }
        if (area < SMALLEST_PATCH_MM2) {
            return;
        }
        Bridging bridging = Bridging.of(mesh, edges, triangles, count, patch);
        int a = mesh.corner(middle, 0), b = mesh.corner(middle, 1), c = mesh.corner(middle, 2);
        into.add(new Patch(area, lowest, bridging.part(), bridging.spanMm(), (mesh.x(a) + mesh.x(b) + mesh.x(c)) / 3,
                (mesh.y(a) + mesh.y(b) + mesh.y(c)) / 3, (mesh.z(a) + mesh.z(b) + mesh.z(c)) / 3));
    }
}
