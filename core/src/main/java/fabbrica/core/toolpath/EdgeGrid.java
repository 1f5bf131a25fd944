package fabbrica.core.toolpath;

import java.util.Arrays;
import java.util.List;
import java.util.Optional;

/**
 * The edges of closed rings sorted into square cells, to find which of them meet one another or a given line. Cells are
 * about as wide as an edge is long on average, and no more than four to an edge: building is linear in the number of
 * edges, and so is looking for crossings unless many edges crowd into few cells.
 */
final class EdgeGrid {

    /** Called for each edge that a line crosses, with how far along the line, 0 to 1. Edges may come twice. */
    interface Crossing {
        void at(int edge, double part);
    }

    private static final double TOUCHING_MM = 1e-9;
    /** Lines that rise less pass all the columns between their ends. */
    private static final double LEVEL_MM = 1e-9;
    /** Edges this part of a cell beside another cell count as in it too. */
    private static final double NEARLY = 1e-6;

    private final double[] ends;
    private final int[] ringOf;
    private final int[] ringStarts;
    private double minX = Double.POSITIVE_INFINITY;
    private double minY = Double.POSITIVE_INFINITY;
    private final double cell;
    private final double perCell;
    private final int columns;
    private final int rows;
    private final int[] cellStarts;
    private final int[] edges;

    /** Which cells a line passes, worked out anew for each line. */
    private int fromColumn;
    private int toColumn;

    EdgeGrid(List<double[]> rings) {
        int count = rings.stream().mapToInt(ring -> ring.length / 2).sum();
        ends = new double[4 * count];
        ringOf = new int[count];
        ringStarts = new int[rings.size() + 1];
        double maxX = Double.NEGATIVE_INFINITY, maxY = Double.NEGATIVE_INFINITY, length = 0;
        int edge = 0;
        for (int r = 0; r < rings.size(); r++) {
            double[] ring = rings.get(r);
            for (int i = 0; i < ring.length; i += 2, edge++) {
                int next = i + 2 == ring.length ? 0 : i + 2;
                ends[4 * edge] = ring[i];
                ends[4 * edge + 1] = ring[i + 1];
                ends[4 * edge + 2] = ring[next];
                ends[4 * edge + 3] = ring[next + 1];
                ringOf[edge] = r;
                minX = lesser(minX, ring[i]);
                maxX = greater(maxX, ring[i]);
                minY = lesser(minY, ring[i + 1]);
                maxY = greater(maxY, ring[i + 1]);
                length += Math.abs(ring[next] - ring[i]) + Math.abs(ring[next + 1] - ring[i + 1]);
            }
            ringStarts[r + 1] = edge;
        }
        double box = Math.max(1e-9, (maxX - minX) * (maxY - minY));
        cell = count == 0 ? 1 : Math.max(Math.max(length / count, Math.sqrt(box / (4 * count))), 1e-6);
        perCell = 1 / cell;
        columns = count == 0 ? 0 : (int) ((maxX - minX) * perCell) + 1;
        rows = count == 0 ? 0 : row(maxY) + 1;
        cellStarts = new int[columns * rows + 1];
        int[] cells = new int[2 * count];
        int[] cellsOf = new int[count + 1];
        int taken = 0;
        for (int e = 0; e < count; e++) {
            int low = row(lesser(ends[4 * e + 1], ends[4 * e + 3])), high = row(greater(ends[4 * e + 1], ends[4 * e + 3]));
            for (int row = low; row <= high; row++) {
                columnsIn(row, ends[4 * e], ends[4 * e + 1], ends[4 * e + 2], ends[4 * e + 3]);
                if (taken + toColumn - fromColumn >= cells.length) {
                    cells = Arrays.copyOf(cells, 2 * (taken + toColumn - fromColumn + 1));
                }
                for (int column = fromColumn; column <= toColumn; column++) {
                    cells[taken++] = row * columns + column;
                    cellStarts[row * columns + column + 1]++;
                }
            }
            cellsOf[e + 1] = taken;
        }
        for (int c = 0; c < columns * rows; c++) {
            cellStarts[c + 1] += cellStarts[c];
        }
        edges = new int[taken];
        int[] filled = cellStarts.clone();
        for (int e = 0; e < count; e++) {
            for (int i = cellsOf[e]; i < cellsOf[e + 1]; i++) {
                edges[filled[cells[i]]++] = e;
            }
        }
    }

    int ringOf(int edge) {
        return ringOf[edge];
    }

    /** The number of an edge on its own ring. */
    int placeOnRing(int edge) {
        return edge - ringStarts[ringOf[edge]];
    }

    /** Called for two edges that meet, the lower number first. A pair may come twice. */
    interface Meeting {
        /** @return whether to go on looking */
        boolean of(int edge, int other);
    }

    /** Whether any two edges meet other than neighbours at the corner they share. */
    boolean anyMeet() {
        return !meetings((edge, other) -> false);
    }

    /** @return false when it was broken off */
    boolean meetings(Meeting found) {
        for (int c = 0; c + 1 < cellStarts.length; c++) {
            for (int i = cellStarts[c]; i < cellStarts[c + 1]; i++) {
                for (int j = i + 1; j < cellStarts[c + 1]; j++) {
                    if (!neighbours(edges[i], edges[j]) && meet(4 * edges[i], 4 * edges[j])
                            && !found.of(edges[i], edges[j])) {
                        return false;
                    }
                }
            }
        }
        return true;
    }

    /**
     * Where two edges cross: parts along the first and the second, or nothing when they touch or run along one another
     * so closely that neither can be told.
     */
    Optional<double[]> crossing(int edge, int other) {
        int a = 4 * edge, b = 4 * other;
        double lengthA = Math.hypot(ends[a + 2] - ends[a], ends[a + 3] - ends[a + 1]);
        double lengthB = Math.hypot(ends[b + 2] - ends[b], ends[b + 3] - ends[b + 1]);
        double c = side(ends[a], ends[a + 1], ends[a + 2], ends[a + 3], ends[b], ends[b + 1]) / lengthA;
        double d = side(ends[a], ends[a + 1], ends[a + 2], ends[a + 3], ends[b + 2], ends[b + 3]) / lengthA;
        double e = side(ends[b], ends[b + 1], ends[b + 2], ends[b + 3], ends[a], ends[a + 1]) / lengthB;
        double f = side(ends[b], ends[b + 1], ends[b + 2], ends[b + 3], ends[a + 2], ends[a + 3]) / lengthB;
        double nearest = Math.min(Math.min(Math.abs(c), Math.abs(d)), Math.min(Math.abs(e), Math.abs(f)));
        return nearest > TOUCHING_MM ? Optional.of(new double[] {e / (e - f), c / (c - d)}) : Optional.empty();
    }

    double x(int edge, double part) {
        return ends[4 * edge] + part * (ends[4 * edge + 2] - ends[4 * edge]);
    }

    double y(int edge, double part) {
        return ends[4 * edge + 1] + part * (ends[4 * edge + 3] - ends[4 * edge + 1]);
    }

    int edgeCount() {
        return ringOf.length;
    }

    /** The edge that follows on the same ring. */
    int next(int edge) {
        int ring = ringOf[edge];
        return edge + 1 == ringStarts[ring + 1] ? ringStarts[ring] : edge + 1;
    }

    /** Not to be called from several threads at once. */
    void crossings(double x0, double y0, double x1, double y1, Crossing found) {
        int low = Math.max(0, row(lesser(y0, y1))), high = Math.min(rows - 1, row(greater(y0, y1)));
        for (int row = low; row <= high; row++) {
            columnsIn(row, x0, y0, x1, y1);
            for (int c = row * columns + fromColumn; c <= row * columns + toColumn; c++) {
                for (int i = cellStarts[c]; i < cellStarts[c + 1]; i++) {
                    int e = 4 * edges[i];
                    double before = side(x0, y0, x1, y1, ends[e], ends[e + 1]);
                    double after = side(x0, y0, x1, y1, ends[e + 2], ends[e + 3]);
                    if (before > 0 != after > 0) {
                        double start = side(ends[e], ends[e + 1], ends[e + 2], ends[e + 3], x0, y0);
                        double end = side(ends[e], ends[e + 1], ends[e + 2], ends[e + 3], x1, y1);
                        if (start > 0 != end > 0) {
                            found.at(edges[i], start / (start - end));
                        }
                    }
                }
            }
        }
    }

    private boolean neighbours(int a, int b) {
        int ring = ringOf[a];
        if (ring != ringOf[b]) {
            return false;
        }
        int gap = Math.abs(a - b);
        return gap <= 1 || gap == ringStarts[ring + 1] - ringStarts[ring] - 1;
    }

    private boolean meet(int a, int b) {
        for (int axis = 0; axis < 2; axis++) {
            double a0 = ends[a + axis], a1 = ends[a + 2 + axis], b0 = ends[b + axis], b1 = ends[b + 2 + axis];
            if (greater(a0, a1) < lesser(b0, b1) || greater(b0, b1) < lesser(a0, a1)) {
                return false;
            }
        }
        double c = side(ends[a], ends[a + 1], ends[a + 2], ends[a + 3], ends[b], ends[b + 1]);
        double d = side(ends[a], ends[a + 1], ends[a + 2], ends[a + 3], ends[b + 2], ends[b + 3]);
        if (c > 0 && d > 0 || c < 0 && d < 0) {
            return false;
        }
        double e = side(ends[b], ends[b + 1], ends[b + 2], ends[b + 3], ends[a], ends[a + 1]);
        double f = side(ends[b], ends[b + 1], ends[b + 2], ends[b + 3], ends[a + 2], ends[a + 3]);
        return !(e > 0 && f > 0 || e < 0 && f < 0);
    }

    /** As {@link Math#min}, which compilers of short programs leave to code that also looks for signed zeros. */
    private static double lesser(double a, double b) {
        return a < b ? a : b;
    }

    private static double greater(double a, double b) {
        return a > b ? a : b;
    }

    /** Above zero when (x, y) lies left of the line from (ax, ay) to (bx, by). */
    private static double side(double ax, double ay, double bx, double by, double x, double y) {
        return (bx - ax) * (y - ay) - (by - ay) * (x - ax);
    }

    private int row(double y) {
        return (int) ((y - minY) * perCell);
    }

    /** Sets the columns that the line passes within one row, none of them beyond the grid. */
    private void columnsIn(int row, double x0, double y0, double x1, double y1) {
        double from = x0, to = x1;
        if (Math.abs(y1 - y0) > LEVEL_MM) {
            double slope = (x1 - x0) / (y1 - y0), low = minY + row * cell;
            from = x0 + (greater(low, lesser(y0, y1)) - y0) * slope;
            to = x0 + (lesser(low + cell, greater(y0, y1)) - y0) * slope;
        }
        fromColumn = Math.max(0, (int) ((lesser(from, to) - minX) * perCell - NEARLY));
        toColumn = Math.min(columns - 1, (int) ((greater(from, to) - minX) * perCell + NEARLY));
    }
}
