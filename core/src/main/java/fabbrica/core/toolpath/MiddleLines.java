package fabbrica.core.toolpath;

import java.util.ArrayList;
import java.util.Arrays;
import java.util.Comparator;
import java.util.List;
import java.util.Optional;

/**
 * Single lines along the middle of where an area is thin: the centres of its {@link LocalThickness discs}, each as wide as
 * its disc. Every stretch of the middle has two sides; it is drawn from the side that comes first. Where the area ends
 * ahead of a line, the line goes on by what fills the end. What is too small to have a middle gets a short line that holds
 * as much.
 */
final class MiddleLines {

    /** Places on the middle that are farther apart than these steps are not joined. */
    private static final double FARTHEST_STEPS = 3.5;
    /** An outline from one side of a line round to the other that is longer, in widths, is no end. */
    private static final double LONGEST_END = 2.5;

    private final LocalThickness thickness;
    private final boolean[] single;
    private final boolean[] drawn;
    private final double farthest;
    private final List<Piece> pieces = new ArrayList<>();

    /** A stretch of the middle by the places that it was drawn from. */
    private record Piece(List<Integer> places, boolean closed) {
    }

    private MiddleLines(LocalThickness thickness, boolean[] single, boolean[] drawn, double stepMm) {
        this.thickness = thickness;
        this.single = single;
        this.drawn = drawn;
        this.farthest = FARTHEST_STEPS * stepMm;
    }

    /**
     * @param single the places between which one line is to be laid
     * @param more   those between which two are laid, so that single lines end where these begin
     */
    static List<WallLine> of(LocalThickness thickness, boolean[] single, boolean[] more, double stepMm) {
        boolean[] drawn = single.clone();
        for (int ring = 0; ring < thickness.ringCount(); ring++) {
            int end = thickness.ringStart(ring + 1);
            for (int i = thickness.ringStart(ring), last = end - 1; i < end; last = i++) {
                drawn[i] |= more[i] && single[last];
                drawn[last] |= more[last] && single[i];
            }
        }
        MiddleLines middle = new MiddleLines(thickness, single, drawn, stepMm);
        for (int ring = 0; ring < thickness.ringCount(); ring++) {
            middle.trace(thickness.ringStart(ring), thickness.ringStart(ring + 1));
        }
        middle.join();
        return middle.pieces.stream().map(middle::line).filter(line -> line.size() > 1).toList();
    }

    /** A line through the middle of an area that is about as wide as long, of its largest disc's width. */
    static WallLine dot(LocalThickness thickness, double areaMm2) {
        int widest = 0, far = 0;
        for (int i = 0; i < thickness.count(); i++) {
            widest = thickness.radiusMm(i) > thickness.radiusMm(widest) ? i : widest;
        }
        double x = thickness.x(widest) + thickness.radiusMm(widest) * thickness.normalX(widest);
        double y = thickness.y(widest) + thickness.radiusMm(widest) * thickness.normalY(widest);
        double most = 0;
        for (int i = 0; i < thickness.count(); i++) {
            double away = Math.hypot(thickness.x(i) - x, thickness.y(i) - y);
            if (away > most) {
                most = away;
                far = i;
            }
        }
        double width = 2 * thickness.radiusMm(widest), half = areaMm2 / width / 2;
        double dx = (thickness.x(far) - x) / most * half, dy = (thickness.y(far) - y) / most * half;
        return new WallLine(new double[] {x - dx, y - dy, x + dx, y + dy}, new double[] {width, width}, false,
                WallLine.MIDDLE);
    }

    private boolean traced(int place) {
        return drawn[place] && thickness.facing(place) && thickness.partner(place) > place;
    }

    private double middleX(int place) {
        return thickness.x(place) + thickness.radiusMm(place) * thickness.normalX(place);
    }

    private double middleY(int place) {
        return thickness.y(place) + thickness.radiusMm(place) * thickness.normalY(place);
    }

    private double apart(int a, int b) {
        double dx = middleX(a) - middleX(b), dy = middleY(a) - middleY(b);
        return Math.sqrt(dx * dx + dy * dy);
    }

    private void trace(int from, int end) {
        List<List<Integer>> stretches = new ArrayList<>();
        boolean broken = true;
        int last = -1;
        for (int i = from; i < end; i++) {
            broken |= !drawn[i];
            if (traced(i)) {
                if (broken || last < 0 || apart(last, i) > farthest) {
                    stretches.add(new ArrayList<>());
                }
                stretches.getLast().add(i);
                last = i;
                broken = false;
            }
        }
        if (stretches.isEmpty()) {
            return;
        }
        int first = stretches.getFirst().getFirst();
        boolean round = apart(last, first) <= farthest;
        for (int i = from; i < first; i++) {
            round &= drawn[i];
        }
        for (int i = last; i < end; i++) {
            round &= drawn[i];
        }
        boolean closed = round && stretches.size() == 1 && length(stretches.getFirst()) > 2 * farthest;
        if (round && !closed && stretches.size() > 1) {
            stretches.getLast().addAll(stretches.removeFirst());
        }
        stretches.forEach(stretch -> pieces.add(new Piece(stretch, closed)));
    }

    private double length(List<Integer> places) {
        double length = 0;
        for (int i = 1; i < places.size(); i++) {
            length += apart(places.get(i - 1), places.get(i));
        }
        return length;
    }

    /** A meeting of two ends; end 2n is the first and 2n + 1 the last place of piece n. */
    private record Meeting(int end, int other, double apart) {
    }

    /** Ends that meet become one line, the nearest first, but for those where two lines begin. */
    private void join() {
        int[] partners = new int[2 * pieces.size()];
        Arrays.fill(partners, -1);
        for (Meeting meeting : meetings()) {
            if (partners[meeting.end()] < 0 && partners[meeting.other()] < 0) {
                partners[meeting.end()] = meeting.other();
                partners[meeting.other()] = meeting.end();
            }
        }
        List<Piece> joined = new ArrayList<>();
        boolean[] done = new boolean[pieces.size()];
        for (int end = 0; end < partners.length; end++) {
            if (partners[end] < 0 && !done[end / 2]) {
                joined.add(new Piece(chain(end, partners, done), pieces.get(end / 2).closed()));
            }
        }
        for (int piece = 0; piece < done.length; piece++) {
            if (!done[piece]) {
                joined.add(new Piece(chain(2 * piece, partners, done), true));
            }
        }
        pieces.clear();
        pieces.addAll(joined);
    }

    private List<Meeting> meetings() {
        List<Meeting> meetings = new ArrayList<>();
        for (int end = 0; end < 2 * pieces.size(); end++) {
            for (int other = end + 1; other < 2 * pieces.size() && !pieces.get(end / 2).closed(); other++) {
                boolean loop = end / 2 == other / 2 && length(pieces.get(end / 2).places()) < 2 * farthest;
                double apart = apart(place(end), place(other));
                if (apart < farthest && !loop && !pieces.get(other / 2).closed() && single[place(end)] && single[place(other)]) {
                    meetings.add(new Meeting(end, other, apart));
                }
            }
        }
        meetings.sort(Comparator.comparingDouble(Meeting::apart));
        return meetings;
    }

    private int place(int end) {
        List<Integer> places = pieces.get(end / 2).places();
        return end % 2 == 0 ? places.getFirst() : places.getLast();
    }

    private List<Integer> chain(int from, int[] partners, boolean[] done) {
        List<Integer> places = new ArrayList<>();
        for (int end = from; end >= 0 && !done[end / 2]; end = partners[end ^ 1]) {
            done[end / 2] = true;
            places.addAll(end % 2 == 0 ? pieces.get(end / 2).places() : pieces.get(end / 2).places().reversed());
        }
        return places;
    }

    private WallLine line(Piece piece) {
        List<Integer> places = piece.places();
        int size = places.size();
        double[] points = new double[4 * size + 6], shares = new double[2 * size + 3];
        int count = piece.closed() ? 0 : addEnd(places.getFirst(), places.get(Math.min(1, size - 1)), points, shares, 0);
        for (int i = 0; i < size; i++) {
            int place = places.get(i), before = places.get(i == 0 ? Math.min(1, size - 1) : i - 1);
            double back = !piece.closed() && (i == 0 || i == size - 1) ? trimmed(place, before) : 0;
            count = add(points, shares, count, middleX(place) + back * (middleX(before) - middleX(place)),
                    middleY(place) + back * (middleY(before) - middleY(place)),
                    2 * (thickness.radiusMm(place) + back * (thickness.radiusMm(before) - thickness.radiusMm(place))));
            if (i + 1 < size || piece.closed()) {
                count = addCorner(place, places.get((i + 1) % size), points, shares, count);
            }
        }
        count = piece.closed() ? count : addEnd(places.getLast(), places.get(Math.max(0, size - 2)), points, shares, count);
        return WallLine.simplified(Arrays.copyOf(points, 2 * count), Arrays.copyOf(shares, count), piece.closed(),
                WallLine.MIDDLE);
    }

    /** Around a bend the centres of the discs cut the corner, where lines beside the same edges would meet in it. */
    private int addCorner(int a, int b, double[] points, double[] shares, int at) {
        if (thickness.stretch(a) != 1 || thickness.stretch(b) != 1 || side(a, a, b) * side(b, a, b) <= 0) {
            return at;
        }
        Optional<double[]> corner = meeting(a, b).or(() -> meeting(b, a));
        return corner.isEmpty() ? at : add(points, shares, at, corner.get()[0], corner.get()[1],
                thickness.radiusMm(a) + thickness.radiusMm(b));
    }

    /** On which side of the line from a to b the outline lies at a place: above zero to the right. */
    private double side(int place, int a, int b) {
        return (middleX(b) - middleX(a)) * thickness.normalY(place) - (middleY(b) - middleY(a)) * thickness.normalX(place);
    }

    private Optional<double[]> meeting(int a, int b) {
        return thickness.mitre(a, middleX(a), middleY(a), b, middleX(b), middleY(b), farthest);
    }

    /**
     * By what part of its last step a line is shortened that ends where two lines begin: they begin square to the outline,
     * which widens, and it ends square to itself; half way both lay as much twice as they leave out.
     */
    private double trimmed(int place, int before) {
        double step = apart(place, before), grown = thickness.radiusMm(place) - thickness.radiusMm(before);
        if (single[place] || grown <= 0 || step <= grown) {
            return 0;
        }
        return Math.min(1, thickness.radiusMm(place) * grown / Math.sqrt(step * step - grown * grown) / 2 / step);
    }

    private static int add(double[] points, double[] shares, int at, double x, double y, double share) {
        points[2 * at] = x;
        points[2 * at + 1] = y;
        shares[at] = share;
        return at + 1;
    }

    /** A point ahead of the last disc, so far away as the area ahead of it fills a line of its width. */
    private int addEnd(int place, int before, double[] points, double[] shares, int at) {
        int partner = (int) Math.round(thickness.partner(place));
        double width = 2 * thickness.radiusMm(place);
        double longest = LONGEST_END * width + farthest;
        List<double[]> end = end(place, partner, before, longest);
        if (end.isEmpty()) {
            end = end(partner, place, before, longest);
        }
        if (end.isEmpty()) {
            return at;
        }
        double[] ring = new double[2 * end.size() + 2];
        for (int i = 0; i < end.size(); i++) {
            ring[2 * i] = end.get(i)[0];
            ring[2 * i + 1] = end.get(i)[1];
        }
        ring[2 * end.size()] = middleX(place);
        ring[2 * end.size() + 1] = middleY(place);
        double[] first = end.getFirst(), last = end.getLast();
        double acrossX = last[0] - first[0], acrossY = last[1] - first[1], across = Math.hypot(acrossX, acrossY);
        double ahead = Math.abs(Rings.signedArea(ring)) / width;
        if (across < width / 2 || ahead < 1e-3) {
            return at;
        }
        // The outline runs with the solid on its left, so that what is ahead lies to the right of the way across.
        return add(points, shares, at, middleX(place) + acrossY / across * ahead, middleY(place) - acrossX / across * ahead,
                width);
    }

    /** The outline from one place on to another of the same ring, if it is short, all of it thin, and not where the line is. */
    private List<double[]> end(int from, int to, int line, double longest) {
        int ring = 0;
        while (thickness.ringStart(ring + 1) <= from) {
            ring++;
        }
        int start = thickness.ringStart(ring), size = thickness.ringStart(ring + 1) - start;
        if (to < start || to >= start + size) {
            return List.of();
        }
        List<double[]> points = new ArrayList<>();
        double length = 0;
        for (int i = from; ; i = start + (i - start + 1) % size) {
            if (!single[i] || i == line && line != from && line != to) {
                return List.of();
            }
            if (i != from && thickness.edge(i) != thickness.edge(start + (i - start + size - 1) % size)) {
                points.add(new double[] {thickness.cornerX(thickness.edge(i)), thickness.cornerY(thickness.edge(i))});
            }
            points.add(new double[] {thickness.x(i), thickness.y(i)});
            double[] last = points.get(Math.max(0, points.size() - 2)), now = points.getLast();
            length += Math.hypot(now[0] - last[0], now[1] - last[1]);
            if (length > longest) {
                return List.of();
            }
            if (i == to) {
                return points;
            }
        }
    }
}
