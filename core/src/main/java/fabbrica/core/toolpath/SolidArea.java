package fabbrica.core.toolpath;

import java.util.ArrayList;
import java.util.Arrays;
import java.util.Collection;
import java.util.Comparator;
import java.util.List;
import java.util.SplittableRandom;
import java.util.function.IntPredicate;
import org.locationtech.jts.geom.Envelope;
import org.locationtech.jts.geom.Geometry;
import org.locationtech.jts.geom.LinearRing;
import org.locationtech.jts.geom.Point;
import org.locationtech.jts.geom.Polygon;
import org.locationtech.jts.operation.overlayng.CoverageUnion;
import org.locationtech.jts.operation.overlayng.OverlayNGRobust;
import org.locationtech.jts.operation.polygonize.Polygonizer;

/**
 * The area that rings enclose, judged by winding number: not zero for the contours of a layer, where bodies that overlap
 * or lie inside one another merge, and above zero for rings that were moved.
 *
 * <p>A ring bounds the area only where the rule tells its two sides apart. Rings that do not cross are nested by counting
 * which contain which (quadratic in the number of rings, which is small on a layer); those that cross are first
 * untangled. Where contours touch or run along one another, as bodies that abut do, their lines are cut at all crossings
 * (JTS) and every face between them is judged by itself.
 *
 * @param plain whether no two rings met
 */
record SolidArea(List<Island> islands, boolean plain) {

    /** Whatever is smaller came from rounding, mm². */
    private static final double NOTHING_MM2 = 1e-4;
    private static final double SHAKE_MM = 2e-6;

    private record Ring(double[] points, double area, Envelope box, double testX, double testY) {

        static Ring of(double[] points) {
            int from = 0;
            double longest = -1;
            for (int i = 0; i < points.length; i += 2) {
                int next = i + 2 == points.length ? 0 : i + 2;
                double dx = points[next] - points[i], dy = points[next + 1] - points[i + 1];
                if (dx * dx + dy * dy > longest) {
                    longest = dx * dx + dy * dy;
                    from = i;
                }
            }
            int to = (from + 2) % points.length;
            return new Ring(points, Rings.signedArea(points), Rings.box(points), (points[from] + points[to]) / 2,
                    (points[from + 1] + points[to + 1]) / 2);
        }

        /** Judged in the middle of the other's longest edge, since rings may touch at corners. */
        boolean contains(Ring other) {
            return box.contains(other.box) && Rings.winding(points, other.testX, other.testY) != 0;
        }

        int winding() {
            return area > 0 ? 1 : -1;
        }
    }

    /** @param contours closed rings, the solid on their left, or all of them inside out */
    static SolidArea of(List<double[]> contours) {
        EdgeGrid grid = new EdgeGrid(contours);
        return grid.anyMeet() ? new SolidArea(Untangling.of(grid).map(rings -> nested(rings, winding -> winding != 0))
                .orElseGet(() -> faces(contours)), false) : new SolidArea(nested(contours, winding -> winding != 0), true);
    }

    /** What moved rings run around more often counter-clockwise than clockwise. */
    static SolidArea positive(List<double[]> rings) {
        EdgeGrid grid = new EdgeGrid(rings);
        return grid.anyMeet() ? new SolidArea(nested(Untangling.of(grid).orElseGet(() -> shaken(rings)),
                winding -> winding > 0), false) : new SolidArea(nested(rings, winding -> winding > 0), true);
    }

    /** What lies in some areas and not within other rings, given that these do not run along the outlines. */
    static List<Island> minus(List<Island> areas, List<double[]> others) {
        if (others.isEmpty()) {
            return areas;
        }
        List<double[]> rings = Island.rings(areas);
        others.forEach(ring -> rings.add(Rings.reversed(ring)));
        return positive(rings).islands();
    }

    /** Rings that touch one another, untangled after each point was moved by about a millionth of a millimetre. */
    private static List<double[]> shaken(List<double[]> rings) {
        SplittableRandom chance = new SplittableRandom(1);
        List<double[]> moved = rings.stream()
                .map(ring -> Arrays.stream(ring).map(v -> v + (chance.nextDouble() - 0.5) * SHAKE_MM).toArray()).toList();
        return Untangling.of(new EdgeGrid(moved)).orElse(moved);
    }

    private static List<Island> nested(List<double[]> contours, IntPredicate rule) {
        List<Ring> rings = new ArrayList<>(contours.stream().map(Ring::of)
                .filter(ring -> Math.abs(ring.area()) > NOTHING_MM2).toList());
        rings.sort(Comparator.comparingDouble((Ring ring) -> Math.abs(ring.area())).reversed());
        List<Ring> shells = new ArrayList<>();
        List<List<double[]>> holes = new ArrayList<>();
        for (int i = 0; i < rings.size(); i++) {
            Ring ring = rings.get(i);
            int outside = 0;
            for (int j = 0; j < i; j++) {
                outside += rings.get(j).contains(ring) ? rings.get(j).winding() : 0;
            }
            int inside = outside + ring.winding();
            if (!rule.test(outside) && rule.test(inside)) {
                shells.add(ring);
                holes.add(new ArrayList<>());
            } else if (rule.test(outside) && !rule.test(inside)) {
                int owner = shells.size() - 1;
                while (owner >= 0 && !shells.get(owner).contains(ring)) {
                    owner--;
                }
                if (owner >= 0) {
                    holes.get(owner).add(Rings.clockwise(ring.points()));
                }
            }
        }
        List<Island> islands = new ArrayList<>();
        for (int i = 0; i < shells.size(); i++) {
            islands.add(new Island(Rings.counterClockwise(shells.get(i).points()), holes.get(i)));
        }
        return islands;
    }

    private static List<Island> faces(List<double[]> contours) {
        Geometry lines = Rings.PLANE.createMultiLineString(
                contours.stream().map(Rings::toJts).toArray(LinearRing[]::new));
        Polygonizer polygonizer = new Polygonizer();
        polygonizer.add(OverlayNGRobust.union(lines));
        List<Polygon> solid = new ArrayList<>();
        for (Object face : (Collection<?>) polygonizer.getPolygons()) {
            Point within = ((Polygon) face).getInteriorPoint();
            if (contours.stream().mapToInt(ring -> Rings.winding(ring, within.getX(), within.getY())).sum() != 0) {
                solid.add((Polygon) face);
            }
        }
        return Island.of(CoverageUnion.union(Rings.PLANE.createMultiPolygon(solid.toArray(Polygon[]::new))));
    }
}
