package fabbrica.core.toolpath;

import java.util.Arrays;
import java.util.List;

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
    private static final double FAN = Math.toRadians(15);
    /** A corner turning by more is cut square, as {@link RingOffset} does. */
    private static final double SHARP = Math.toRadians(120);
    private static final double TOUCHING_MM = 1e-9;
    /** Longer edges are looked at piece by piece. */
    private static final double LONGEST_PER_REACH = 4;

    private final List<double[]> rings;
    private final double reach;
    private final double step;

    private int count;
    private double[] xs = new double[64];
    private double[] ys = new double[64];
    private double[] normalsX = new double[64];
    private double[] normalsY = new double[64];
    private double[] stretches = new double[64];
    private int[] edges = new int[64];
    private double[] radii = new double[64];
    private double[] partners = new double[64];
    private boolean[] facing = new boolean[64];
    private final int[] ringStarts;
    private double[] thickness;

    private final Edges all;

    /** @param reachMm radius above which discs are not told apart; @param stepMm from place to place on an edge, at most */
    LocalThickness(List<double[]> rings, double reachMm, double stepMm) {
        this.rings = rings;
        this.reach = reachMm;
        this.step = stepMm;
        this.all = new Edges(rings, reachMm);
        this.ringStarts = new int[rings.size() + 1];
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
        int[] parents = new int[count];
        Arrays.setAll(parents, i -> i);
        double[] lengths = new double[count], most = new double[count];
        for (int ring = 0; ring < ringCount(); ring++) {
            for (int i = ringStarts[ring], last = ringStarts[ring + 1] - 1; i < ringStarts[ring + 1]; last = i++) {
                lengths[i] = Math.hypot(xs[i] - xs[last], ys[i] - ys[last]);
                join(parents, i, last, mm - slackMm);
            }
        }
        for (int i = 0; i < count; i++) {
            if (facing[i]) {
                join(parents, i, (int) Math.round(partners[i]), mm - slackMm);
            }
        }
        for (int i = 0; i < count; i++) {
            int root = root(parents, i);
            most[root] = Math.max(most[root], thickness[i]);
            if (root != i) {
                lengths[root] += lengths[i];
            }
        }
        boolean[] thick = new boolean[count];
        for (int i = 0; i < count; i++) {
            int root = root(parents, i);
            thick[i] = thickness[i] > mm - slackMm && most[root] > mm + slackMm
                    && (lengths[root] > shortMm || most[root] > atMostMm);
        }
        return thick;
    }

    private void join(int[] parents, int a, int b, double least) {
        if (thickness[a] > least && thickness[b] > least) {
            int rootA = root(parents, a), rootB = root(parents, b);
            parents[Math.max(rootA, rootB)] = Math.min(rootA, rootB);
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
        all.candidates(edge, 0, Math.min(length, LONGEST_PER_REACH * reach));
        if (cross < 0 || cross == 0 && dot < 0) {
            double turn = Math.atan2(cross, dot);
            int parts = 4 * (int) Math.max(1, Math.ceil(-turn / FAN / 4)), mitres = turn < -SHARP ? 2 : 1;
            double from = Math.atan2(all.normalY[before], all.normalX[before]), part = turn / parts;
            all.beside = before;
            for (int i = 0; i <= parts; i++) {
                double stretch = i % parts == 0 ? 1 : 2 * mitres * i % parts == 0 && mitres * i % parts != 0
                        ? 1 / Math.cos(turn / 2 / mitres) : 0;
                add(edge, all.fromX[edge], all.fromY[edge], Math.cos(from + i * part), Math.sin(from + i * part), stretch);
            }
            all.beside = -1;
        }
        int steps = steps(edge);
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
        all.touch(x, y, normalX, normalY);
        radii[count] = all.radius;
        facing[count] = all.radius < Double.POSITIVE_INFINITY && all.cosine < FACING;
        partners[count] = all.radius < Double.POSITIVE_INFINITY ? all.touched + Math.clamp(all.part, 0, 1 - 1e-9) : Double.NaN;
        count++;
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
                int edge = (int) partners[i], steps = steps(edge);
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
                    between(last, at, from, size);
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
            way += Math.hypot(xs[next] - xs[at], ys[next] - ys[at]);
            at = next;
        } while (at != last);
        for (int before = first, i = next(first, ringStart, size); i != last; before = i, i = next(i, ringStart, size)) {
            gone += Math.hypot(xs[i] - xs[before], ys[i] - ys[before]);
            double even = thickness[first] + (thickness[last] - thickness[first]) * gone / Math.max(way, TOUCHING_MM);
            thickness[i] = Math.max(thickness[i], even);
        }
    }

    private static int next(int place, int ringStart, int size) {
        return ringStart + (place - ringStart + 1) % size;
    }

    /** The edges in square cells, and the disc that grows from a place until it touches one. */
    private static final class Edges {

        private final double[] fromX;
        private final double[] fromY;
        private final double[] normalX;
        private final double[] normalY;
        private final double[] length;
        private final double reach;
        private final double minX;
        private final double minY;
        private final int columns;
        private final int rows;
        private final int[] cellStarts;
        private final int[] cellEdges;
        private final int[] stamps;
        private int stamp;
        private int[] near = new int[64];
        private int nearCount;
        private int own;
        /** The edge before the own one while places lie on the corner between both; −1 else. */
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
            columns = (int) ((highX - lowX) / reach) + 1;
            rows = (int) ((highY - lowY) / reach) + 1;
            cellStarts = new int[columns * rows + 1];
            for (int e = 0; e < size; e++) {
                eachCell(e, cell -> cellStarts[cell + 1]++);
            }
            for (int cell = 0; cell < columns * rows; cell++) {
                cellStarts[cell + 1] += cellStarts[cell];
            }
            cellEdges = new int[cellStarts[columns * rows]];
            int[] filled = cellStarts.clone();
            for (int e = 0; e < size; e++) {
                int number = e;
                eachCell(e, cell -> cellEdges[filled[cell]++] = number);
            }
        }

        /** The cells in the box of a piece of the edge no longer than a few cells, piece by piece. */
        private void eachCell(int edge, java.util.function.IntConsumer each) {
            int pieces = (int) Math.ceil(length[edge] / (2 * reach)), lastColumn = -1, lastRow = -1;
            stamp = 0;
            for (int piece = 0; piece < pieces; piece++) {
                double a = length[edge] * piece / pieces, b = length[edge] * (piece + 1) / pieces;
                int x0 = column(toX(edge, a)), x1 = column(toX(edge, b)), y0 = row(toY(edge, a)), y1 = row(toY(edge, b));
                for (int row = Math.min(y0, y1); row <= Math.max(y0, y1); row++) {
                    for (int column = Math.min(x0, x1); column <= Math.max(x0, x1); column++) {
                        if (piece == 0 || column != lastColumn || row != lastRow) {
                            each.accept(row * columns + column);
                        }
                    }
                }
                lastColumn = x1;
                lastRow = y1;
            }
        }

        private double toX(int edge, double along) {
            return fromX[edge] + along * normalY[edge];
        }

        private double toY(int edge, double along) {
            return fromY[edge] - along * normalX[edge];
        }

        private int column(double x) {
            return Math.clamp((int) ((x - minX) / reach), 0, columns - 1);
        }

        private int row(double y) {
            return Math.clamp((int) ((y - minY) / reach), 0, rows - 1);
        }

        /** Collects the edges that discs touching a piece of an edge, or the corner at its start, may meet. */
        void candidates(int edge, double from, double to) {
            own = edge;
            nearCount = 0;
            stamp++;
            double x0 = toX(edge, from), y0 = toY(edge, from), x1 = toX(edge, to), y1 = toY(edge, to);
            double around = 2 * reach;
            int right = column(Math.max(x0, x1) + around), top = row(Math.max(y0, y1) + around);
            for (int row = row(Math.min(y0, y1) - around); row <= top; row++) {
                for (int column = column(Math.min(x0, x1) - around); column <= right; column++) {
                    int cell = row * columns + column;
                    for (int i = cellStarts[cell]; i < cellStarts[cell + 1]; i++) {
                        int other = cellEdges[i];
                        if (stamps[other] != stamp) {
                            stamps[other] = stamp;
                            near = nearCount == near.length ? Arrays.copyOf(near, 2 * nearCount) : near;
                            near[nearCount++] = other;
                        }
                    }
                }
            }
        }

        /** Grows a disc that touches at a place, with its centre straight in from there, until it touches elsewhere. */
        void touch(double x, double y, double inX, double inY) {
            radius = reach;
            touched = -1;
            for (int i = 0; i < nearCount; i++) {
                int edge = near[i];
                if (edge != own && edge != beside) {
                    double dx = x - fromX[edge], dy = y - fromY[edge];
                    double away = dx * normalX[edge] + dy * normalY[edge];
                    double along = inX * normalX[edge] + inY * normalY[edge];
                    if (away > -TOUCHING_MM && 1 - along > 1e-12) {
                        double r = Math.max(0, away) / (1 - along);
                        double at = dx * normalY[edge] - dy * normalX[edge]
                                + r * (inX * normalY[edge] - inY * normalX[edge]);
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
            }
            radius = touched < 0 ? Double.POSITIVE_INFINITY : radius;
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
