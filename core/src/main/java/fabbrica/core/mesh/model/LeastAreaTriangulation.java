package fabbrica.core.mesh.model;

/**
 * The triangulation of a closed polygon in space that has the least area, by dynamic programming over its chords
 * (Barequet and Sharir, "Filling gaps in the boundary of a polyhedron", 1995). For a flat polygon that is a
 * triangulation of its inside. Cubic in the corners.
 */
public final class LeastAreaTriangulation {

    private LeastAreaTriangulation() {
    }

    /** Triangles looked at for a polygon of so many corners. */
    public static long steps(int corners) {
        return corners * (corners - 1L) * (corners - 2L) / 6;
    }

    /**
     * @param xyz the corners in order, three numbers each; at least three corners
     * @return corners of the triangles by their number, three each, wound as the polygon is
     */
    public static int[] of(double[] xyz) {
        int n = xyz.length / 3;
        double[][] least = new double[n][n];
        int[][] through = new int[n][n];
        for (int gap = 2; gap < n; gap++) {
            for (int i = 0; i + gap < n; i++) {
                int k = i + gap;
                least[i][k] = Double.POSITIVE_INFINITY;
                // Areas of corners far beyond any part are no numbers: then one triangulation is as good as another.
                through[i][k] = i + 1;
                for (int m = i + 1; m < k; m++) {
                    double area = least[i][m] + least[m][k] + area(xyz, i, m, k);
                    if (area < least[i][k]) {
                        least[i][k] = area;
                        through[i][k] = m;
                    }
                }
            }
        }
        int[] triangles = new int[3 * (n - 2)];
        collect(through, 0, n - 1, triangles, 0);
        return triangles;
    }

    private static int collect(int[][] through, int i, int k, int[] into, int at) {
        if (k < i + 2) {
            return at;
        }
        int m = through[i][k];
        into[at] = i;
        into[at + 1] = m;
        into[at + 2] = k;
        return collect(through, m, k, into, collect(through, i, m, into, at + 3));
    }

    private static double area(double[] xyz, int a, int b, int c) {
        double ux = xyz[3 * b] - xyz[3 * a], uy = xyz[3 * b + 1] - xyz[3 * a + 1], uz = xyz[3 * b + 2] - xyz[3 * a + 2];
        double vx = xyz[3 * c] - xyz[3 * a], vy = xyz[3 * c + 1] - xyz[3 * a + 1], vz = xyz[3 * c + 2] - xyz[3 * a + 2];
        double nx = uy * vz - uz * vy, ny = uz * vx - ux * vz, nz = ux * vy - uy * vx;
        return Math.sqrt(nx * nx + ny * ny + nz * nz) / 2;
    }
}
