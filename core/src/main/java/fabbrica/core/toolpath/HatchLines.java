package fabbrica.core.toolpath;

import java.util.Arrays;
import java.util.List;

/**
 * Parallel lines at equal distances, clipped to an area: on each line the sorted stretches that lie inside. Line
 * {@code k} has its middle at {@code (k + ½) · spacing + shift} from the origin whatever the area, so that hatches of
 * different layers with one {@link Ruling} can be joined, intersected and subtracted line by line. Even–odd rule; linear in the
 * number of crossings but for sorting each line.
 */
final class HatchLines {

    /** How lines are ruled: direction from the x axis, distance from line to line, and shift of all of them. */
    record Ruling(double directionDeg, double spacingMm, double shiftMm) {

        static Ruling of(double directionDeg, double spacingMm) {
            return new Ruling(directionDeg, spacingMm, 0);
        }

        /** As a record has it, but not put together at run time: hatches are looked up by it thousands of times. */
        @Override
        public boolean equals(Object other) {
            return other instanceof Ruling ruling && directionDeg == ruling.directionDeg && spacingMm == ruling.spacingMm
                    && shiftMm == ruling.shiftMm;
        }

        @Override
        public int hashCode() {
            return Double.hashCode(directionDeg) + 31 * Double.hashCode(spacingMm) + 961 * Double.hashCode(shiftMm);
        }

        private int lineAtOrAbove(double across) {
            double line = (across - shiftMm) / spacingMm - 0.5;
            int truncated = (int) line;
            return truncated < line ? truncated + 1 : truncated;
        }

        private double middle(int line) {
            return (line + 0.5) * spacingMm + shiftMm;
        }
    }

    private final Ruling ruling;
    private final double cos;
    private final double sin;
    private final int firstLine;
    /** Line {@code firstLine + i} has its stretches at {@code ends[starts[i] .. starts[i + 1])}, from and to in turn. */
    private final int[] starts;
    private final double[] ends;

    private HatchLines(Ruling ruling, int firstLine, int[] starts, double[] ends) {
        this.ruling = ruling;
        this.cos = Math.cos(Math.toRadians(ruling.directionDeg()));
        this.sin = Math.sin(Math.toRadians(ruling.directionDeg()));
        this.firstLine = firstLine;
        this.starts = starts;
        this.ends = ends;
    }

    static HatchLines none(Ruling ruling) {
        return new HatchLines(ruling, 0, new int[1], new double[0]);
    }

    static HatchLines of(List<double[]> rings, Ruling ruling) {
        double cos = Math.cos(Math.toRadians(ruling.directionDeg()));
        double sin = Math.sin(Math.toRadians(ruling.directionDeg()));
        if (rings.isEmpty()) {
            return none(ruling);
        }
        int points = rings.stream().mapToInt(ring -> ring.length / 2).sum(), at = 0;
        int[] above = new int[points];
        int first = Integer.MAX_VALUE, end = Integer.MIN_VALUE;
        for (double[] ring : rings) {
            for (int i = 0; i < ring.length; i += 2, at++) {
                above[at] = ruling.lineAtOrAbove(cos * ring[i + 1] - sin * ring[i]);
                first = Math.min(first, above[at]);
                end = Math.max(end, above[at]);
            }
        }
        int lines = end - first;
        int[] starts = new int[lines + 1];
        at = 0;
        for (double[] ring : rings) {
            int before = above[at + ring.length / 2 - 1];
            for (int i = 0; i < ring.length; i += 2, at++) {
                for (int line = Math.min(before, above[at]); line < Math.max(before, above[at]); line++) {
                    starts[line - first + 1]++;
                }
                before = above[at];
            }
        }
        for (int line = 0; line < lines; line++) {
            starts[line + 1] += starts[line];
        }
        double[] ends = new double[starts[lines]];
        int[] filled = Arrays.copyOf(starts, lines);
        at = 0;
        for (double[] ring : rings) {
            int before = above[at + ring.length / 2 - 1];
            for (int i = 0, j = ring.length - 2; i < ring.length; j = i, i += 2, at++) {
                int line = Math.min(before, above[at]), to = Math.max(before, above[at]);
                before = above[at];
                if (line < to) {
                    double a = cos * ring[j + 1] - sin * ring[j], b = cos * ring[i + 1] - sin * ring[i];
                    double alongA = cos * ring[j] + sin * ring[j + 1], alongB = cos * ring[i] + sin * ring[i + 1];
                    double slope = (alongB - alongA) / (b - a);
                    for (; line < to; line++) {
                        ends[filled[line - first]++] = alongA + (ruling.middle(line) - a) * slope;
                    }
                }
            }
        }
        for (int line = 0; line < lines; line++) {
            Arrays.sort(ends, starts[line], starts[line + 1]);
        }
        return new HatchLines(ruling, first, starts, ends);
    }

    /** What lies inside both. */
    HatchLines and(HatchLines other) {
        return ends.length == 0 ? this : combined(other, firstLine, starts.length - 1, false, false, false, true);
    }

    /** What lies inside this one and not inside the other. */
    HatchLines minus(HatchLines other) {
        return ends.length == 0 || other.ends.length == 0 ? this
                : combined(other, firstLine, starts.length - 1, false, false, true, false);
    }

    /** What lies inside either. */
    HatchLines or(HatchLines other) {
        if (ends.length == 0 || other.ends.length == 0) {
            return ends.length == 0 ? other : this;
        }
        int first = Math.min(firstLine, other.firstLine);
        int end = Math.max(firstLine + lineCount(), other.firstLine + other.lineCount());
        return combined(other, first, end - first, false, true, true, true);
    }

    /** Every {@code lines} neighbouring lines joined into one in their middle. */
    HatchLines coarser(int lines) {
        Ruling wide = new Ruling(ruling.directionDeg(), ruling.spacingMm() * lines, ruling.shiftMm());
        HatchLines joined = none(wide);
        for (int place = 0; place < lines; place++) {
            int first = Math.ceilDiv(firstLine - place, lines);
            int count = Math.max(0, Math.floorDiv(firstLine + lineCount() - 1 - place, lines) - first + 1);
            int[] someStarts = new int[count + 1];
            double[] some = new double[ends.length];
            for (int line = 0; line < count; line++) {
                int from = (first + line) * lines + place - firstLine;
                int length = starts[from + 1] - starts[from];
                System.arraycopy(ends, starts[from], some, someStarts[line], length);
                someStarts[line + 1] = someStarts[line] + length;
            }
            joined = joined.or(new HatchLines(wide, first, someStarts, Arrays.copyOf(some, someStarts[count])));
        }
        return joined;
    }

    /** Without stretches that are shorter. */
    HatchLines atLeast(double lengthMm) {
        int[] newStarts = new int[starts.length];
        double[] newEnds = new double[ends.length];
        int count = 0;
        for (int line = 0; line < lineCount(); line++) {
            for (int i = starts[line]; i < starts[line + 1]; i += 2) {
                if (ends[i + 1] - ends[i] >= lengthMm) {
                    newEnds[count++] = ends[i];
                    newEnds[count++] = ends[i + 1];
                }
            }
            newStarts[line + 1] = count;
        }
        return new HatchLines(ruling, firstLine, newStarts, Arrays.copyOf(newEnds, count));
    }

    /** Those whole stretches that share some length with the other's. */
    HatchLines touching(HatchLines other) {
        int[] newStarts = new int[starts.length];
        double[] newEnds = new double[ends.length];
        int count = 0;
        for (int line = 0; line < lineCount(); line++) {
            int theirs = line + firstLine - other.firstLine;
            boolean covered = theirs >= 0 && theirs < other.lineCount();
            int b = covered ? other.starts[theirs] : 0, bEnd = covered ? other.starts[theirs + 1] : 0;
            for (int a = starts[line]; a < starts[line + 1]; a += 2) {
                while (b < bEnd && other.ends[b + 1] <= ends[a]) {
                    b += 2;
                }
                if (b < bEnd && other.ends[b] < ends[a + 1]) {
                    newEnds[count++] = ends[a];
                    newEnds[count++] = ends[a + 1];
                }
            }
            newStarts[line + 1] = count;
        }
        return new HatchLines(ruling, firstLine, newStarts, Arrays.copyOf(newEnds, count));
    }

    /** Whether the point lies in a stretch of the line nearest to it. */
    boolean contains(double x, double y) {
        int line = ruling.lineAtOrAbove(cos * y - sin * x - ruling.spacingMm() / 2) - firstLine;
        if (line < 0 || line >= lineCount()) {
            return false;
        }
        int at = Arrays.binarySearch(ends, starts[line], starts[line + 1], cos * x + sin * y);
        return ((at < 0 ? -at - 1 : at) - starts[line]) % 2 == 1;
    }

    boolean isEmpty() {
        return ends.length == 0;
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
        return ruling.middle(firstLine + line);
    }

    /** @param wanted by whether a place lies in this and in the other: 0 neither, 1 the other, 2 this, 3 both */
    private HatchLines combined(HatchLines other, int first, int lines, boolean... wanted) {
        int[] newStarts = new int[lines + 1];
        int theirFirst = Math.clamp(first - other.firstLine, 0, other.lineCount());
        int theirEnd = Math.clamp(first + lines - other.firstLine, 0, other.lineCount());
        double[] newEnds = new double[ends.length + other.starts[theirEnd] - other.starts[theirFirst]];
        int count = 0;
        for (int line = 0; line < lines; line++) {
            int own = line + first - firstLine, theirs = line + first - other.firstLine;
            boolean has = own >= 0 && own < lineCount(), covered = theirs >= 0 && theirs < other.lineCount();
            int a = has ? starts[own] : 0, aEnd = has ? starts[own + 1] : 0;
            int b = covered ? other.starts[theirs] : 0, bEnd = covered ? other.starts[theirs + 1] : 0;
            int inside = 0;
            boolean open = false;
            while (a < aEnd || b < bEnd) {
                double at;
                if (b >= bEnd || a < aEnd && ends[a] <= other.ends[b]) {
                    at = ends[a++];
                    inside ^= 2;
                } else {
                    at = other.ends[b++];
                    inside ^= 1;
                }
                if (wanted[inside] != open) {
                    open = !open;
                    if (count > newStarts[line] && at == newEnds[count - 1]) {
                        count--;
                    } else {
                        newEnds[count++] = at;
                    }
                }
            }
            newStarts[line + 1] = count;
        }
        return new HatchLines(ruling, first, newStarts, Arrays.copyOf(newEnds, count));
    }
}
