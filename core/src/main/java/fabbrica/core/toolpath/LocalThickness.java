package fabbrica.core.toolpath;

import java.util.Arrays;
import java.util.List;
import java.util.Optional;

/**
 * How thick an area is along its outline: at places along every edge, and fanned about every corner that points into the
 * solid, the largest disc inside the area that touches the outline there, and where else it touches. The centres of the
 * discs make up the medial axis (Blum, "A transformation for extracting new descriptors of shape", 1967); discs are found
 * edge by edge, as the shrinking balls of Ma, Bae and Choi, "3D medial axis point approximation using nearest neighbors
 * and the normal field" (2012), but against whole edges, so that the radius is exact at each place. Discs larger than a
 * given reach are not told apart.
 *
 * <p>Where the other touching point does not face the place, as near corners that stick out, the disc says nothing of how
 * thick the area is: such places take the thickness of those beside them.
 */
final class LocalThickness {

    /** Two sides that meet at less than this angle face each other. */
    private static final double FACING = -Math.cos(Math.toRadians(60));
    /** An edge within reach that turns away by less goes on as a curve does, and does not lie across. */
    private static final double ACROSS = 0.3;
    private static final double FAN = Math.toRadians(15);
    private static final double GENTLE = Math.cos(FAN);
    /** A corner turning by more is cut square, as {@link RingOffset} does. */
    private static final double SHARP = Math.toRadians(120);
    private static final double TOUCHING_MM = 1e-9;
    private static final double LEAST_BEND = 1e-3;
    /** Longer edges are looked at piece by piece. */
    private static final double LONGEST_PER_REACH = 4;

    private final List<double[]> rings;
    private final double reach;
    private final double step;

    private int count;
    private double[] xs;
    private double[] ys;
    private double[] normalsX;
    private double[] normalsY;
    private double[] stretches;
    private int[] edges;
    private double[] radii;
    private double[] partners;
    private boolean[] facing;
    private final int[] ringStarts;
    private final int[] stepsOn;
    private double[] thickness;

    private final Edges all;

    /** @param reachMm radius above which discs are not told apart; @param stepMm from place to place on an edge, at most */
    LocalThickness(List<double[]> rings, double reachMm, double stepMm) {
        this.rings = rings;
        this.reach = reachMm;
        this.step = stepMm;
        this.all = new Edges(rings, reachMm);
        this.ringStarts = new int[rings.size() + 1];
        this.stepsOn = new int[all.length.length];
        allocate(3 * all.length.length + 64);
        for (int ring = 0, edge = 0; ring < rings.size(); ring++) {
            int size = rings.get(ring).length / 2;
            for (int i = 0; i < size; i++) {
                sample(edge + i, edge + (i + size - 1) % size);
            }
            edge += size;
            ringStarts[ring + 1] = count;
        }
        pairUp();
        spread();
    }

    int count() {
        return count;
    }

    int ringCount() {
        return rings.size();
    }

    /** The first place on a ring; that of the next ring is one past its last. */
    int ringStart(int ring) {
        return ringStarts[ring];
    }

    double x(int place) {
        return xs[place];
    }

    double y(int place) {
        return ys[place];
    }

    double normalX(int place) {
        return normalsX[place];
    }

    double normalY(int place) {
        return normalsY[place];
    }

    /**
     * How much farther than straight in from an edge a line has to go to keep its distance from both edges of a corner; 0
     * at places of a corner where it does not turn.
     */
    double stretch(int place) {
        return stretches[place];
    }

    int edge(int place) {
        return edges[place];
    }

    /** Start of an edge. */
    double cornerX(int edge) {
        return all.fromX[edge];
    }

    double cornerY(int edge) {
        return all.fromY[edge];
    }

    /**
     * Where two lines meet that run along the edges at two places, through the given points: x and y; nothing when they do
     * not bend to the left between them, or would meet farther away than {@code farthestMm}.
     */
    Optional<double[]> mitre(int a, double ax, double ay, int b, double bx, double by, double farthestMm) {
        double cross = normalsX[a] * normalsY[b] - normalsY[a] * normalsX[b];
        if (edges[a] == edges[b] || cross < LEAST_BEND) {
            return Optional.empty();
        }
        // Along an edge is its normal turned to the right.
        double dx = bx - ax, dy = by - ay;
        double ahead = -(dx * normalsX[b] + dy * normalsY[b]) / cross, back = (dx * normalsX[a] + dy * normalsY[a]) / cross;
        return ahead > 0 && back > 0 && Math.max(ahead, back) < farthestMm
                ? Optional.of(new double[] {ax + ahead * normalsY[a], ay - ahead * normalsX[a]}) : Optional.empty();
    }

    /** Of the largest disc that touches here; infinite beyond the reach. */
    double radiusMm(int place) {
        return radii[place];
    }

    /** Number of the place next to which the disc touches again, in fractions; not a number when it does not. */
    double partner(int place) {
        return partners[place];
    }

    /** Whether the other touching point faces this one. */
    boolean facing(int place) {
        return facing[place];
    }

    /** Whether two sides face each other anywhere within the reach. */
    boolean anyFacing() {
        for (boolean faces : facing) {
            if (faces) {
                return true;
            }
        }
        return false;
    }

    /** Diameter of the disc, or, if that is more, what lies between those of the next places that face another; at most twice the reach. */
    double thicknessMm(int place) {
        return thickness[place];
    }

    /**
     * Which places are so thick, without flickering: all that reach {@code mm − slack} and hang together, along the outline
     * or across the area, with one that reaches {@code mm + slack}. Bends and knots of a thin wall are a little thicker than
     * the wall: what hangs together on less than {@code shortMm} of outline and is nowhere thicker than {@code atMostMm} does
     * not count.
     */
    boolean[] atLeast(double mm, double slackMm, double shortMm, double atMostMm) {
        double sure = Math.max(atMostMm, mm + slackMm), least = mm - slackMm;
        boolean[] thick = new boolean[count], doubtful = new boolean[count];
        boolean doubts = false;
        for (int i = 0; i < count; i++) {
            thick[i] = thickness[i] > sure;
            doubtful[i] = thickness[i] > least && !thick[i];
            doubts |= doubtful[i];
        }
        if (doubts) {
            decide(thick, doubtful, mm + slackMm, shortMm);
        }
        return thick;
    }

    /** What hangs together with a thick place is thick; so is what is long enough and somewhere reaches {@code enough}. */
    private void decide(boolean[] thick, boolean[] doubtful, double enough, double shortMm) {
        int[] parents = new int[count];
        double[] lengths = new double[count], most = new double[count];
        Arrays.setAll(parents, i -> i);
        for (int ring = 0; ring < ringCount(); ring++) {
            for (int i = ringStarts[ring], last = ringStarts[ring + 1] - 1; i < ringStarts[ring + 1]; last = i++) {
                if (doubtful[i] || doubtful[last]) {
                    join(parents, most, doubtful, thick, i, last);
                }
                if (facing[i] && (doubtful[i] || thick[i])) {
                    join(parents, most, doubtful, thick, i, (int) Math.round(partners[i]));
                }
                if (doubtful[i]) {
                    lengths[i] = apart(i, last);
                    most[i] = Math.max(most[i], thickness[i]);
                }
            }
        }
        for (int i = 0; i < count; i++) {
            int root = root(parents, i);
            if (root != i) {
                most[root] = Math.max(most[root], most[i]);
                lengths[root] += lengths[i];
            }
        }
        for (int i = 0; i < count; i++) {
            int root = root(parents, i);
            thick[i] |= doubtful[i] && (most[root] == Double.POSITIVE_INFINITY || most[root] > enough && lengths[root] > shortMm);
        }
    }

    /** Two doubtful places hang together; one that hangs together with a thick place is as good as the thickest. */
    private static void join(int[] parents, double[] most, boolean[] doubtful, boolean[] thick, int a, int b) {
        if (doubtful[a] && doubtful[b]) {
            int rootA = root(parents, a), rootB = root(parents, b);
            parents[Math.max(rootA, rootB)] = Math.min(rootA, rootB);
        } else if (doubtful[a] && thick[b]) {
            most[a] = Double.POSITIVE_INFINITY;
        } else if (doubtful[b] && thick[a]) {
            most[b] = Double.POSITIVE_INFINITY;
        }
    }

    private static int root(int[] parents, int of) {
        int root = of;
        while (parents[root] != root) {
            parents[root] = parents[parents[root]];
            root = parents[root];
        }
        return root;
    }

    /** Places on an edge, after those of the corner at its start when that points into the solid. */
    private void sample(int edge, int before) {
        double cross = all.normalX[before] * all.normalY[edge] - all.normalY[before] * all.normalX[edge];
        double dot = all.normalX[before] * all.normalX[edge] + all.normalY[before] * all.normalY[edge];
        double length = all.length[edge];
        all.candidates(edge, 0, length < LONGEST_PER_REACH * reach ? length : LONGEST_PER_REACH * reach);
        if (cross < 0 || cross == 0 && dot < 0) {
            all.beside = before;
            if (dot > GENTLE) {
                double half = Math.sqrt((1 + dot) / 2);
                add(edge, all.fromX[edge], all.fromY[edge], (all.normalX[before] + all.normalX[edge]) / (2 * half),
                        (all.normalY[before] + all.normalY[edge]) / (2 * half), 1 / half);
            } else {
                all.candidatesAround(edge);
                fan(edge, before, Math.atan2(cross, dot));
                all.candidates(edge, 0, Math.min(length, LONGEST_PER_REACH * reach));
            }
            all.beside = -1;
        }
        int steps = all.anyAcross || length > LONGEST_PER_REACH * reach ? steps(edge) : 1;
        stepsOn[edge] = steps;
        double seen = LONGEST_PER_REACH * reach;
        for (int i = 0; i < steps; i++) {
            double along = (i + 0.5) * length / steps;
            if (along > seen) {
                all.candidates(edge, along, Math.min(length, along + LONGEST_PER_REACH * reach));
                seen = along + LONGEST_PER_REACH * reach;
            }
            add(edge, all.fromX[edge] + along * all.normalY[edge], all.fromY[edge] - along * all.normalX[edge],
                    all.normalX[edge], all.normalY[edge], 1);
        }
    }

    private void fan(int edge, int before, double turn) {
        int parts = 4 * (int) Math.ceil(-turn / FAN / 4), mitres = turn < -SHARP ? 2 : 1;
        for (int i = 0; i <= parts; i++) {
            boolean bends = 2 * mitres * i % parts == 0 && mitres * i % parts != 0;
            addOnCorner(edge, before, turn * i / parts, i % parts == 0 ? 1 : bends ? 1 / Math.cos(turn / 2 / mitres) : 0);
        }
    }

    /** @param turned of the normal of the edge before */
    private void addOnCorner(int edge, int before, double turned, double stretch) {
        double cos = Math.cos(turned), sin = Math.sin(turned), x = all.normalX[before], y = all.normalY[before];
        add(edge, all.fromX[edge], all.fromY[edge], cos * x - sin * y, sin * x + cos * y, stretch);
    }

    /** Odd, so that there is one in the middle: where edges stand for a curve, its disc is as large as the curve's. */
    private int steps(int edge) {
        return 1 + 2 * (int) Math.ceil((all.length[edge] / step - 1) / 2);
    }

    private void add(int edge, double x, double y, double normalX, double normalY, double stretch) {
        if (count == xs.length) {
            grow();
        }
        xs[count] = x;
        ys[count] = y;
        normalsX[count] = normalX;
        normalsY[count] = normalY;
        stretches[count] = stretch;
        edges[count] = edge;
        if (!all.anyAcross) {
            all.leave();
        } else {
            all.touch(x, y, normalX, normalY);
        }
        radii[count] = all.radius;
        facing[count] = all.radius < Double.POSITIVE_INFINITY && all.cosine < FACING;
        partners[count] = all.radius < Double.POSITIVE_INFINITY ? all.touched + Math.clamp(all.part, 0, 1 - 1e-9) : Double.NaN;
        count++;
    }

    private void allocate(int size) {
        xs = new double[size];
        ys = new double[size];
        normalsX = new double[size];
        normalsY = new double[size];
        stretches = new double[size];
        edges = new int[size];
        radii = new double[size];
        partners = new double[size];
        facing = new boolean[size];
    }

    private void grow() {
        int size = 2 * count;
        xs = Arrays.copyOf(xs, size);
        ys = Arrays.copyOf(ys, size);
        normalsX = Arrays.copyOf(normalsX, size);
        normalsY = Arrays.copyOf(normalsY, size);
        stretches = Arrays.copyOf(stretches, size);
        edges = Arrays.copyOf(edges, size);
        radii = Arrays.copyOf(radii, size);
        partners = Arrays.copyOf(partners, size);
        facing = Arrays.copyOf(facing, size);
    }

    /** From edge and part of it to the number of the place there. */
    private void pairUp() {
        int[] firstOn = new int[all.length.length + 1];
        Arrays.fill(firstOn, count);
        for (int i = count - 1; i >= 0; i--) {
            if (normalsX[i] == all.normalX[edges[i]] && normalsY[i] == all.normalY[edges[i]]) {
                firstOn[edges[i]] = i;
            }
        }
        for (int i = 0; i < count; i++) {
            if (!Double.isNaN(partners[i])) {
                int edge = (int) partners[i], steps = stepsOn[edge];
                partners[i] = Math.min(count - 1, firstOn[edge] + Math.clamp((partners[i] - edge) * steps - 0.5, 0, steps - 1));
            }
        }
    }

    private void spread() {
        thickness = new double[count];
        for (int ring = 0; ring < ringCount(); ring++) {
            int from = ringStarts[ring], size = ringStarts[ring + 1] - from, known = -1;
            double most = 0;
            for (int i = from; i < from + size; i++) {
                thickness[i] = Math.min(2 * radii[i], 2 * reach);
                most = Math.max(most, thickness[i]);
                known = isKnown(i) ? i : known;
            }
            if (known < 0) {
                Arrays.fill(thickness, from, from + size, most);
                continue;
            }
            for (int i = 1, last = known; i <= size; i++) {
                int at = from + (known - from + i) % size;
                if (isKnown(at)) {
                    if (at != next(last, from, size)) {
                        between(last, at, from, size);
                    }
                    last = at;
                }
            }
        }
    }

    private boolean isKnown(int place) {
        return facing[place] || radii[place] == Double.POSITIVE_INFINITY;
    }

    /** Evenly from one known place to the next. */
    private void between(int first, int last, int ringStart, int size) {
        double way = 0, gone = 0;
        int at = first;
        do {
            int next = next(at, ringStart, size);
            way += apart(next, at);
            at = next;
        } while (at != last);
        for (int before = first, i = next(first, ringStart, size); i != last; before = i, i = next(i, ringStart, size)) {
            gone += apart(i, before);
            double even = thickness[first] + (thickness[last] - thickness[first]) * gone / Math.max(way, TOUCHING_MM);
            thickness[i] = Math.max(thickness[i], even);
        }
    }

    private double apart(int a, int b) {
        double dx = xs[a] - xs[b], dy = ys[a] - ys[b];
        return Math.sqrt(dx * dx + dy * dy);
    }

    private static int next(int place, int ringStart, int size) {
        return ringStart + (place - ringStart + 1) % size;
    }

    /** The edges in square cells, and the disc that grows from a place until it touches one. */
    private static final class Edges {

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
        /** The edge before, while places lie on the corner between it and the one that candidates were collected for; −1 else. */
        private int beside = -1;

        private double radius;
        private double cosine;
        private int touched;
        private double part;

        Edges(List<double[]> rings, double reach) {
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

        /** Counts an edge in the cells of the boxes of its pieces, none of them longer than a cell, or enters it there. */
        private void enter(int edge, int[] filled) {
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

        /** Grows a disc that touches at a place, with its centre straight in from there, until it touches elsewhere. */
        void touch(double x, double y, double inX, double inY) {
            radius = reach;
            touched = -1;
            for (int i = 0; i < nearCount; i++) {
                if (near[i] != beside) {
                    touch(near[i], x, y, inX, inY);
                }
            }
            radius = touched < 0 ? Double.POSITIVE_INFINITY : radius;
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

        /** With nothing across the edge, discs are larger than the reach. */
        void leave() {
            radius = Double.POSITIVE_INFINITY;
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
}
