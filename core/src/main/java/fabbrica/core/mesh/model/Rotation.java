package fabbrica.core.mesh.model;

/**
 * A rotation as a unit quaternion; multiples of one another count as the same and are normalised.
 *
 * <p>Source of the formulas: Shoemake, "Animating rotation with quaternion curves" (1985).
 */
public record Rotation(double w, double x, double y, double z) {

    public static final Rotation NONE = new Rotation(1, 0, 0, 0);
    private static final double SAME_SIDE = Math.cos(Math.toRadians(1));

    public Rotation {
        double length = Math.sqrt(w * w + x * x + y * y + z * z);
        if (!(length > 0) || !Double.isFinite(length)) {
            throw new IllegalArgumentException("a rotation needs a quaternion other than zero");
        }
        // One that is normal already stays as it is, digit for digit, however often it is written and read.
        if (Math.abs(length - 1) > 1e-12) {
            w /= length;
            x /= length;
            y /= length;
            z /= length;
        }
    }

    /** The smallest rotation after which direction (nx, ny, nz), of any length above zero, points straight down. */
    public static Rotation bringingDown(double nx, double ny, double nz) {
        double length = Math.sqrt(nx * nx + ny * ny + nz * nz);
        double cosine = -nz / length;
        if (cosine < -1 + 1e-12) {
            return new Rotation(0, 1, 0, 0);
        }
        // Half-way quaternion: axis n × (0, 0, −1), real part 1 + cosine.
        return new Rotation(1 + cosine, -ny / length, nx / length, 0);
    }

    /** This rotation followed by {@code next}. */
    public Rotation then(Rotation next) {
        return new Rotation(next.w * w - next.x * x - next.y * y - next.z * z,
                next.w * x + next.x * w + next.y * z - next.z * y,
                next.w * y - next.x * z + next.y * w + next.z * x,
                next.w * z + next.x * y - next.y * x + next.z * w);
    }

    /** Whether the same side points down after this rotation as after another, to about a degree. */
    public boolean sameWayUp(Rotation other) {
        double[] a = matrix(), b = other.matrix();
        return a[6] * b[6] + a[7] * b[7] + a[8] * b[8] > SAME_SIDE;
    }

    /** The 3 × 3 matrix, row after row; it multiplies column vectors from the left. */
    public double[] matrix() {
        return new double[] {
            1 - 2 * (y * y + z * z), 2 * (x * y - w * z), 2 * (x * z + w * y),
            2 * (x * y + w * z), 1 - 2 * (x * x + z * z), 2 * (y * z - w * x),
            2 * (x * z - w * y), 2 * (y * z + w * x), 1 - 2 * (x * x + y * y)};
    }
}
