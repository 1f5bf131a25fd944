package fabbrica.core.bed;

import fabbrica.core.inspect.Coarser;
import fabbrica.core.mesh.model.Bounds;
import fabbrica.core.mesh.model.Mesh;
import java.util.ArrayList;
import java.util.List;
import org.locationtech.jts.algorithm.ConvexHull;
import org.locationtech.jts.geom.Coordinate;
import org.locationtech.jts.geom.Envelope;
import org.locationtech.jts.geom.Geometry;
import org.locationtech.jts.geom.GeometryFactory;
import org.locationtech.jts.geom.util.AffineTransformation;
import org.locationtech.jts.operation.union.UnaryUnionOp;

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
        List<Geometry> runs = new ArrayList<>();
        for (int y = 0; y < map.height(); y++) {
            for (int x = map.nextSet(0, y); x < map.width();) {
                int end = x;
                while (end < map.width() && map.get(end, y)) {
                    end++;
                }
                runs.add(PLANE.toGeometry(new Envelope(bounds.minX() + x * cell, bounds.minX() + end * cell, bounds.minY() + y * cell,
                        bounds.minY() + (y + 1) * cell)));
                x = map.nextSet(end, y);
            }
        }
        Geometry shape = UnaryUnionOp.union(runs);
        double grown = fine ? Coarser.movedAtMost(part, COARSE_CELLS) : 0;
        Footprint footprint = Footprint.of(part);
        return new Outline(grown > 0 ? shape.buffer(grown, 2) : shape, hull(footprint), footprint.heightMm(), cell + grown,
                footprint.insetMm());
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
