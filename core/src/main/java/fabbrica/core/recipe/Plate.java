package fabbrica.core.recipe;

import fabbrica.core.units.OutOfRange;
import java.util.List;

/**
 * What lies on one bed in one run: copies, each in its place, printed by one recipe.
 *
 * @param copies in the order in which they are printed when it is one after another
 */
public record Plate(List<Copy> copies, Sequence sequence, Recipe recipe) {

    /** A part in its place. */
    public record Copy(Part part, Place place) {
    }

    /**
     * Where a copy lies: its part turned about the vertical, counter-clockwise seen from above, and then moved so that the middle
     * of the box around it lies here.
     *
     * @param xMm from the left edge of the bed
     * @param yMm from its front edge
     */
    public record Place(double xMm, double yMm, double turnDeg) {

        public Place movedBy(double dxMm, double dyMm) {
            return new Place(xMm + dxMm, yMm + dyMm, turnDeg);
        }
    }

    /** The names are stored. */
    public enum Sequence {
        TOGETHER("layer by layer"), ONE_BY_ONE("one after another");

        private final String label;

        Sequence(String label) {
            this.label = label;
        }

        public String label() {
            return label;
        }
    }

    public Plate {
        copies = List.copyOf(copies);
        if (copies.isEmpty()) {
            throw new OutOfRange("There is nothing on the plate.");
        }
    }

    /** One copy of a part. */
    public static Plate of(Part part, Place place, Recipe recipe) {
        return new Plate(List.of(new Copy(part, place)), Sequence.TOGETHER, recipe);
    }

    public Plate with(Recipe other) {
        return new Plate(copies, sequence, other);
    }
}
