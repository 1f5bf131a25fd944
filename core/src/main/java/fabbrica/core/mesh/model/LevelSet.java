package fabbrica.core.mesh.model;

/**
 * The surface on which a function of space is zero, as a closed mesh around the places where it is negative, by
 * marching tetrahedra on a cubic grid cut into six tetrahedra a cell (Doi and Koide 1991): no case is ambiguous, so the
 * surface has no holes. Drawings for tests, benchmarks and the demo.
 */
public final class LevelSet {

    /** Corners of the six tetrahedra around a cell's main diagonal; bit 0 of a corner is x, bit 1 is y, bit 2 is z. */
    private static final int[][] TETRAHEDRA = {{0, 1, 3, 7}, {0, 3, 2, 7}, {0, 2, 6, 7}, {0, 6, 4, 7}, {0, 4, 5, 7},
            {0, 5, 1, 7}};

    private final Function function;
    private final double low;
    private final double step;
    private final int cells;
    private final MeshBuilder builder = new MeshBuilder(1 << 16);

    private LevelSet(Function function, double low, double high, int cells) {
        this.function = function;
        this.low = low;
        this.step = (high - low) / cells;
        this.cells = cells;
    }

    /** A function of x, y and z in millimetres, negative in the solid. */
    public interface Function {
        double at(double x, double y, double z);
    }

    /**
     * @param low   lowest x, y and z of the grid; the function must be positive on the grid's border
     * @param cells along each side
     */
    public static Mesh of(Function function, double low, double high, int cells) {
        return new LevelSet(function, low, high, cells).mesh();
    }

    /**
     * The sheet |sin x cos y + sin y cos z + sin z cos x| &lt; 0.6, x, y, z in mm / 4, within a cube.
     *
     * @param sideMm of the cube, one corner at the origin
     */
    public static Mesh gyroid(double sideMm, int cells) {
        double rim = 1.5 * sideMm / cells;
        return of((x, y, z) -> {
            double a = x / 4, b = y / 4, c = z / 4;
            double sheet = Math.abs(Math.sin(a) * Math.cos(b) + Math.sin(b) * Math.cos(c) + Math.sin(c) * Math.cos(a)) - 0.6;
            double outside = Math.max(Math.abs(x - sideMm / 2), Math.max(Math.abs(y - sideMm / 2),
                    Math.abs(z - sideMm / 2))) - sideMm / 2;
            return Math.max(sheet, outside);
        }, -rim, sideMm + rim, cells);
    }

    private Mesh mesh() {
        double[] lower = plane(0);
        for (int k = 0; k < cells; k++) {
            double[] upper = plane(k + 1);
            for (int j = 0; j < cells; j++) {
                for (int i = 0; i < cells; i++) {
                    addCell(i, j, k, lower, upper);
                }
            }
            lower = upper;
        }
        return builder.build();
    }

    private double[] plane(int k) {
        double[] values = new double[(cells + 1) * (cells + 1)];
        for (int j = 0; j <= cells; j++) {
            for (int i = 0; i <= cells; i++) {
                values[j * (cells + 1) + i] = function.at(low + i * step, low + j * step, low + k * step);
            }
        }
        return values;
    }

    private void addCell(int i, int j, int k, double[] lower, double[] upper) {
        double[] values = new double[8];
        boolean inside = false, outside = false;
        for (int corner = 0; corner < 8; corner++) {
            double[] plane = (corner & 4) == 0 ? lower : upper;
            values[corner] = plane[(j + (corner >> 1 & 1)) * (cells + 1) + i + (corner & 1)];
            inside |= values[corner] < 0;
            outside |= values[corner] >= 0;
        }
        if (inside && outside) {
            for (int[] tetrahedron : TETRAHEDRA) {
                addTetrahedron(tetrahedron, i, j, k, values);
            }
        }
    }

    private void addTetrahedron(int[] t, int i, int j, int k, double[] values) {
        int[] in = new int[4], out = new int[4];
        int ins = 0, outs = 0;
        // The parity of the order in which the corners are taken tells which way the triangles face.
        boolean even = true;
        for (int corner = 0; corner < 4; corner++) {
            if (values[t[corner]] < 0) {
                even ^= outs % 2 == 1;
                in[ins++] = t[corner];
            } else {
                out[outs++] = t[corner];
            }
        }
        if (ins == 1) {
            triangle(even, crossing(in[0], out[0], i, j, k, values), crossing(in[0], out[1], i, j, k, values),
                    crossing(in[0], out[2], i, j, k, values));
        } else if (ins == 3) {
            triangle(even, crossing(in[0], out[0], i, j, k, values), crossing(in[1], out[0], i, j, k, values),
                    crossing(in[2], out[0], i, j, k, values));
        } else if (ins == 2) {
            int a = crossing(in[0], out[0], i, j, k, values), b = crossing(in[0], out[1], i, j, k, values);
            int c = crossing(in[1], out[1], i, j, k, values), d = crossing(in[1], out[0], i, j, k, values);
            triangle(even, a, b, c);
            triangle(even, a, c, d);
        }
    }

    private void triangle(boolean even, int a, int b, int c) {
        if (a != b && b != c && c != a) {
            builder.triangle(a, even ? b : c, even ? c : b);
        }
    }

    /** Interpolated from the corner with the lower number, so that all cells at an edge get the same point. */
    private int crossing(int a, int b, int i, int j, int k, double[] values) {
        int from = Math.min(a, b), to = Math.max(a, b);
        double part = Math.min(0.999, Math.max(0.001, values[from] / (values[from] - values[to])));
        return builder.vertex((float) (low + step * (i + (from & 1) + part * ((to & 1) - (from & 1)))),
                (float) (low + step * (j + (from >> 1 & 1) + part * ((to >> 1 & 1) - (from >> 1 & 1)))),
                (float) (low + step * (k + (from >> 2) + part * ((to >> 2) - (from >> 2)))));
    }
}
