package fabbrica.core.inspect;

import fabbrica.core.mesh.model.Mesh;

/** How much of a surface lies on shallow slopes, where the steps between layers catch the eye. */
public final class Slopes {

    /** Leaning more than 50° from the vertical, and not level. */
    private static final double SHALLOW = Math.sin(Math.toRadians(50));
    private static final double LEVEL = Math.sin(Math.toRadians(88));

    private Slopes() {
    }

    /** Share of the area of faces that look up or sideways, 0 to 1. */
    public static double shallowShare(Mesh mesh) {
        double shallow = 0, seen = 0;
        double[] normal = new double[3];
        for (int t = 0; t < mesh.triangleCount(); t++) {
            mesh.normal(t, normal);
            double area = Math.sqrt(normal[0] * normal[0] + normal[1] * normal[1] + normal[2] * normal[2]);
            double up = area == 0 ? 0 : normal[2] / area;
            if (up > -LEVEL) {
                seen += area;
                shallow += up > SHALLOW && up < LEVEL ? area : 0;
            }
        }
        return seen == 0 ? 0 : shallow / seen;
    }
}
