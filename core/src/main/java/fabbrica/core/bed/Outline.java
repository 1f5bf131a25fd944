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

    /** The cells that are set, from the straight stretches between such and others: two of them cross nowhere. */
    private static Geometry shape(Bitmap map, Bounds bounds, double cell) {
        Polygonizer borders = new Polygonizer(true);
        for (int y = 0; y <= map.height(); y++) {
            for (int x = 0, end; x < map.width(); x = end) {
                int side = side(map, x, y, x, y - 1);
                for (end = x + 1; end < map.width() && side(map, end, y, end, y - 1) == side; end++) {
                }
                if (side != 0) {
                    borders.add(PLANE.createLineString(new Coordinate[] {corner(bounds, cell, x, y), corner(bounds, cell, end, y)}));
                }
            }
        }
        for (int x = 0; x <= map.width(); x++) {
            for (int y = 0, end; y < map.height(); y = end) {
                int side = side(map, x, y, x - 1, y);
                for (end = y + 1; end < map.height() && side(map, x, end, x - 1, end) == side; end++) {
                }
                if (side != 0) {
                    borders.add(PLANE.createLineString(new Coordinate[] {corner(bounds, cell, x, y), corner(bounds, cell, x, end)}));
                }
            }
        }
        return borders.getGeometry();
    }

    /** On which side of the border between two cells one is set that is not on the other; 0 when both are alike. */
    private static int side(Bitmap map, int x, int y, int otherX, int otherY) {
        return (isSet(map, x, y) ? 1 : 0) - (isSet(map, otherX, otherY) ? 1 : 0);
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
