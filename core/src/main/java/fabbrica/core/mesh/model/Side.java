package fabbrica.core.mesh.model;

import java.math.BigDecimal;

/**
 * On which side of a triangle's plane a point lies, exactly.
 *
 * <p>The determinant is worked out in double arithmetic and trusted when it is larger than its error bound (Shewchuk,
 * "Adaptive precision floating-point arithmetic and fast robust geometric predicates", 1997: bound A for orient3d);
 * otherwise again in {@link BigDecimal}, which holds every product of doubles exactly.
 */
public final class Side {

    private static final double EPSILON = Math.ulp(1.0) / 2;
    private static final double BOUND = (7 + 56 * EPSILON) * EPSILON;

    private Side() {
    }

    /** 1 when vertex {@code d} lies on the outer side of (a, b, c), counter-clockwise seen from outside; −1, or 0 on it. */
    public static int of(Mesh mesh, int a, int b, int c, int d) {
        double adx = mesh.x(a) - mesh.x(d), ady = mesh.y(a) - mesh.y(d), adz = mesh.z(a) - mesh.z(d);
        double bdx = mesh.x(b) - mesh.x(d), bdy = mesh.y(b) - mesh.y(d), bdz = mesh.z(b) - mesh.z(d);
        double cdx = mesh.x(c) - mesh.x(d), cdy = mesh.y(c) - mesh.y(d), cdz = mesh.z(c) - mesh.z(d);
        double bc = bdx * cdy, cb = cdx * bdy, ca = cdx * ady, ac = adx * cdy, ab = adx * bdy, ba = bdx * ady;
        double determinant = adz * (bc - cb) + bdz * (ca - ac) + cdz * (ab - ba);
        double permanent = (Math.abs(bc) + Math.abs(cb)) * Math.abs(adz) + (Math.abs(ca) + Math.abs(ac)) * Math.abs(bdz)
                + (Math.abs(ab) + Math.abs(ba)) * Math.abs(cdz);
        // Positive when d lies below the plane, from where a, b, c appear clockwise.
        if (Math.abs(determinant) > BOUND * permanent) {
            return determinant > 0 ? -1 : 1;
        }
        return permanent == 0 ? 0 : -exact(mesh, a, b, c, d);
    }

    private static int exact(Mesh mesh, int a, int b, int c, int d) {
        BigDecimal[] u = difference(mesh, a, d), v = difference(mesh, b, d), w = difference(mesh, c, d);
        BigDecimal sum = u[2].multiply(minor(v, w)).add(v[2].multiply(minor(w, u))).add(w[2].multiply(minor(u, v)));
        return sum.signum();
    }

    private static BigDecimal minor(BigDecimal[] u, BigDecimal[] v) {
        return u[0].multiply(v[1]).subtract(v[0].multiply(u[1]));
    }

    private static BigDecimal[] difference(Mesh mesh, int from, int minus) {
        return new BigDecimal[] {new BigDecimal(mesh.x(from)).subtract(new BigDecimal(mesh.x(minus))),
            new BigDecimal(mesh.y(from)).subtract(new BigDecimal(mesh.y(minus))),
            new BigDecimal(mesh.z(from)).subtract(new BigDecimal(mesh.z(minus)))};
    }
}
