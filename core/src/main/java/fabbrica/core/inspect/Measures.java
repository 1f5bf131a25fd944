package fabbrica.core.inspect;

import fabbrica.core.inspect.Bodies.Body;
import fabbrica.core.inspect.Bodies.Kind;
import fabbrica.core.mesh.model.Bounds;
import fabbrica.core.mesh.model.Mesh;
import fabbrica.core.mesh.model.Triangles;
import java.util.HashSet;
import java.util.List;
import java.util.Set;

/**
 * Volume, surface and what lies on the bed, from one pass over the triangles.
 *
 * <p>The volume is the sum of signed tetrahedra (divergence theorem) about the centre of the bounds, which keeps the
 * rounding small; it is given without sign, and means little for a mesh that is not watertight. It is the volume of what
 * would be printed: triangles that come twice count once, bodies wound inside out count as solids, and those within
 * another solid not at all. Where bodies overlap the volume of their union is taken from {@link Columns}.
 *
 * @param bedContactAreaMm2 area of the faces that face down and lie on the bed
 */
public record Measures(double volumeMm3, double areaMm2, double bedContactAreaMm2) {

    static Measures of(Mesh mesh, Bounds bounds, Soundness soundness, Columns columns) {
        if (soundness.duplicateTriangles() > 0) {
            Mesh once = Triangles.of(mesh).kept(new Once()).mesh();
            return of(once, bounds, Soundness.of(once), columns);
        }
        Measures all = of(mesh, bounds);
        List<Body> bodies = soundness.bodies();
        if (bodies.stream().allMatch(body -> body.kind() == Kind.SOLID || body.kind() == Kind.VOID || body.kind() == Kind.OPEN)
                && soundness.betweenBodies() == 0) {
            return all;
        }
        double volume = bodies.stream().mapToDouble(body -> switch (body.kind()) {
            case SOLID, INSIDE_OUT, OPEN -> Math.abs(body.signedVolumeMm3());
            case VOID -> -Math.abs(body.signedVolumeMm3());
            case SWALLOWED -> 0;
        }).sum();
        double area = bodies.stream().filter(body -> body.kind() != Kind.SWALLOWED).mapToDouble(Body::areaMm2).sum();
        return new Measures(soundness.betweenBodies() > 0 ? columns.solidMm3() : volume, area, all.bedContactAreaMm2());
    }

    /** Lets each three corners through once, however they are wound. */
    private static final class Once implements Triangles.Wanted {

        private final Set<List<Integer>> seen = new HashSet<>();

        @Override
        public boolean test(int a, int b, int c) {
            int low = Math.min(a, Math.min(b, c)), high = Math.max(a, Math.max(b, c));
            return seen.add(List.of(low, a + b + c - low - high, high));
        }
    }

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
