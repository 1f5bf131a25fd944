package fabbrica.core.gcode;

import fabbrica.core.mesh.model.Mesh;
import fabbrica.core.mesh.model.Shapes;
import fabbrica.core.recipe.BuiltIn;
import fabbrica.core.recipe.Printer;
import fabbrica.core.toolpath.Layer;
import fabbrica.core.toolpath.PathType;
import java.io.IOException;
import java.io.InputStream;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.Collection;
import java.util.EnumSet;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.SortedMap;
import java.util.TreeMap;
import org.locationtech.jts.algorithm.locate.SimplePointInAreaLocator;
import org.locationtech.jts.geom.Coordinate;
import org.locationtech.jts.geom.Geometry;
import org.locationtech.jts.geom.GeometryFactory;
import org.locationtech.jts.geom.LineString;
import org.locationtech.jts.geom.Location;
import org.locationtech.jts.geom.Polygon;
import org.locationtech.jts.operation.buffer.BufferOp;
import org.locationtech.jts.operation.buffer.BufferParameters;
import org.locationtech.jts.operation.linemerge.LineMerger;
import org.locationtech.jts.operation.overlayng.OverlayNG;
import org.locationtech.jts.operation.overlayng.OverlayNGRobust;
import org.locationtech.jts.operation.union.UnaryUnionOp;
import org.locationtech.jts.simplify.DouglasPeuckerSimplifier;
import org.locationtech.jts.simplify.TopologyPreservingSimplifier;

/**
 * The solid that a file of G-code lays, to be looked at and to be placed: slabs from one layer up to another over what lies within
 * the outer walls, where the file says which lines those are, else over the hull of all its lines. Supports, skirts and purge lines
 * are not part of it. In mm, where the file lays it on the bed. No file, however tangled, takes more than a moment a layer.
 */
public final class LaidShape {

    private static final int MOST_SLABS = 80;
    private static final double ALIKE = 0.01;
    private static final double FINE_MM = 0.02;
    /** A wall that is left open further than this share of its length goes around nothing. */
    private static final double MOST_OPEN = 0.25;
    private static final double WIDEST_MM = 2;
    private static final double USUAL_LINE_MM = 0.4;
    /** Loops in a layer, and points of one that crosses itself, that are still told apart. */
    private static final int MOST_WALLS = 3000;
    private static final int MOST_MENDED = 400;
    private static final Set<PathType> BESIDE = EnumSet.of(PathType.TRAVEL, PathType.ADHESION, PathType.PURGE, PathType.SUPPORT, PathType.SUPPORT_FACE);
    /** How amounts of filament become widths of lines needs a diameter of filament; nothing else of the printer matters. */
    private static final Printer ANY = BuiltIn.printers().getFirst();
    private static final BufferParameters ROUND = new BufferParameters(2);
    private static final GeometryFactory PLANE = new GeometryFactory();

    private final List<Layer> layers;
    private final boolean walled;
    private final List<Mesh> solids = new ArrayList<>();

    private LaidShape(List<Layer> layers) {
        this.layers = layers;
        this.walled = layers.stream().anyMatch(layer -> layer.lengthMm(PathType.OUTER_WALL) > 0);
    }

    /** @return without a triangle when nothing is laid */
    public static Mesh of(InputStream in) throws IOException {
        LaidShape shape = new LaidShape(GcodeLayers.of(in, ANY).toolpath().layers());
        shape.stack();
        return Shapes.together(shape.solids.toArray(Mesh[]::new));
    }

    /** A slab goes as high as its outline hardly changes; what is laid lower than what came before begins on the bed. */
    private void stack() {
        double step = layers.stream().mapToDouble(Layer::topMm).max().orElse(0) / MOST_SLABS;
        Geometry outline = PLANE.createPolygon();
        double from = 0, to = 0;
        for (int i = 0; i < layers.size(); i++) {
            Layer layer = layers.get(i);
            boolean down = layer.topMm() <= to;
            boolean last = i + 1 == layers.size() || layers.get(i + 1).topMm() < layer.topMm();
            if (!down && !last && layer.topMm() < to + step) {
                continue;
            }
            Geometry next = outline(layer);
            if (next.isEmpty()) {
                continue;
            }
            if (down || !alike(outline, next)) {
                raise(outline, from, to);
                from = down ? 0 : to;
                outline = next;
            }
            to = layer.topMm();
        }
        raise(outline, from, to);
    }

    private static boolean alike(Geometry a, Geometry b) {
        return Math.abs(a.getArea() - b.getArea()) < ALIKE * b.getArea()
                && OverlayNGRobust.overlay(a, b, OverlayNG.SYMDIFFERENCE).getArea() < ALIKE * b.getArea();
    }

    private void raise(Geometry outline, double from, double to) {
        for (Polygon polygon : polygons(outline)) {
            solids.add(Shapes.extrusion(polygon, to - from).moved(0, 0, from));
        }
    }

    private Geometry outline(Layer layer) {
        return walled ? withinWalls(layer) : hull(layer);
    }

    /** By the even-odd rule: a wall within a wall goes around a hole, one within that around an island. */
    private static Geometry withinWalls(Layer layer) {
        LineMerger lines = new LineMerger();
        double width = 0, length = 0;
        for (int path = 0; path < layer.pathCount(); path++) {
            if (layer.type(path) == PathType.OUTER_WALL) {
                lines.add(line(layer, path));
                width += Math.min(layer.widthMm(path), WIDEST_MM) * layer.lengthMm(path);
                length += layer.lengthMm(path);
            }
        }
        List<Geometry> walls = merged(lines).stream().filter(wall -> wall.getNumPoints() > 2
                && wall.getStartPoint().distance(wall.getEndPoint()) < MOST_OPEN * wall.getLength()).map(LaidShape::within).filter(wall -> wall.getArea() > 0).toList();
        if (walls.size() > MOST_WALLS) {
            return hull(layer);
        }
        SortedMap<Integer, List<Geometry>> byDepth = new TreeMap<>();
        walls.forEach(wall -> byDepth.computeIfAbsent(depth(wall, walls), depth -> new ArrayList<>()).add(wall));
        Geometry within = PLANE.createPolygon();
        for (Map.Entry<Integer, List<Geometry>> level : byDepth.entrySet()) {
            within = OverlayNGRobust.overlay(within, UnaryUnionOp.union(level.getValue()), level.getKey() % 2 == 0 ? OverlayNG.UNION : OverlayNG.DIFFERENCE);
        }
        return within.isEmpty() ? within : TopologyPreservingSimplifier.simplify(BufferOp.bufferOp(within, width / length / 2, ROUND), FINE_MM);
    }

    /** Within how many others it lies. */
    private static int depth(Geometry wall, List<Geometry> walls) {
        Coordinate at = wall.getCoordinate();
        return (int) walls.stream().filter(other -> other != wall && other.getEnvelopeInternal().contains(wall.getEnvelopeInternal())
                && SimplePointInAreaLocator.locate(at, other) == Location.INTERIOR).count();
    }

    @SuppressWarnings("unchecked")
    private static Collection<LineString> merged(LineMerger lines) {
        return lines.getMergedLineStrings();
    }

    /** What a wall goes around; the hull of one that crosses itself all over. */
    private static Geometry within(LineString wall) {
        Coordinate[] points = DouglasPeuckerSimplifier.simplify(wall, FINE_MM).getCoordinates();
        Coordinate[] ring = Arrays.copyOf(points, points.length + 1);
        ring[points.length] = points[0].copy();
        if (points.length < 3) {
            return wall.convexHull();
        }
        Polygon polygon = PLANE.createPolygon(ring);
        return polygon.isValid() ? polygon : points.length > MOST_MENDED ? wall.convexHull() : polygon.buffer(0);
    }

    private static Geometry hull(Layer layer) {
        List<Geometry> lines = new ArrayList<>();
        for (int path = 0; path < layer.pathCount(); path++) {
            if (!BESIDE.contains(layer.type(path))) {
                lines.add(line(layer, path));
            }
        }
        Geometry hull = PLANE.buildGeometry(lines).convexHull();
        return hull.isEmpty() ? PLANE.createPolygon() : BufferOp.bufferOp(hull, USUAL_LINE_MM / 2, ROUND);
    }

    private static LineString line(Layer layer, int path) {
        Coordinate[] points = new Coordinate[layer.end(path) - layer.start(path)];
        for (int i = 0; i < points.length; i++) {
            points[i] = new Coordinate(layer.x(layer.start(path) + i), layer.y(layer.start(path) + i));
        }
        return PLANE.createLineString(points);
    }

    private static List<Polygon> polygons(Geometry geometry) {
        List<Polygon> polygons = new ArrayList<>();
        for (int i = 0; i < geometry.getNumGeometries(); i++) {
            if (geometry.getGeometryN(i) instanceof Polygon polygon && !polygon.isEmpty()) {
                polygons.add(polygon);
            }
        }
        return polygons;
    }
}
