package fabbrica.core.inspect;

import fabbrica.core.mesh.model.Bounds;
import fabbrica.core.mesh.model.Mesh;
import java.util.Arrays;

/**
 * Solid and air along vertical lines through the part on a square grid (a dexel model: Van Hook, "Real-time shaded NC
 * milling display", 1986). A place is solid where the surface winds around it, so bodies that overlap count once.
 * Exact along each line, midpoint rule across; cost is linear in the triangles and the cells they cover.
 *
 * @param solidMm3    volume of the union of all bodies
 * @param supportMm3  room under steep overhangs down to the next surface or the bed, which supports would fill
 * @param onPartMm3   of that room, what lies over the part itself
 * @param overhangMm2 of these overhangs, seen from below
 */
public record Columns(double solidMm3, double supportMm3, double onPartMm3, double overhangMm2) {

    /**
     * @param steepDeg overhang angle from the vertical beyond which support is wanted
     * @param cells    grid cells along the longer side
     */
    static Columns of(Mesh mesh, double steepDeg, int cells) {
        return new Grid(mesh, steepDeg, cells).columns();
    }

    private static final class Grid {

        /** Lines stand further apart where the part has so many floors over one another that they would be hit more often. */
        private static final int MOST_HITS = 4_000_000;
        private static final int WALL = 0;
        private static final int UP = 1;
        private static final int HANGS = 2;

        private final Mesh mesh;
        private final double steep;
        private final Bounds bounds;
        private final double cell;
        private final double step;
        private final int columns;
        private final int rows;
        /** Hits as cell number, height as sortable int, and kind in one long: sorted, they are all lines bottom up. */
        private long[] hits = new long[1 << 16];
        private int count;

        Grid(Mesh mesh, double steepDeg, int cells) {
            this.mesh = mesh;
            this.steep = Math.sin(Math.toRadians(steepDeg)) + 1e-6;
            bounds = mesh.bounds();
            cell = Math.max(Math.max(Math.max(bounds.sizeX(), bounds.sizeY()) / cells, Math.sqrt(seenMm2() / MOST_HITS)), 1e-9);
            step = Math.max(bounds.sizeZ(), 1e-9) / (1 << 29);
            columns = (int) Math.ceil(bounds.sizeX() / cell) + 1;
            rows = (int) Math.ceil(bounds.sizeY() / cell) + 1;
        }

        Columns columns() {
            double[] normal = new double[3];
            for (int t = 0; t < mesh.triangleCount(); t++) {
                mesh.normal(t, normal);
                if (normal[2] != 0) {
                    double length = Math.sqrt(normal[0] * normal[0] + normal[1] * normal[1] + normal[2] * normal[2]);
                    hit(t, normal[2] > 0 ? UP : -normal[2] > steep * length ? HANGS : WALL);
                }
            }
            Arrays.sort(hits, 0, count);
            return added();
        }

        /** All faces seen from above, through one another. */
        private double seenMm2() {
            double[] normal = new double[3];
            double area = 0;
            for (int t = 0; t < mesh.triangleCount(); t++) {
                mesh.normal(t, normal);
                area += Math.abs(normal[2]) / 2;
            }
            return area;
        }

        private void hit(int t, int kind) {
            int a = mesh.corner(t, 0), b = mesh.corner(t, 1), c = mesh.corner(t, 2);
            double ax = place(mesh.x(a) - bounds.minX()), ay = place(mesh.y(a) - bounds.minY());
            double bx = place(mesh.x(b) - bounds.minX()), by = place(mesh.y(b) - bounds.minY());
            double cx = place(mesh.x(c) - bounds.minX()), cy = place(mesh.y(c) - bounds.minY());
            int lastRow = (int) Math.min(rows - 1, Math.floor(Math.max(ay, Math.max(by, cy))));
            double area = (bx - ax) * (cy - ay) - (by - ay) * (cx - ax);
            double az = mesh.z(a) - bounds.minZ(), bz = mesh.z(b) - bounds.minZ(), cz = mesh.z(c) - bounds.minZ();
            for (int row = (int) Math.max(0, Math.ceil(Math.min(ay, Math.min(by, cy)))); row <= lastRow; row++) {
                double ab = crossing(ax, ay, bx, by, row), bc = crossing(bx, by, cx, cy, row);
                double ca = crossing(cx, cy, ax, ay, row);
                // An edge that does not reach the row gives not a number, which the other two outdo.
                double from = smaller(ab, smaller(bc, ca)), to = -smaller(-ab, smaller(-bc, -ca));
                int lastColumn = (int) Math.min(columns - 1, Math.floor(to));
                for (int column = (int) Math.max(0, Math.ceil(from)); column <= lastColumn; column++) {
                    double u = ((bx - column) * (cy - row) - (by - row) * (cx - column)) / area;
                    double v = ((cx - column) * (ay - row) - (cy - row) * (ax - column)) / area;
                    add(row * columns + column, Math.max(0, u * az + v * bz + (1 - u - v) * cz), kind);
                }
            }
        }

        /** Where an edge crosses a row; not a number when it does not, or lies in it. */
        private static double crossing(double x0, double y0, double x1, double y1, int row) {
            return y0 > row == y1 > row ? Double.NaN : x0 + (row - y0) / (y1 - y0) * (x1 - x0);
        }

        private static double smaller(double a, double b) {
            return a <= b || b != b ? a : b;
        }

        /** In cells, with lines through the middles of cells at whole numbers, moved off special places. */
        private double place(double millimetres) {
            return millimetres / cell - 0.4987;
        }

        private void add(int line, double z, int kind) {
            if (count == hits.length) {
                hits = Arrays.copyOf(hits, 2 * count);
            }
            long height = Math.min((1L << 30) - 1, Math.round(z / step));
            hits[count++] = (long) line << 32 | height << 2 | kind;
        }

        private Columns added() {
            double solid = 0, support = 0, onPart = 0, hanging = 0, free = 0, entered = 0;
            int winding = 0;
            for (int i = 0; i < count; i++) {
                if (i == 0 || hits[i] >>> 32 != hits[i - 1] >>> 32) {
                    winding = 0;
                    free = 0;
                }
                double z = height(i);
                int kind = (int) (hits[i] & 3);
                int before = winding;
                winding += kind == UP ? -1 : 1;
                if (before != 0 && winding == 0) {
                    solid += z - entered;
                    free = z;
                } else if (before == 0) {
                    entered = z;
                    if (kind == HANGS && z - free > Overhang.ON_BED_MM) {
                        support += z - free;
                        onPart += free > 0 ? z - free : 0;
                        hanging++;
                    }
                }
            }
            return new Columns(solid * cell * cell, support * cell * cell, onPart * cell * cell, hanging * cell * cell);
        }

        private double height(int hit) {
            return (hits[hit] >>> 2 & (1L << 30) - 1) * step;
        }
    }
}
