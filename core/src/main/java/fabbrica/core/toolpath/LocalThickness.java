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

    private static final double FAN = Math.toRadians(15);
    private static final double GENTLE = Math.cos(FAN);
    /** A corner turning by more is cut square, as {@link RingOffset} does. */
    private static final double SHARP = Math.toRadians(120);
    private static final double NOTHING_MM = 1e-9;
    private static final double LEAST_BEND = 1e-3;
    /** Longer edges are looked at piece by piece. */
    private static final double LONGEST_PER_REACH = 4;

    private final List<double[]> rings;
    private final double reach;
    private final double step;

    private int count;
    private double[] xs = {};
    private double[] ys = {};
    private double[] normalsX = {};
    private double[] normalsY = {};
    private double[] stretches = {};
    private int[] edges = {};
    private double[] radii = {};
    private double[] partners = {};
    private boolean[] facing = {};
    private final int[] ringStarts;
    private final int[] stepsOn;
    private double[] thickness;

    private final GrowingDisc disc;

    /** @param reachMm radius above which discs are not told apart; @param stepMm from place to place on an edge, at most */
    LocalThickness(List<double[]> rings, double reachMm, double stepMm) {
        this.rings = rings;
        this.reach = reachMm;
        this.step = stepMm;
        this.disc = new GrowingDisc(rings, reachMm);
        this.ringStarts = new int[rings.size() + 1];
        this.stepsOn = new int[disc.edgeCount()];
        resize(3 * disc.edgeCount() + 64);
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
        return disc.fromX(edge);
    }

    double cornerY(int edge) {
        return disc.fromY(edge);
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
        double cross = disc.normalX(before) * disc.normalY(edge) - disc.normalY(before) * disc.normalX(edge);
        double dot = disc.normalX(before) * disc.normalX(edge) + disc.normalY(before) * disc.normalY(edge);
        double length = disc.lengthMm(edge);
        double piece = LONGEST_PER_REACH * reach;
        disc.candidates(edge, 0, Math.min(length, piece));
        if (cross < 0 || cross == 0 && dot < 0) {
            disc.beside(before);
            if (dot > GENTLE) {
                double half = Math.sqrt((1 + dot) / 2);
                add(edge, disc.fromX(edge), disc.fromY(edge), (disc.normalX(before) + disc.normalX(edge)) / (2 * half),
                        (disc.normalY(before) + disc.normalY(edge)) / (2 * half), 1 / half);
            } else {
                disc.candidatesAround(edge);
                fan(edge, before, Math.atan2(cross, dot));
                disc.candidates(edge, 0, Math.min(length, piece));
            }
            disc.beside(GrowingDisc.NONE);
        }
        int steps = disc.anyAcross() || length > piece ? steps(edge) : 1;
        stepsOn[edge] = steps;
        double seen = piece;
        for (int i = 0; i < steps; i++) {
            double along = (i + 0.5) * length / steps;
            if (along > seen) {
                disc.candidates(edge, along, Math.min(length, along + piece));
                seen = along + piece;
            }
            add(edge, disc.fromX(edge) + along * disc.normalY(edge), disc.fromY(edge) - along * disc.normalX(edge),
                    disc.normalX(edge), disc.normalY(edge), 1);
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
        double cos = Math.cos(turned), sin = Math.sin(turned), x = disc.normalX(before), y = disc.normalY(before);
        add(edge, disc.fromX(edge), disc.fromY(edge), cos * x - sin * y, sin * x + cos * y, stretch);
    }

    /** Odd, so that there is one in the middle: where edges stand for a curve, its disc is as large as the curve's. */
    private int steps(int edge) {
        return 1 + 2 * (int) Math.ceil((disc.lengthMm(edge) / step - 1) / 2);
    }

    private void add(int edge, double x, double y, double normalX, double normalY, double stretch) {
        if (count == xs.length) {
            resize(2 * count);
        }
        xs[count] = x;
        ys[count] = y;
        normalsX[count] = normalX;
        normalsY[count] = normalY;
        stretches[count] = stretch;
        edges[count] = edge;
        disc.grow(x, y, normalX, normalY);
        radii[count] = disc.radiusMm();
        facing[count] = disc.facing();
        partners[count] = disc.touched();
        count++;
    }

    private void resize(int size) {
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
        int[] firstOn = new int[disc.edgeCount() + 1];
        Arrays.fill(firstOn, count);
        for (int i = count - 1; i >= 0; i--) {
            if (normalsX[i] == disc.normalX(edges[i]) && normalsY[i] == disc.normalY(edges[i])) {
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
            double even = thickness[first] + (thickness[last] - thickness[first]) * gone / Math.max(way, NOTHING_MM);
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
}
