package fabbrica.core.bed;

import fabbrica.core.inspect.Coarser;
import fabbrica.core.mesh.model.Bounds;
import fabbrica.core.mesh.model.Mesh;
import org.locationtech.jts.algorithm.ConvexHull;
import org.locationtech.jts.geom.Coordinate;
import org.locationtech.jts.geom.Envelope;
import org.locationtech.jts.geom.Geometry;
import org.locationtech.jts.geom.GeometryFactory;
import org.locationtech.jts.geom.util.AffineTransformation;
import org.locationtech.jts.operation.polygonize.Polygonizer;

/**
 * What a part covers seen from above, hollows and bays included, in millimetres. It is drawn on a grid of {@value #CELLS} cells
 * along its longer side and reaches up to a cell beyond the part, never less far.
 *
 * @param shape  one or more polygons
 * @param hull   the exact convex hull of the part
 * @param cellMm by which the shape reaches beyond the part at most
 * @param footMm how far what stands on the bed stays inside of it at least
 */
public record Outline(Geometry shape, Geometry hull, double heightMm, double cellMm, double footMm) {

    static final int CELLS = 400;

    private static final int FINE_TRIANGLES = 100_000;
    private static final int COARSE_CELLS = 200;
    private static final GeometryFactory PLANE = new GeometryFactory();

    public static Outline of(Mesh part) {
        boolean fine = part.triangleCount() > FINE_TRIANGLES;
        Mesh mesh = fine ? Coarser.of(part, COARSE_CELLS) : part;
        Bounds bounds = mesh.bounds();
        double cell = Math.max(1e-6, Math.max(bounds.sizeX(), bounds.sizeY()) / CELLS);
        Bitmap map = Bitmap.ofMesh(mesh, bounds, cell);
        Geometry shape = shape(map, bounds, cell);
        double grown = fine ? Coarser.movedAtMost(part, COARSE_CELLS) : 0;
        Footprint footprint = Footprint.of(part);
        return new Outline(grown > 0 ? shape.buffer(grown, 2) : shape, hull(footprint), footprint.heightMm(), cell + grown,
                footprint.insetMm());
    }

    /** Cells, or corners of theirs, in lines that run along one axis. */
    private interface InLines<T> {
        T at(int line, int along);
    }

    /** The cells that are set, from the straight stretches between such and others: two of them cross nowhere. */
    private static Geometry shape(Bitmap map, Bounds bounds, double cell) {
        Polygonizer borders = new Polygonizer(true);
        addBorders(borders, map.height(), map.width(), (y, x) -> isSet(map, x, y), (y, x) -> corner(bounds, cell, x, y));
        addBorders(borders, map.width(), map.height(), (x, y) -> isSet(map, x, y), (x, y) -> corner(bounds, cell, x, y));
        return borders.getGeometry();
    }

    /** Those between one line of cells and the next. */
    private static void addBorders(Polygonizer borders, int lines, int length, InLines<Boolean> cells, InLines<Coordinate> corners) {
        for (int line = 0; line <= lines; line++) {
            for (int from = 0, to; from < length; from = to) {
                int side = side(cells, line, from);
                for (to = from + 1; to < length && side(cells, line, to) == side; to++) {
                }
                if (side != 0) {
                    borders.add(PLANE.createLineString(new Coordinate[] {corners.at(line, from), corners.at(line, to)}));
                }
            }
        }
    }

    /** On which side of the border before a line a cell is set and the other is not; 0 when both are alike. */
    private static int side(InLines<Boolean> cells, int line, int along) {
        return (cells.at(line, along) ? 1 : 0) - (cells.at(line - 1, along) ? 1 : 0);
    }

    private static boolean isSet(Bitmap map, int x, int y) {
        return x >= 0 && y >= 0 && x < map.width() && y < map.height() && map.get(x, y);
    }

    private static Coordinate corner(Bounds bounds, double cell, int x, int y) {
        return new Coordinate(bounds.minX() + x * cell, bounds.minY() + y * cell);
    }

    /** Turned about the origin, counter-clockwise, and then moved so that the middle of its box lies there. */
    public Outline placed(double xMm, double yMm, double turnDeg) {
        AffineTransformation turn = AffineTransformation.rotationInstance(Math.toRadians(turnDeg));
        Envelope box = turn.transform(hull).getEnvelopeInternal();
        AffineTransformation place = turn.translate(xMm - (box.getMinX() + box.getMaxX()) / 2, yMm - (box.getMinY() + box.getMaxY()) / 2);
        return new Outline(place.transform(shape), place.transform(hull), heightMm, cellMm, footMm);
    }

    /** The exact box around the part. */
    public Envelope box() {
        return hull.getEnvelopeInternal();
    }

    private static Geometry hull(Footprint footprint) {
        double[] corners = footprint.hull();
        Coordinate[] points = new Coordinate[corners.length / 2];
        for (int i = 0; i < points.length; i++) {
            points[i] = new Coordinate(corners[2 * i], corners[2 * i + 1]);
        }
        return new ConvexHull(points, PLANE).getConvexHull();
    }
}
