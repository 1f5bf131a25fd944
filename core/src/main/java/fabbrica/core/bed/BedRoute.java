package fabbrica.core.bed;

import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;

/**
 * The shortest way of the head from one place on the bed to another beside all that is to be kept free: straight, or by the
 * corners of zones (visibility graph: Lozano-Pérez and Wesley, "An algorithm for planning collision-free paths among
 * polyhedral obstacles", 1979; shortest path by Dijkstra). A place within a zone is left, or reached, by the nearest side.
 */
public final class BedRoute {

    private static final double MARGIN_MM = 1;
    private static final double EDGE_MM = 1e-6;

    private BedRoute() {
    }

    /** @return x, y pairs after the start, the last the end; straight on when there is no way around */
    public static List<double[]> of(Bed bed, double fromX, double fromY, double toX, double toY) {
        List<double[]> nodes = new ArrayList<>();
        double[] start = outside(bed, fromX, fromY), end = outside(bed, toX, toY);
        nodes.add(start);
        nodes.add(end);
        for (Bed.Zone zone : bed.keepOut()) {
            for (double x : new double[] {zone.minX() - MARGIN_MM, zone.maxX() + MARGIN_MM}) {
                for (double y : new double[] {zone.minY() - MARGIN_MM, zone.maxY() + MARGIN_MM}) {
                    if (x >= 0 && y >= 0 && x <= bed.widthMm() && y <= bed.depthMm() && !bed.keepsFree(x, y)) {
                        nodes.add(new double[] {x, y});
                    }
                }
            }
        }
        List<double[]> way = shortest(bed, nodes);
        if (start[0] != fromX || start[1] != fromY) {
            way.addFirst(start);
        }
        if (end[0] != toX || end[1] != toY) {
            way.add(new double[] {toX, toY});
        }
        return way;
    }

    /** Length in mm of a way from a start through places. */
    public static double lengthMm(double fromX, double fromY, List<double[]> way) {
        double length = 0, x = fromX, y = fromY;
        for (double[] place : way) {
            length += Math.hypot(place[0] - x, place[1] - y);
            x = place[0];
            y = place[1];
        }
        return length;
    }

    /** Whether a straight way passes through a zone. */
    public static boolean crosses(Bed bed, double x0, double y0, double x1, double y1) {
        for (Bed.Zone zone : bed.keepOut()) {
            if (crosses(zone, x0, y0, x1, y1)) {
                return true;
            }
        }
        return false;
    }

    /** Whether a place lies in a zone; home, at the origin, lies within one that reaches it. */
    public static boolean isWithin(Bed bed, double x, double y) {
        return bed.keepOut().stream().anyMatch(zone -> isWithin(zone, x, y));
    }

    private static boolean isWithin(Bed.Zone zone, double x, double y) {
        return x > zone.minX() && x < zone.maxX() && y > zone.minY() && y < zone.maxY()
                || x == 0 && y == 0 && zone.minX() <= 0 && zone.minY() <= 0;
    }

    private static double[] outside(Bed bed, double x, double y) {
        for (Bed.Zone zone : bed.keepOut()) {
            if (isWithin(zone, x, y)) {
                double[][] sides = {{zone.minX() - MARGIN_MM, y}, {zone.maxX() + MARGIN_MM, y}, {x, zone.minY() - MARGIN_MM},
                    {x, zone.maxY() + MARGIN_MM}};
                return Arrays.stream(sides).filter(side -> side[0] >= 0 && side[1] >= 0 && side[0] <= bed.widthMm()
                        && side[1] <= bed.depthMm()).min((a, b) -> Double.compare(Math.hypot(a[0] - x, a[1] - y),
                        Math.hypot(b[0] - x, b[1] - y))).orElse(new double[] {x, y});
            }
        }
        return new double[] {x, y};
    }

    private static List<double[]> shortest(Bed bed, List<double[]> nodes) {
        int size = nodes.size();
        double[] length = new double[size];
        int[] before = new int[size];
        boolean[] done = new boolean[size];
        Arrays.fill(length, Double.POSITIVE_INFINITY);
        length[0] = 0;
        for (int round = 0; round < size; round++) {
            int next = -1;
            for (int i = 0; i < size; i++) {
                next = !done[i] && (next < 0 || length[i] < length[next]) ? i : next;
            }
            done[next] = true;
            for (int i = 0; i < size && length[next] < Double.POSITIVE_INFINITY; i++) {
                double[] a = nodes.get(next), b = nodes.get(i);
                double through = length[next] + Math.hypot(a[0] - b[0], a[1] - b[1]);
                if (through < length[i] && !crosses(bed, a[0], a[1], b[0], b[1])) {
                    length[i] = through;
                    before[i] = next;
                }
            }
        }
        List<double[]> way = new ArrayList<>();
        for (int at = 1; at != 0; at = before[at]) {
            way.addFirst(nodes.get(at));
        }
        return way;
    }

    /** Clips the way to the zone (Liang and Barsky, "A new concept and method for line clipping", 1984). */
    private static boolean crosses(Bed.Zone zone, double x0, double y0, double x1, double y1) {
        double from = 0, to = 1;
        double[] steps = {x0 - x1, x1 - x0, y0 - y1, y1 - y0};
        double[] room = {x0 - zone.minX() - EDGE_MM, zone.maxX() - EDGE_MM - x0, y0 - zone.minY() - EDGE_MM,
            zone.maxY() - EDGE_MM - y0};
        for (int side = 0; side < 4; side++) {
            if (steps[side] == 0) {
                if (room[side] < 0) {
                    return false;
                }
            } else if (steps[side] < 0) {
                from = Math.max(from, room[side] / steps[side]);
            } else {
                to = Math.min(to, room[side] / steps[side]);
            }
        }
        return from < to;
    }
}
