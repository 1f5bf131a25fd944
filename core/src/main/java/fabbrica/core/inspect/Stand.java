package fabbrica.core.inspect;

import fabbrica.core.mesh.model.Bounds;
import fabbrica.core.mesh.model.Mesh;
import java.util.ArrayList;
import java.util.List;
import org.locationtech.jts.algorithm.ConvexHull;
import org.locationtech.jts.geom.Coordinate;
import org.locationtech.jts.geom.Geometry;
import org.locationtech.jts.geom.GeometryFactory;
import org.locationtech.jts.operation.distance.DistanceOp;

/**
 * How a part stands on the bed: its centre of mass over the hull of what touches the bed. Linear in the triangles.
 *
 * @param contactMm2    area of the faces that lie on the bed
 * @param hull          convex hull of all that touches the bed, as x, y pairs; fewer than three points when it stands on
 *                      an edge or a corner
 * @param massX         centre of mass, of the solid taken as evenly filled
 * @param shadowMm2     of the box around it, seen from above
 * @param tippingDeg    how far the part may be tilted before it falls over; 0 or less when it cannot stand by itself
 */
public record Stand(double contactMm2, double[] hull, double massX, double massY, double massZ, double heightMm,
                    double shadowMm2, double tippingDeg) {

    /** Judgement of ours: a knock of the nozzle tilts a part by a few degrees (common practice, no source). */
    private static final double STABLE_DEG = 6;
    private static final double SMALL_CONTACT_MM2 = 100;
    private static final double SMALL_SHARE = 0.1;
    private static final double TALL = 60;

    static Stand of(Mesh mesh, double contactMm2) {
        Bounds bounds = mesh.bounds();
        double[] mass = centreOfMass(mesh, bounds);
        List<Coordinate> touching = new ArrayList<>();
        for (int v = 0; v < mesh.vertexCount(); v++) {
            if (mesh.z(v) <= bounds.minZ() + Overhang.ON_BED_MM) {
                touching.add(new Coordinate(mesh.x(v), mesh.y(v)));
            }
        }
        GeometryFactory plane = new GeometryFactory();
        Geometry hull = new ConvexHull(touching.toArray(Coordinate[]::new), plane).getConvexHull();
        Geometry foot = plane.createPoint(new Coordinate(mass[0], mass[1]));
        double toBorder = hull.getDimension() < 2 ? -DistanceOp.distance(hull, foot)
                : DistanceOp.distance(hull.getBoundary(), foot) * (hull.covers(foot) ? 1 : -1);
        Coordinate[] ring = hull.getCoordinates();
        double[] corners = new double[2 * Math.max(1, ring.length - (hull.getDimension() == 2 ? 1 : 0))];
        for (int i = 0; 2 * i < corners.length; i++) {
            corners[2 * i] = ring[i].x;
            corners[2 * i + 1] = ring[i].y;
        }
        double massHeight = Math.max(1e-9, mass[2] - bounds.minZ());
        return new Stand(contactMm2, corners, mass[0], mass[1], mass[2], bounds.sizeZ(), bounds.sizeX() * bounds.sizeY(),
                Math.toDegrees(Math.atan2(toBorder, massHeight)));
    }

    /**
     * Whether so little lies on the bed for the height, or under so much of the part, that it may let go: common practice,
     * no source; the figures are a judgement of ours.
     */
    public boolean smallContact() {
        return contactMm2 < heightMm * heightMm / TALL || contactMm2 < SMALL_CONTACT_MM2 && contactMm2 < SMALL_SHARE * shadowMm2;
    }

    public boolean stable() {
        return tippingDeg >= STABLE_DEG;
    }

    /** By signed tetrahedra about the middle of the bounds, which stands in for solids without volume. */
    private static double[] centreOfMass(Mesh mesh, Bounds bounds) {
        double cx = (bounds.minX() + bounds.maxX()) / 2;
        double cy = (bounds.minY() + bounds.maxY()) / 2;
        double cz = (bounds.minZ() + bounds.maxZ()) / 2;
        double volume = 0, x = 0, y = 0, z = 0;
        double[] n = new double[3];
        for (int t = 0; t < mesh.triangleCount(); t++) {
            mesh.normal(t, n);
            int a = mesh.corner(t, 0), b = mesh.corner(t, 1), c = mesh.corner(t, 2);
            double part = (mesh.x(a) - cx) * n[0] + (mesh.y(a) - cy) * n[1] + (mesh.z(a) - cz) * n[2];
            volume += part;
            x += part * (mesh.x(a) + mesh.x(b) + mesh.x(c) - 3 * cx);
            y += part * (mesh.y(a) + mesh.y(b) + mesh.y(c) - 3 * cy);
            z += part * (mesh.z(a) + mesh.z(b) + mesh.z(c) - 3 * cz);
        }
        boolean solid = Math.abs(volume) > 1e-9 * bounds.sizeX() * bounds.sizeY() * bounds.sizeZ() && volume != 0;
        double[] mass = {cx, cy, cz};
        if (solid) {
            mass = new double[] {cx + x / (4 * volume), cy + y / (4 * volume), cz + z / (4 * volume)};
        }
        return mass;
    }
}
