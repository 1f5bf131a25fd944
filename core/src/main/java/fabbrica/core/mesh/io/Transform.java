package fabbrica.core.mesh.io;

import fabbrica.core.mesh.model.Rotation;
import java.util.Arrays;
import java.util.Locale;
import java.util.StringTokenizer;
import java.util.stream.Collectors;

/**
 * A transform as 3MF writes it: four rows of three numbers that multiply row vectors from the right, the last row a translation
 * (3MF Core Specification 1.3, section 3.3).
 */
public record Transform(double[] rows) {

    public static final Transform IDENTITY = new Transform(new double[] {1, 0, 0, 0, 1, 0, 0, 0, 1, 0, 0, 0});

    /** A rotation followed by a translation. */
    public static Transform of(Rotation rotation, double dx, double dy, double dz) {
        double[] m = rotation.matrix();
        return new Transform(new double[] {m[0], m[3], m[6], m[1], m[4], m[7], m[2], m[5], m[8], dx, dy, dz});
    }

    public static Transform read(Xml xml) throws ModelFormatException {
        String text = xml.attribute("transform");
        if (text == null) {
            return IDENTITY;
        }
        StringTokenizer words = new StringTokenizer(text);
        if (words.countTokens() != 12) {
            throw xml.broken("a transform has %d numbers in place of 12".formatted(words.countTokens()));
        }
        double[] rows = new double[12];
        for (int i = 0; i < 12; i++) {
            rows[i] = xml.finite(words.nextToken());
        }
        return new Transform(rows);
    }

    public Transform then(Transform outer) {
        double[] product = new double[12];
        for (int row = 0; row < 4; row++) {
            for (int column = 0; column < 3; column++) {
                double sum = row == 3 ? outer.rows[9 + column] : 0;
                for (int k = 0; k < 3; k++) {
                    sum += rows[3 * row + k] * outer.rows[3 * k + column];
                }
                product[3 * row + column] = sum;
            }
        }
        return new Transform(product);
    }

    /** A coordinate of a point after this transform: column 0, 1 or 2 for x, y or z. */
    double coordinate(int column, double x, double y, double z) {
        return x * rows[column] + y * rows[3 + column] + z * rows[6 + column] + rows[9 + column];
    }

    /** Whether it turns a left hand into a right one. */
    boolean isMirrored() {
        double[] r = rows;
        return r[0] * (r[4] * r[8] - r[5] * r[7]) - r[1] * (r[3] * r[8] - r[5] * r[6])
                + r[2] * (r[3] * r[7] - r[4] * r[6]) < 0;
    }

    /** As it stands in the attribute. */
    public String text() {
        return Arrays.stream(rows).mapToObj(value -> String.format(Locale.ROOT, "%.9g", value))
                .collect(Collectors.joining(" "));
    }
}
