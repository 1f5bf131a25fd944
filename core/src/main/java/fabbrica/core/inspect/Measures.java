package fabbrica.core.inspect;

import fabbrica.core.mesh.model.Bounds;
import fabbrica.core.mesh.model.Mesh;

/**
 * Volume, surface and what lies on the bed, from one pass over the triangles.
 *
 * <p>The volume is the sum of signed tetrahedra (divergence theorem) about the centre of the bounds, which keeps the
 * rounding small; it is given without sign. Voids are taken off by their own sign, overlapping bodies count twice, and
 * it means little for a mesh that is not watertight.
 *
 * @param bedContactAreaMm2 area of the faces that face down and lie on the bed
 */
public record Measures(double volumeMm3, double areaMm2, double bedContactAreaMm2) {

    public static Measures of(Mesh mesh, Bounds bounds) {
        double cx = (bounds.minX() + bounds.maxX()) / 2;
        double cy = (bounds.minY() + bounds.maxY()) / 2;
        double cz = (bounds.minZ() + bounds.maxZ()) / 2;
        double bed = bounds.minZ() + Overhang.ON_BED_MM;
        double sixVolumes = 0, twiceArea = 0, twiceContact = 0;
        double[] normal = new double[3];
        for (int t = 0; t < mesh.triangleCount(); t++) {
            mesh.normal(t, normal);
            int a = mesh.corner(t, 0);
            double length = Math.sqrt(normal[0] * normal[0] + normal[1] * normal[1] + normal[2] * normal[2]);
            sixVolumes += (mesh.x(a) - cx) * normal[0] + (mesh.y(a) - cy) * normal[1] + (mesh.z(a) - cz) * normal[2];
            twiceArea += length;
            if (normal[2] < 0 && Overhang.liesOn(mesh, t, bed)) {
                twiceContact -= normal[2];
            }
        }
        return new Measures(Math.abs(sixVolumes) / 6, twiceArea / 2, twiceContact / 2);
    }
}
