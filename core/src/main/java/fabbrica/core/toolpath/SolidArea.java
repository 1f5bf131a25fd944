package fabbrica.core.toolpath;

import java.util.ArrayList;
import java.util.Comparator;
import java.util.List;
import org.locationtech.jts.geom.Envelope;
import org.locationtech.jts.geom.Geometry;
import org.locationtech.jts.geom.LinearRing;
import org.locationtech.jts.geom.Polygon;

/**
 * The area that a layer's contours enclose by the non-zero rule: where bodies overlap or lie inside one another, they
 * merge. A ring bounds the area only where the winding number changes between zero and not zero; winding numbers come
 * from counting which rings contain which (quadratic in the number of rings, which is small on a layer).
 */
final class SolidArea {

    private SolidArea() {
    }

    private record Ring(double[] points, double area, Envelope box) {

        static Ring of(double[] points) {
            Envelope box = new Envelope();
            for (int i = 0; i < points.length; i += 2) {
                box.expandToInclude(points[i], points[i + 1]);
            }
            return new Ring(points, Rings.signedArea(points), box);
        }

        /** Holes never cross what they lie in; equal windings may overlap, and then none contains the other. */
        boolean contains(Ring other) {
            if (!box.contains(other.box) || Math.abs(area) <= Math.abs(other.area)) {
                return false;
            }
            boolean sameWay = area > 0 == other.area > 0;
            for (int i = 0; i < (sameWay ? other.points.length : 2); i += 2) {
                if (!Rings.contains(points, other.points[i], other.points[i + 1])) {
                    return false;
                }
            }
            return true;
        }
    }

    /** @param contours closed rings, the solid on their left; a mesh that is inside out as a whole is turned */
    static Geometry of(List<double[]> contours) {
        List<Ring> rings = new ArrayList<>(contours.stream().filter(points -> points.length >= 6).map(Ring::of)
                .filter(ring -> ring.area() != 0).toList());
        rings.sort(Comparator.comparingDouble((Ring ring) -> Math.abs(ring.area())).reversed());
        double sign = Math.signum(rings.stream().mapToDouble(Ring::area).sum());
        List<Ring> shells = new ArrayList<>();
        List<List<LinearRing>> holes = new ArrayList<>();
        for (int i = 0; i < rings.size(); i++) {
            Ring ring = rings.get(i);
            int outside = 0;
            for (int j = 0; j < i; j++) {
                if (rings.get(j).contains(ring)) {
                    outside += rings.get(j).area() * sign > 0 ? 1 : -1;
                }
            }
            int inside = outside + (ring.area() * sign > 0 ? 1 : -1);
            if (outside == 0 && inside != 0) {
                shells.add(ring);
                holes.add(new ArrayList<>());
            } else if (outside != 0 && inside == 0) {
                int owner = smallestAround(shells, ring);
                if (owner >= 0) {
                    holes.get(owner).add(Rings.toJts(ring.points()));
                }
            }
        }
        Polygon[] polygons = new Polygon[shells.size()];
        for (int i = 0; i < polygons.length; i++) {
            polygons[i] = Rings.PLANE.createPolygon(Rings.toJts(shells.get(i).points()),
                    holes.get(i).toArray(LinearRing[]::new));
        }
        Geometry area = polygons.length == 1 ? polygons[0] : Rings.PLANE.createMultiPolygon(polygons);
        return mayOverlap(shells) ? area.buffer(0) : area;
    }

    private static int smallestAround(List<Ring> shells, Ring hole) {
        for (int i = shells.size() - 1; i >= 0; i--) {
            if (shells.get(i).contains(hole)) {
                return i;
            }
        }
        return -1;
    }

    private static boolean mayOverlap(List<Ring> shells) {
        for (int i = 0; i < shells.size(); i++) {
            for (int j = 0; j < i; j++) {
                if (shells.get(i).box().intersects(shells.get(j).box())) {
                    return true;
                }
            }
        }
        return false;
    }
}
