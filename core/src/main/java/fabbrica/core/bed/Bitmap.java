package fabbrica.core.bed;

import fabbrica.core.mesh.model.Bounds;
import fabbrica.core.mesh.model.Mesh;

/** A grid of bits, a row in whole words, for shapes that must not overlap. */
final class Bitmap {

    private final int width;
    private final int height;
    private final int words;
    private final long[] bits;

    Bitmap(int width, int height) {
        this.width = width;
        this.height = height;
        this.words = (width + 63) / 64;
        this.bits = new long[words * height];
    }

    int width() {
        return width;
    }

    int height() {
        return height;
    }

    void set(int x, int y) {
        if (x >= 0 && y >= 0 && x < width && y < height) {
            bits[y * words + (x >> 6)] |= 1L << x;
        }
    }

    boolean get(int x, int y) {
        return (bits[y * words + (x >> 6)] >>> x & 1) != 0;
    }

    /** Sets all bits of a row from {@code from} up to, not including, {@code to}, as far as they exist. */
    void setRun(int y, int from, int to) {
        if (y < 0 || y >= height) {
            return;
        }
        int first = Math.max(0, from), end = Math.min(width, to);
        while (first < end) {
            int inWord = Math.min(end, (first | 63) + 1);
            long run = inWord - first == 64 ? -1L : (1L << inWord - first) - 1 << first;
            bits[y * words + (first >> 6)] |= run;
            first = inWord;
        }
    }

    /** Every bit grown into a disc of the given radius in cells; the new map has a margin of that width around it. */
    Bitmap grown(int radius) {
        if (radius == 0) {
            return this;
        }
        Bitmap grown = new Bitmap(width + 2 * radius, height + 2 * radius);
        for (int y = 0; y < height; y++) {
            for (int x = nextSet(0, y); x < width;) {
                int end = x;
                while (end < width && get(end, y)) {
                    end++;
                }
                for (int dy = -radius; dy <= radius; dy++) {
                    // A cell farther than the circle, since cells have corners.
                    int reach = Math.min(radius, (int) Math.ceil(Math.sqrt(radius * radius - dy * dy)));
                    grown.setRun(y + dy + radius, x - reach + radius, end + reach + radius);
                }
                x = nextSet(end, y);
            }
        }
        return grown;
    }

    int nextSet(int from, int y) {
        for (int x = from; x < width;) {
            long word = bits[y * words + (x >> 6)] >>> x;
            if (word != 0) {
                return x + Long.numberOfTrailingZeros(word);
            }
            x = (x | 63) + 1;
        }
        return width;
    }

    /**
     * The first column from {@code x} on at which {@code shape}, with its corner in row {@code y}, overlaps no bit set here. Where it overlaps one, it does so
     * until the whole run of its own bits that meets it is past it.
     *
     * @param last the last column asked about
     * @return {@code last + 1} or more when there is none
     */
    int firstFree(Bitmap shape, int x, int y, int last) {
        int column = x;
        for (int row = 0, free = 0; free < shape.height && column <= last; row = row + 1 == shape.height ? 0 : row + 1) {
            int past = pastOverlap(shape, row, column, y + row);
            free = past == column ? free + 1 : 0;
            while (past != column && past <= last) {
                column = past;
                past = pastOverlap(shape, row, column, y + row);
            }
            column = past;
        }
        return column;
    }

    /** @return {@code x} when the row of {@code shape} overlaps nothing with its first column there */
    private int pastOverlap(Bitmap shape, int row, int x, int y) {
        int shift = x & 63, at = y * words + (x >> 6);
        long carried = 0;
        for (int w = 0; w <= shape.words; w++) {
            long word = w < shape.words ? shape.bits[row * shape.words + w] : 0;
            long placed = word << shift | carried;
            if (placed != 0 && (bits[at + w] & placed) != 0) {
                int met = ((x >> 6) + w << 6) + 63 - Long.numberOfLeadingZeros(bits[at + w] & placed);
                return met - shape.runStart(met - x, row) + 1;
            }
            carried = shift == 0 ? 0 : word >>> 64 - shift;
        }
        return x;
    }

    /** The first of the bits set without a gap up to the one at (x, y). */
    private int runStart(int x, int y) {
        long upTo = -1L >>> 63 - (x & 63);
        for (int word = x >> 6; word >= 0; word--, upTo = -1L) {
            long gaps = ~bits[y * words + word] & upTo;
            if (gaps != 0) {
                return (word << 6) + 64 - Long.numberOfLeadingZeros(gaps);
            }
        }
        return 0;
    }

    /** Sets every bit of {@code shape}, with its corner at (x, y). */
    void add(Bitmap shape, int x, int y) {
        for (int row = 0; row < shape.height; row++) {
            for (int from = shape.nextSet(0, row); from < shape.width;) {
                int end = from;
                while (end < shape.width && shape.get(end, row)) {
                    end++;
                }
                setRun(y + row, x + from, x + end);
                from = shape.nextSet(end, row);
            }
        }
    }

    /** Every cell that a triangle, seen from above, touches. */
    static Bitmap ofMesh(Mesh mesh, Bounds bounds, double cell) {
        Bitmap map = new Bitmap((int) (bounds.sizeX() / cell) + 1, (int) (bounds.sizeY() / cell) + 1);
        for (int t = 0; t < mesh.triangleCount(); t++) {
            double[] x = new double[3], y = new double[3];
            for (int corner = 0; corner < 3; corner++) {
                x[corner] = (mesh.x(mesh.corner(t, corner)) - bounds.minX()) / cell;
                y[corner] = (mesh.y(mesh.corner(t, corner)) - bounds.minY()) / cell;
            }
            int lastRow = (int) Math.max(y[0], Math.max(y[1], y[2]));
            for (int row = (int) Math.min(y[0], Math.min(y[1], y[2])); row <= lastRow; row++) {
                drawRow(map, x, y, row);
            }
        }
        return map;
    }

    /** The part of a triangle within one row, from its leftmost to its rightmost place there. */
    private static void drawRow(Bitmap map, double[] x, double[] y, int row) {
        double from = Double.POSITIVE_INFINITY, to = Double.NEGATIVE_INFINITY;
        for (int i = 0; i < 3; i++) {
            int j = (i + 1) % 3;
            double low = Math.max(row, Math.min(y[i], y[j])), high = Math.min(row + 1, Math.max(y[i], y[j]));
            if (low <= high) {
                double slope = y[i] == y[j] ? 0 : (x[j] - x[i]) / (y[j] - y[i]);
                double a = y[i] == y[j] ? x[i] : x[i] + (low - y[i]) * slope;
                double b = y[i] == y[j] ? x[j] : x[i] + (high - y[i]) * slope;
                from = Math.min(from, Math.min(a, b));
                to = Math.max(to, Math.max(a, b));
            }
        }
        if (from <= to) {
            map.setRun(row, (int) from, (int) to + 1);
        }
    }
}
