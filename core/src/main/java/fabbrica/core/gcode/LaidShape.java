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
import java.util.Set;
import org.locationtech.jts.geom.Coordinate;
import org.locationtech.jts.geom.Geometry;
import org.locationtech.jts.geom.GeometryFactory;
import org.locationtech.jts.geom.LineString;
import org.locationtech.jts.geom.Polygon;
import org.locationtech.jts.operation.buffer.BufferOp;
import org.locationtech.jts.operation.buffer.BufferParameters;
import org.locationtech.jts.operation.linemerge.LineMerger;
import org.locationtech.jts.operation.overlayng.OverlayNG;
import org.locationtech.jts.operation.overlayng.OverlayNGRobust;
import org.locationtech.jts.operation.union.UnaryUnionOp;
import org.locationtech.jts.simplify.TopologyPreservingSimplifier;

/**
 * The solid that a file of G-code lays, to be looked at and to be placed: slabs from one layer up to another over what lies within
 * the outer walls, where the file says which lines those are, else over all its lines with their hollows filled. Supports, skirts
 * and purge lines are not part of it. In mm, where the file lays it on the bed.
 */
public final class LaidShape {

    private static final int MOST_SLABS = 80;
    private static final double ALIKE = 0.01;
    private static final double FINE_MM = 0.02;
    /** A wall that is left open further than this share of its length goes around nothing. */
    private static final double MOST_OPEN = 0.25;
    private static final double WIDEST_MM = 2;
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
        Geometry within = walled ? withinWalls(layer) : allFilled(layer);
        return TopologyPreservingSimplifier.simplify(within, FINE_MM);
    }

    /** By the even-odd rule: a wall within a wall goes around a hole. */
    private static Geometry withinWalls(Layer layer) {
        LineMerger walls = new LineMerger();
        double width = 0, length = 0;
        for (int path = 0; path < layer.pathCount(); path++) {
            if (layer.type(path) == PathType.OUTER_WALL) {
                walls.add(line(layer, path));
                width += width(layer, path) * layer.lengthMm(path);
                length += layer.lengthMm(path);
            }
        }
        Geometry within = PLANE.createPolygon();
        for (LineString wall : merged(walls)) {
            if (wall.getNumPoints() > 2 && wall.getStartPoint().distance(wall.getEndPoint()) < MOST_OPEN * wall.getLength()) {
                within = OverlayNGRobust.overlay(within, closed(wall).buffer(0), OverlayNG.SYMDIFFERENCE);
            }
        }
        return within.isEmpty() ? within : BufferOp.bufferOp(within, width / length / 2, ROUND);
    }

    @SuppressWarnings("unchecked")
    private static Collection<LineString> merged(LineMerger lines) {
        return lines.getMergedLineStrings();
    }

    private static Polygon closed(LineString line) {
        Coordinate[] points = line.getCoordinates();
        Coordinate[] ring = Arrays.copyOf(points, points.length + 1);
        ring[points.length] = points[0].copy();
        return PLANE.createPolygon(ring);
    }

    private static Geometry allFilled(Layer layer) {
        List<Geometry> lines = new ArrayList<>();
        for (int path = 0; path < layer.pathCount(); path++) {
            if (!BESIDE.contains(layer.type(path))) {
                lines.add(BufferOp.bufferOp(line(layer, path), width(layer, path) / 2, ROUND));
            }
        }
        List<Polygon> filled = lines.isEmpty() ? List.of()
                : polygons(UnaryUnionOp.union(lines)).stream().map(polygon -> PLANE.createPolygon(polygon.getExteriorRing())).toList();
        return filled.isEmpty() ? PLANE.createPolygon() : UnaryUnionOp.union(filled);
    }

    private static double width(Layer layer, int path) {
        return Math.min(layer.widthMm(path), WIDEST_MM);
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
