package fabbrica.core.inspect;

import fabbrica.core.mesh.model.Bounds;
import fabbrica.core.mesh.model.Mesh;

/**
 * Volume, surface and the two areas that decide how a part stands, from one pass over the triangles.
 *
 * <p>The volume is the sum of signed tetrahedra (divergence theorem) about the centre of the bounds, which keeps the
 * rounding small; it is given without sign, and means little for a mesh that is not watertight.
 *
 * @param overhangAreaMm2   area of the surface that faces down at more than 45° from the vertical and does not lie on
 *                          the bed (45°: common practice, no source)
 * @param bedContactAreaMm2 area that faces down and lies on the bed
 */
public record Measures(double volumeMm3, double areaMm2, double overhangAreaMm2, double bedContactAreaMm2) {

    private static final double STEEPEST_UNSUPPORTED = Math.sin(Math.toRadians(45)) + 1e-6;
    /** A face this close to the lowest point is squeezed onto the bed by the first layer. */
    private static final double ON_BED_MM = 0.05;

    public static Measures of(Mesh mesh, Bounds bounds) {
        double cx = (bounds.minX() + bounds.maxX()) / 2;
        double cy = (bounds.minY() + bounds.maxY()) / 2;
        double cz = (bounds.minZ() + bounds.maxZ()) / 2;
        double bed = bounds.minZ() + ON_BED_MM;
        double sixVolumes = 0, twiceArea = 0, twiceOverhang = 0, twiceContact = 0;
        double[] normal = new double[3];
        for (int t = 0; t < mesh.triangleCount(); t++) {
            mesh.normal(t, normal);
            int a = mesh.corner(t, 0);
            double length = Math.sqrt(normal[0] * normal[0] + normal[1] * normal[1] + normal[2] * normal[2]);
            sixVolumes += (mesh.x(a) - cx) * normal[0] + (mesh.y(a) - cy) * normal[1] + (mesh.z(a) - cz) * normal[2];
            twiceArea += length;
            if (-normal[2] > STEEPEST_UNSUPPORTED * length) {
                double highest = Math.max(mesh.z(a), Math.max(mesh.z(mesh.corner(t, 1)), mesh.z(mesh.corner(t, 2))));
                if (highest <= bed) {
                    twiceContact += length;
                } else {
                    twiceOverhang += length;
                }
            }
        }
        return new Measures(Math.abs(sixVolumes) / 6, twiceArea / 2, twiceOverhang / 2, twiceContact / 2);
    }

    Measures scaled(double factor) {
        double square = factor * factor;
        return new Measures(volumeMm3 * square * factor, areaMm2 * square, overhangAreaMm2 * square,
                bedContactAreaMm2 * square);
    }
}
