package fabbrica.core.toolpath;

import java.util.Arrays;
import java.util.List;

/**
 * Parallel lines at equal distances, clipped to an area: on each line the sorted stretches that lie inside. Line
 * {@code k} has its middle at {@code (k + ½) · spacing} from the origin whatever the area, so that hatches of different
 * layers with one direction and spacing can be intersected and subtracted line by line. Even–odd rule; linear in the
 * number of crossings but for sorting each line.
 */
final class HatchLines {

    private final double cos;
    private final double sin;
    private final double spacing;
    private final int firstLine;
    /** Line {@code firstLine + i} has its stretches at {@code ends[starts[i] .. starts[i + 1])}, from and to in turn. */
    private final int[] starts;
    private final double[] ends;

    private HatchLines(double cos, double sin, double spacing, int firstLine, int[] starts, double[] ends) {
        this.cos = cos;
        this.sin = sin;
        this.spacing = spacing;
        this.firstLine = firstLine;
        this.starts = starts;
        this.ends = ends;
    }

    static HatchLines of(List<double[]> rings, double directionDeg, double spacingMm) {
        double cos = Math.cos(Math.toRadians(directionDeg)), sin = Math.sin(Math.toRadians(directionDeg));
        double lowest = Double.POSITIVE_INFINITY, highest = Double.NEGATIVE_INFINITY;
        for (double[] ring : rings) {
            for (int i = 0; i < ring.length; i += 2) {
                double across = cos * ring[i + 1] - sin * ring[i];
                lowest = Math.min(lowest, across);
                highest = Math.max(highest, across);
            }
        }
        if (rings.isEmpty()) {
            return new HatchLines(cos, sin, spacingMm, 0, new int[1], new double[0]);
        }
        int first = lineAtOrAbove(lowest, spacingMm);
        int lines = Math.max(0, lineAtOrAbove(highest, spacingMm) - first);
        int[] starts = new int[lines + 1];
        for (double[] ring : rings) {
            for (int i = 0, j = ring.length - 2; i < ring.length; j = i, i += 2) {
                double a = cos * ring[j + 1] - sin * ring[j], b = cos * ring[i + 1] - sin * ring[i];
                int to = lineAtOrAbove(Math.max(a, b), spacingMm) - first;
                for (int line = lineAtOrAbove(Math.min(a, b), spacingMm) - first; line < to; line++) {
                    starts[line + 1]++;
                }
            }
        }
        for (int line = 0; line < lines; line++) {
            starts[line + 1] += starts[line];
        }
        double[] ends = new double[starts[lines]];
        int[] filled = Arrays.copyOf(starts, lines);
        for (double[] ring : rings) {
            for (int i = 0, j = ring.length - 2; i < ring.length; j = i, i += 2) {
                double a = cos * ring[j + 1] - sin * ring[j], b = cos * ring[i + 1] - sin * ring[i];
                int to = lineAtOrAbove(Math.max(a, b), spacingMm) - first;
                int line = lineAtOrAbove(Math.min(a, b), spacingMm) - first;
                if (line < to) {
                    double alongA = cos * ring[j] + sin * ring[j + 1], alongB = cos * ring[i] + sin * ring[i + 1];
                    double slope = (alongB - alongA) / (b - a);
                    for (; line < to; line++) {
                        ends[filled[line]++] = alongA + ((first + line + 0.5) * spacingMm - a) * slope;
                    }
                }
            }
        }
        for (int line = 0; line < lines; line++) {
            Arrays.sort(ends, starts[line], starts[line + 1]);
        }
        return new HatchLines(cos, sin, spacingMm, first, starts, ends);
    }

    /** What lies inside both. */
    HatchLines and(HatchLines other) {
        return combined(other, true);
    }

    /** What lies inside this one and not inside the other. */
    HatchLines minus(HatchLines other) {
        return combined(other, false);
    }

    int firstLine() {
        return firstLine;
    }

    int lineCount() {
        return starts.length - 1;
    }

    int stretchCount(int line) {
        return (starts[line + 1] - starts[line]) / 2;
    }

    double from(int line, int stretch) {
        return ends[starts[line] + 2 * stretch];
    }

    double to(int line, int stretch) {
        return ends[starts[line] + 2 * stretch + 1];
    }

    double x(int line, double along) {
        return cos * along - sin * across(line);
    }

    double y(int line, double along) {
        return sin * along + cos * across(line);
    }

    double lengthMm() {
        double length = 0;
        for (int i = 0; i < ends.length; i += 2) {
            length += ends[i + 1] - ends[i];
        }
        return length;
    }

    private double across(int line) {
        return (firstLine + line + 0.5) * spacing;
    }

    private HatchLines combined(HatchLines other, boolean wantedInOther) {
        int[] newStarts = new int[starts.length];
        double[] newEnds = new double[ends.length + other.ends.length];
        int count = 0;
        for (int line = 0; line < lineCount(); line++) {
            int theirs = line + firstLine - other.firstLine;
            boolean covered = theirs >= 0 && theirs < other.lineCount();
            int a = starts[line], aEnd = starts[line + 1];
            int b = covered ? other.starts[theirs] : 0, bEnd = covered ? other.starts[theirs + 1] : 0;
            boolean inThis = false, inOther = false, open = false;
            while (a < aEnd || b < bEnd) {
                double at;
                if (b >= bEnd || a < aEnd && ends[a] <= other.ends[b]) {
                    at = ends[a++];
                    inThis = !inThis;
                } else {
                    at = other.ends[b++];
                    inOther = !inOther;
                }
                boolean wanted = inThis && inOther == wantedInOther;
                if (wanted != open) {
                    open = wanted;
                    if (!open && at == newEnds[count - 1]) {
                        count--;
                    } else {
                        newEnds[count++] = at;
                    }
                }
            }
            newStarts[line + 1] = count;
        }
        return new HatchLines(cos, sin, spacing, firstLine, newStarts, Arrays.copyOf(newEnds, count));
    }

    private static int lineAtOrAbove(double across, double spacing) {
        return (int) Math.ceil(across / spacing - 0.5);
    }
}
