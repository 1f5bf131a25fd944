package fabbrica.core.toolpath;

import java.util.ArrayList;
import java.util.List;
import org.locationtech.jts.geom.Geometry;
import org.locationtech.jts.geom.LinearRing;
import org.locationtech.jts.geom.Polygon;

/**
 * One connected area of a layer: an outline that runs counter-clockwise and the holes in it, which run clockwise, so that
 * the solid is on the left hand of every ring. Rings are flat x, y pairs without the first point repeated.
 */
record Island(double[] outline, List<double[]> holes) {

    List<double[]> rings() {
        List<double[]> rings = new ArrayList<>(holes.size() + 1);
        rings.add(outline);
        rings.addAll(holes);
        return rings;
    }

    static List<double[]> rings(List<Island> islands) {
        List<double[]> rings = new ArrayList<>();
        islands.forEach(island -> rings.addAll(island.rings()));
        return rings;
    }

    double areaMm2() {
        return rings().stream().mapToDouble(Rings::signedArea).sum();
    }

    static double areaMm2(List<Island> islands) {
        return islands.stream().mapToDouble(Island::areaMm2).sum();
    }

    boolean contains(double x, double y) {
        return Rings.contains(outline, x, y) && holes.stream().noneMatch(hole -> Rings.contains(hole, x, y));
    }

    Polygon toJts() {
        return Rings.PLANE.createPolygon(Rings.toJts(outline),
                holes.stream().map(Rings::toJts).toArray(LinearRing[]::new));
    }

    static Geometry toJts(List<Island> islands) {
        return islands.size() == 1 ? islands.getFirst().toJts()
                : Rings.PLANE.createMultiPolygon(islands.stream().map(Island::toJts).toArray(Polygon[]::new));
    }

    /** The polygons of a geometry, each an island; whatever has no area is left out. */
    static List<Island> of(Geometry area) {
        List<Island> islands = new ArrayList<>();
        for (int i = 0; i < area.getNumGeometries(); i++) {
            if (area.getGeometryN(i) instanceof Polygon polygon && !polygon.isEmpty()) {
                List<double[]> holes = new ArrayList<>();
                for (int hole = 0; hole < polygon.getNumInteriorRing(); hole++) {
                    holes.add(Rings.clockwise(Rings.flat(polygon.getInteriorRingN(hole))));
                }
                islands.add(new Island(Rings.counterClockwise(Rings.flat(polygon.getExteriorRing())), holes));
            }
        }
        return islands;
    }
}
