package fabbrica.core.toolpath;

import java.util.ArrayList;
import java.util.Arrays;
import java.util.HashSet;
import java.util.List;
import java.util.Optional;
import java.util.Set;

/**
 * Rings that cross, taken apart into rings that do not: at every crossing the two strands are joined the other way
 * about, each going on where the other went (Seifert's smoothing of crossings). The rings that come out touch at the
 * crossings, run around every point as often in sum as those that went in, and can be nested. Linear in edges and, but
 * for sorting those on one edge, in crossings.
 */
final class Untangling {

    private final EdgeGrid grid;
    /** Per crossing, twice: on the first edge and on the second. */
    private final List<Visit> visits = new ArrayList<>();
    private boolean clear = true;

    private record Visit(int edge, double part, int partner) {
    }

    private Untangling(EdgeGrid grid) {
        this.grid = grid;
    }

    /** Nothing when edges touch or overlap, so that it cannot be told how strands cross. */
    static Optional<List<double[]>> of(EdgeGrid grid) {
        Untangling untangling = new Untangling(grid);
        untangling.findCrossings();
        return untangling.clear ? Optional.of(untangling.rings()) : Optional.empty();
    }

    private void findCrossings() {
        Set<Long> seen = new HashSet<>();
        clear = grid.meetings((edge, other) -> {
            if (!seen.add((long) edge << 32 | other)) {
                return true;
            }
            Optional<double[]> parts = grid.crossing(edge, other);
            parts.ifPresent(part -> {
                int number = visits.size();
                visits.add(new Visit(edge, part[0], number + 1));
                visits.add(new Visit(other, part[1], number));
            });
            return parts.isPresent();
        });
    }

    /** Places are edge starts, numbered as their edges, then visits. */
    private List<double[]> rings() {
        int edges = grid.edgeCount(), places = edges + visits.size();
        int[] next = new int[places];
        for (int edge = 0; edge < edges; edge++) {
            next[edge] = grid.next(edge);
        }
        Integer[] order = new Integer[visits.size()];
        Arrays.setAll(order, i -> i);
        Arrays.sort(order, (a, b) -> visits.get(a).edge() != visits.get(b).edge()
                ? Integer.compare(visits.get(a).edge(), visits.get(b).edge())
                : Double.compare(visits.get(b).part(), visits.get(a).part()));
        for (int visit : order) {
            int edge = visits.get(visit).edge();
            next[edges + visit] = next[edge];
            next[edge] = edges + visit;
        }
        for (int visit = 0; visit < visits.size(); visit += 2) {
            int swap = next[edges + visit];
            next[edges + visit] = next[edges + visit + 1];
            next[edges + visit + 1] = swap;
        }
        List<double[]> rings = new ArrayList<>();
        boolean[] used = new boolean[places];
        for (int first = 0; first < places; first++) {
            int length = 0;
            for (int place = first; !used[place]; place = next[place]) {
                used[place] = true;
                length++;
            }
            if (length >= 3) {
                rings.add(ring(first, length, next));
            }
        }
        return rings;
    }

    private double[] ring(int first, int length, int[] next) {
        double[] ring = new double[2 * length];
        int place = first;
        for (int i = 0; i < length; i++, place = next[place]) {
            boolean start = place < grid.edgeCount();
            int edge = start ? place : visits.get(place - grid.edgeCount()).edge();
            double part = start ? 0 : visits.get(place - grid.edgeCount()).part();
            ring[2 * i] = grid.x(edge, part);
            ring[2 * i + 1] = grid.y(edge, part);
        }
        return ring;
    }
}
