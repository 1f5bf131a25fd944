package fabbrica.core.inspect;

import java.util.ArrayList;
import java.util.Arrays;
import java.util.BitSet;
import java.util.Collection;
import java.util.Comparator;
import java.util.List;
import java.util.TreeMap;
import java.util.stream.Collectors;
import java.util.stream.IntStream;
import java.util.stream.Stream;
import org.locationtech.jts.geom.Coordinate;
import org.locationtech.jts.geom.GeometryFactory;
import org.locationtech.jts.geom.LineString;
import org.locationtech.jts.simplify.DouglasPeuckerSimplifier;

/**
 * What is visible of edges: an end of a piece is a corner of the part, or where something begins to hide the edge. Of more than it holds only every
 * second, fourth, eighth… is kept.
 */
final class Pieces {

    static final int CUT = -1;
    private static final GeometryFactory PLANE = new GeometryFactory();

    private final int vertices, most;
    /** Piece {@code p} has the ends {@code 2p} and {@code 2p + 1}: the corner, x and y of each. */
    private int[] corners = new int[256];
    private double[] xy = new double[512];
    private int count;
    private int added;
    private int every = 1;
    /** Of each corner how many pieces end there, and the numbers of their ends, each taken exclusively or with the others. */
    private int[] meeting = {}, linked = {};

    /** @param most pieces that are held, at least one */
    Pieces(int vertices, int most) {
        this.vertices = vertices;
        this.most = most;
    }

    void add(int from, double x0, double y0, int to, double x1, double y1) {
        if (added++ % every != 0) {
            return;
        }
        if (count == most) {
            leaveOutEverySecond();
        }
        if (2 * count == corners.length) {
            corners = Arrays.copyOf(corners, 4 * count);
            xy = Arrays.copyOf(xy, 8 * count);
        }
        put(2 * count, from, x0, y0);
        put(2 * count + 1, to, x1, y1);
        count++;
    }

    private void put(int end, int corner, double x, double y) {
        corners[end] = corner;
        xy[2 * end] = x;
        xy[2 * end + 1] = y;
    }

    private void leaveOutEverySecond() {
        count = (count + 1) / 2;
        every *= 2;
        for (int piece = 1; piece < count; piece++) {
            System.arraycopy(corners, 4 * piece, corners, 2 * piece, 2);
            System.arraycopy(xy, 8 * piece, xy, 4 * piece, 4);
        }
    }

    /**
     * Of lines that are made up of pieces, each drawn as few strokes: the longest of each tile first, then the second longest of each, and so on.
     *
     * @param tile side of a tile
     * @return x0, y0, x1, y1 of each stroke, at most {@code most}
     */
    List<double[]> strokes(double tolerance, int most, double tile) {
        Collection<List<LineString>> tiles = lines(tolerance).stream().sorted(Comparator.comparingDouble(LineString::getLength).reversed())
                .collect(Collectors.groupingBy(line -> tileOf(line.getEnvelopeInternal().centre(), tile), TreeMap::new, Collectors.toList())).values();
        int ranks = tiles.stream().mapToInt(List::size).max().orElse(0);
        return IntStream.range(0, ranks).boxed().flatMap(rank -> tiles.stream().filter(lines -> rank < lines.size()).map(lines -> lines.get(rank)))
                .flatMap(Pieces::strokes).limit(most).toList();
    }

    private static long tileOf(Coordinate at, double tile) {
        return (long) (at.x / tile) << 32 | (long) (at.y / tile);
    }

    private static Stream<double[]> strokes(LineString line) {
        return IntStream.range(1, line.getNumPoints()).mapToObj(i -> new double[] {line.getCoordinateN(i - 1).x, line.getCoordinateN(i - 1).y, line.getCoordinateN(i).x,
                line.getCoordinateN(i).y});
    }

    private List<LineString> lines(double tolerance) {
        link();
        List<LineString> lines = new ArrayList<>();
        BitSet used = new BitSet(count);
        for (int piece = 0; piece < count; piece = used.nextClearBit(piece)) {
            LineString line = PLANE.createLineString(line(first(piece), used));
            lines.add(line.getNumPoints() == 2 ? line : (LineString) DouglasPeuckerSimplifier.simplify(line, tolerance));
        }
        return lines;
    }

    private void link() {
        meeting = new int[vertices];
        linked = new int[vertices];
        for (int end = 0; end < 2 * count; end++) {
            if (corners[end] != CUT) {
                meeting[corners[end]]++;
                linked[corners[end]] ^= end;
            }
        }
    }

    /** The end of the one other piece that goes on where this one ends; −1 when there is none or more. */
    private int next(int end) {
        return corners[end] != CUT && meeting[corners[end]] == 2 ? linked[corners[end]] ^ end : -1;
    }

    /** The end at which the line of a piece begins: of the piece itself where the line is closed. */
    private int first(int piece) {
        int end = 2 * piece;
        for (int before = next(end); before >= 0; before = next(end)) {
            end = before ^ 1;
            if (end == 2 * piece) {
                break;
            }
        }
        return end;
    }

    private Coordinate[] line(int first, BitSet used) {
        List<Coordinate> line = new ArrayList<>(List.of(at(first)));
        for (int end = first; end >= 0 && !used.get(end / 2); end = next(end ^ 1)) {
            used.set(end / 2);
            line.add(at(end ^ 1));
        }
        return line.toArray(Coordinate[]::new);
    }

    private Coordinate at(int end) {
        return new Coordinate(xy[2 * end], xy[2 * end + 1]);
    }
}
