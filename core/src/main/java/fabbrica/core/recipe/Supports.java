package fabbrica.core.recipe;

import fabbrica.core.units.OutOfRange;
import java.util.Arrays;
import java.util.Locale;
import java.util.Optional;

/**
 * What is printed under overhangs and broken off afterwards. The usual figures are common practice, no source.
 *
 * @param angleDeg   undersides that lean out farther than this from the vertical are supported
 * @param density    of the support's body, 0 to 1
 * @param gapMm      left free above and below, so that it comes off
 * @param faceLayers closed layers on top of the body, right under the part
 */
public record Supports(Where where, double angleDeg, double density, double gapMm, int faceLayers) {

    public static final Supports NONE = new Supports(Where.NONE, 45, 0.15, 0.2, 2);

    /** Where supports may stand. */
    public enum Where {
        NONE("none"), BED("from the bed only"), EVERYWHERE("everywhere");

        private final String label;

        Where(String label) {
            this.label = label;
        }

        public String code() {
            return name().toLowerCase(Locale.ROOT);
        }

        public String label() {
            return label;
        }

        public static Optional<Where> ofCode(String code) {
            return Arrays.stream(values()).filter(where -> where.code().equals(code.toLowerCase(Locale.ROOT)))
                    .findFirst();
        }
    }

    public Supports {
        RecipeField.SUPPORT_ANGLE.check(angleDeg);
        OutOfRange.check("Support density", density * 100, 1, 100, "%");
        OutOfRange.check("Support gap", gapMm, 0, 5, "mm");
        OutOfRange.check("Support face layers", faceLayers, 0, 50);
    }

    public static Supports of(Where where) {
        return NONE.with(where);
    }

    public Supports with(Where other) {
        return new Supports(other, angleDeg, density, gapMm, faceLayers);
    }

    public Supports withAngle(double deg) {
        return new Supports(where, deg, density, gapMm, faceLayers);
    }

    public boolean any() {
        return where != Where.NONE;
    }
}
