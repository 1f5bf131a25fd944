package fabbrica.core.toolpath;

import java.util.Arrays;
import java.util.List;
import org.jspecify.annotations.Nullable;

/**
 * A disc that grows inwards from a place on the outline of an area until it touches the outline elsewhere: exactly, against
 * whole edges, which are found by square cells. First the edges that it may meet are collected for a piece of an edge, then
 * it grows from any number of places on it.
 */
final class GrowingDisc {

    /** No edge. */
    static final int NONE = -1;

    /** Two sides that meet at less than this angle face each other. */
    private static final double FACING = -Math.cos(Math.toRadians(60));
    /** An edge within reach that turns away by less goes on as a curve does, and does not lie across. */
    private static final double ACROSS = 0.3;
    private static final double TOUCHING_MM = 1e-9;
    private static final double CELL_PER_REACH = 2;
    /** Five sixteenths side by side, twice over: normals in these are less than 72° apart, and their edges do not lie across. */
    private static final int FIVE_OF_16 = 0x001f001f;

    private final double[] fromX;
    private final double[] fromY;
    private final double[] normalX;
    private final double[] normalY;
    private final double[] length;
    private final double reach;
    private final double cell;
    private final double perCell;
    private final double minX;
    private final double minY;
    private final int columns;
    private final int rows;
    private final int[] cellStarts;
    private int[] cellEdges = {};
    /** For each cell the sixteenths of the directions, a bit each, into which any of its edges' normals point. */
    private final int[] cellSectors;
    private final int[] stamps;
    private int stamp;
    private int[] near = new int[64];
    private int nearCount;
    private boolean anyAcross;
    private int beside = NONE;

    /** Of the disc that grew last. */
    private double radius;
    private double cosine;
    private int touched;
    private double part;

    /** @param reach radius in mm up to which it grows */
    GrowingDisc(List<double[]> rings, double reach) {
        int size = rings.stream().mapToInt(ring -> ring.length / 2).sum(), edge = 0;
        this.reach = reach;
        fromX = new double[size];
        fromY = new double[size];
        normalX = new double[size];
        normalY = new double[size];
        length = new double[size];
        stamps = new int[size];
        double lowX = Double.POSITIVE_INFINITY, lowY = lowX, highX = -lowX, highY = -lowX;
        for (double[] ring : rings) {
            for (int i = 0; i < ring.length; i += 2, edge++) {
                int next = i + 2 == ring.length ? 0 : i + 2;
                double dx = ring[next] - ring[i], dy = ring[next + 1] - ring[i + 1];
                length[edge] = Math.max(TOUCHING_MM, Math.sqrt(dx * dx + dy * dy));
                fromX[edge] = ring[i];
                fromY[edge] = ring[i + 1];
                normalX[edge] = -dy / length[edge];
                normalY[edge] = dx / length[edge];
                lowX = Math.min(lowX, ring[i]);
                lowY = Math.min(lowY, ring[i + 1]);
                highX = Math.max(highX, ring[i]);
                highY = Math.max(highY, ring[i + 1]);
            }
        }
        minX = lowX;
        minY = lowY;
        cell = CELL_PER_REACH * reach;
        perCell = 1 / cell;
        columns = (int) ((highX - lowX) / cell) + 1;
        rows = (int) ((highY - lowY) / cell) + 1;
        cellStarts = new int[columns * rows + 1];
        cellSectors = new int[columns * rows];
        for (int e = 0; e < size; e++) {
            enter(e, null);
        }
        for (int i = 0; i < columns * rows; i++) {
            cellStarts[i + 1] += cellStarts[i];
        }
        cellEdges = new int[cellStarts[columns * rows]];
        int[] filled = cellStarts.clone();
        for (int e = 0; e < size; e++) {
            enter(e, filled);
        }
    }

    /** Edges are numbered along the rings, one ring after the other. */
    int edgeCount() {
        return length.length;
    }

    /** Where an edge begins. */
    double fromX(int edge) {
        return fromX[edge];
    }

    double fromY(int edge) {
        return fromY[edge];
    }

    /** Into the area, of length 1. */
    double normalX(int edge) {
        return normalX[edge];
    }

    double normalY(int edge) {
        return normalY[edge];
    }

    double lengthMm(int edge) {
        return length[edge];
    }

    /** Whether any of the edges that were collected faces the one they were collected for; else no disc ends within the reach. */
    boolean anyAcross() {
        return anyAcross;
    }

    /** Passes an edge over from here on, while places lie on the corner between it and the one that edges were collected for. */
    void beside(int edge) {
        beside = edge;
    }

    /** Infinite beyond the reach. */
    double radiusMm() {
        return radius;
    }

    /** The edge that it touched, and how far along it as a fraction; not a number when it touched none. */
    double touched() {
        return radius < Double.POSITIVE_INFINITY ? touched + Math.clamp(part, 0, 1 - 1e-9) : Double.NaN;
    }

    /** Whether it touched a side that faces the place it grew from. */
    boolean facing() {
        return radius < Double.POSITIVE_INFINITY && cosine < FACING;
    }

    /** Counts an edge in the cells of the boxes of its pieces, none of them longer than a cell, or enters it there. */
    private void enter(int edge, int @Nullable [] filled) {
        int pieces = (int) Math.ceil(length[edge] / cell);
        double piece = length[edge] / pieces;
        for (int i = 0; i < pieces; i++) {
            int x0 = column(toX(edge, i * piece)), x1 = column(toX(edge, (i + 1) * piece));
            int y0 = row(toY(edge, i * piece)), y1 = row(toY(edge, (i + 1) * piece));
            for (int row = Math.min(y0, y1); row <= Math.max(y0, y1); row++) {
                for (int column = Math.min(x0, x1); column <= Math.max(x0, x1); column++) {
                    if (filled == null) {
                        cellStarts[row * columns + column + 1]++;
                        cellSectors[row * columns + column] |= 1 << sector(edge);
                    } else {
                        cellEdges[filled[row * columns + column]++] = edge;
                    }
                }
            }
        }
    }

    /** Which sixteenth of all directions a normal points into, by the way along a square that stands on its corner. */
    private int sector(int edge) {
        double x = normalX[edge], y = normalY[edge], part = x / (Math.abs(x) + Math.abs(y));
        return (int) (4 * (y < 0 ? 3 + part : 1 - part)) & 15;
    }

    private double toX(int edge, double along) {
        return fromX[edge] + along * normalY[edge];
    }

    private double toY(int edge, double along) {
        return fromY[edge] - along * normalX[edge];
    }

    private int column(double x) {
        return within((int) ((x - minX) * perCell), columns);
    }

    private int row(double y) {
        return within((int) ((y - minY) * perCell), rows);
    }

    private static int within(int cell, int cells) {
        return cell < 0 ? 0 : cell < cells ? cell : cells - 1;
    }

    /** Collects the edges that discs touching the corner at an edge's start may meet, wherever they have their centre. */
    void candidatesAround(int edge) {
        begin();
        anyAcross = true;
        double x = fromX[edge], y = fromY[edge];
        for (int row = row(y - 2 * reach); row <= row(y + 2 * reach); row++) {
            for (int column = column(x - 2 * reach); column <= column(x + 2 * reach); column++) {
                int at = row * columns + column;
                for (int i = cellStarts[at]; i < cellStarts[at + 1]; i++) {
                    if (stamps[cellEdges[i]] != stamp && cellEdges[i] != edge) {
                        stamps[cellEdges[i]] = stamp;
                        addNear(cellEdges[i]);
                    }
                }
            }
        }
    }

    private void begin() {
        nearCount = 0;
        anyAcross = false;
        stamp++;
    }

    private void addNear(int edge) {
        near = nearCount == near.length ? Arrays.copyOf(near, 2 * nearCount) : near;
        near[nearCount++] = edge;
    }

    /** Collects the edges that discs touching a piece of an edge, or the corner at its start, may meet. */
    void candidates(int edge, double from, double to) {
        begin();
        double x0 = toX(edge, from), y0 = toY(edge, from), x1 = toX(edge, to), y1 = toY(edge, to);
        double inX = reach * normalX[edge], inY = reach * normalY[edge];
        int across = ~Integer.rotateLeft(FIVE_OF_16, sector(edge) - 2);
        int left = column((x0 < x1 ? x0 : x1) + inX - reach), right = column((x0 < x1 ? x1 : x0) + inX + reach);
        int bottom = row((y0 < y1 ? y0 : y1) + inY - reach), top = row((y0 < y1 ? y1 : y0) + inY + reach);
        for (int row = bottom; row <= top; row++) {
            for (int column = left; column <= right; column++) {
                int at = row * columns + column;
                if ((cellSectors[at] & across) == 0) {
                    continue;
                }
                for (int i = cellStarts[at]; i < cellStarts[at + 1]; i++) {
                    int other = cellEdges[i];
                    if (stamps[other] != stamp) {
                        stamps[other] = stamp;
                        consider(edge, other, from, to);
                    }
                }
            }
        }
    }

    /** Whether any of another edge lies ahead of a piece, or beside what is ahead, within the reach of its discs. */
    private void consider(int edge, int other, double from, double to) {
        double dx = fromX[other] - fromX[edge], dy = fromY[other] - fromY[edge];
        double ex = dx + length[other] * normalY[other], ey = dy - length[other] * normalX[other];
        double in = dx * normalX[edge] + dy * normalY[edge], inEnd = ex * normalX[edge] + ey * normalY[edge];
        double at = dx * normalY[edge] - dy * normalX[edge], atEnd = ex * normalY[edge] - ey * normalX[edge];
        if (other == edge || in <= 0 && inEnd <= 0 || in > 2 * reach && inEnd > 2 * reach
                || at < from - reach && atEnd < from - reach || at > to + reach && atEnd > to + reach) {
            return;
        }
        addNear(other);
        anyAcross |= normalX[edge] * normalX[other] + normalY[edge] * normalY[other] < ACROSS;
    }

    /** From a place, with its centre straight in from there. */
    void grow(double x, double y, double inX, double inY) {
        radius = reach;
        touched = NONE;
        for (int i = 0; i < nearCount && anyAcross; i++) {
            if (near[i] != beside) {
                touch(near[i], x, y, inX, inY);
            }
        }
        radius = touched == NONE ? Double.POSITIVE_INFINITY : radius;
    }

    private void touch(int edge, double x, double y, double inX, double inY) {
        double dx = x - fromX[edge], dy = y - fromY[edge];
        double away = dx * normalX[edge] + dy * normalY[edge];
        double along = inX * normalX[edge] + inY * normalY[edge];
        if (away >= radius * (1 - along) || away <= -radius * (1 + along)) {
            return;
        }
        if (away > -TOUCHING_MM) {
            double r = Math.max(0, away) / (1 - along);
            double at = dx * normalY[edge] - dy * normalX[edge] + r * (inX * normalY[edge] - inY * normalX[edge]);
            if (at >= 0 && at <= length[edge]) {
                touchAt(edge, at, r, along);
            } else {
                touchCorner(edge, at < 0 ? 0 : length[edge], x, y, inX, inY);
            }
        } else {
            touchCorner(edge, 0, x, y, inX, inY);
            touchCorner(edge, length[edge], x, y, inX, inY);
        }
    }

    private void touchCorner(int edge, double at, double x, double y, double inX, double inY) {
        double dx = toX(edge, at) - x, dy = toY(edge, at) - y, squared = dx * dx + dy * dy, in = inX * dx + inY * dy;
        if (squared > TOUCHING_MM && in > 0 && squared < 2 * in * radius) {
            double r = squared / (2 * in);
            touchAt(edge, at, r, -(in - r) / r);
        }
    }

    private void touchAt(int edge, double at, double r, double cosineOfNormals) {
        if (r < radius) {
            radius = r;
            touched = edge;
            part = at / length[edge];
            cosine = cosineOfNormals;
        }
    }
}
