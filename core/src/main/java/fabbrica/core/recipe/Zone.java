package fabbrica.core.recipe;

import fabbrica.core.units.OutOfRange;

/**
 * A box drawn on a part in which other values hold. It is measured from the corner of the part's own box with the least
 * x, y and z until {@linkplain #placed placed}; heights always count from the part's lowest point. Millimetres.
 *
 * @param turnedDeg    the box turned about the origin, as the part is when it is laid on a bed
 * @param infill       density, 0 to 1; −1 leaves the recipe's
 * @param topLayers    closed layers; −1 leaves the recipe's
 * @param bottomLayers closed layers; −1 leaves the recipe's
 */
public record Zone(double minX, double minY, double minZ, double maxX, double maxY, double maxZ, double turnedDeg,
                   double infill, int topLayers, int bottomLayers, Support support) {

    public static final int AS_RECIPE = -1;

    /** What happens to supports inside. */
    public enum Support {
        AS_RECIPE("as elsewhere"), BLOCKED("never"), ENFORCED("always");

        private final String label;

        Support(String label) {
            this.label = label;
        }

        public String label() {
            return label;
        }
    }

    public Zone {
        if (!(minX < maxX && minY < maxY && minZ < maxZ)) {
            throw new OutOfRange("A box needs some width, depth and height.");
        }
        if (infill != AS_RECIPE) {
            OutOfRange.check("Infill", infill * 100, 0, 100, "%");
        }
        OutOfRange.check("Top layers", topLayers, AS_RECIPE, 1000);
        OutOfRange.check("Bottom layers", bottomLayers, AS_RECIPE, 1000);
    }

    public static Zone box(double minX, double minY, double minZ, double maxX, double maxY, double maxZ) {
        return new Zone(minX, minY, minZ, maxX, maxY, maxZ, 0, AS_RECIPE, AS_RECIPE, AS_RECIPE, Support.AS_RECIPE);
    }

    public Zone withInfill(double density) {
        return new Zone(minX, minY, minZ, maxX, maxY, maxZ, turnedDeg, density, topLayers, bottomLayers, support);
    }

    public Zone withClosed(int top, int bottom) {
        return new Zone(minX, minY, minZ, maxX, maxY, maxZ, turnedDeg, infill, top, bottom, support);
    }

    public Zone with(Support other) {
        return new Zone(minX, minY, minZ, maxX, maxY, maxZ, turnedDeg, infill, topLayers, bottomLayers, other);
    }

    /** For a part whose box begins at (x, y), and which is then turned about the origin. */
    public Zone placed(double x, double y, double degrees) {
        return new Zone(minX + x, minY + y, minZ, maxX + x, maxY + y, maxZ, degrees, infill, topLayers, bottomLayers,
                support);
    }

    /** For a part that is moved after it was turned. */
    public Zone moved(double dx, double dy) {
        double cos = Math.cos(Math.toRadians(turnedDeg)), sin = Math.sin(Math.toRadians(turnedDeg));
        return placed(cos * dx + sin * dy, cos * dy - sin * dx, turnedDeg);
    }

    /** On the same part in another size. */
    public Zone scaled(double factor) {
        return new Zone(minX * factor, minY * factor, minZ * factor, maxX * factor, maxY * factor, maxZ * factor,
                turnedDeg, infill, topLayers, bottomLayers, support);
    }

    public double infillOr(double recipe) {
        return infill == AS_RECIPE ? recipe : infill;
    }

    public int topLayersOr(int recipe) {
        return topLayers == AS_RECIPE ? recipe : topLayers;
    }

    public int bottomLayersOr(int recipe) {
        return bottomLayers == AS_RECIPE ? recipe : bottomLayers;
    }

    public boolean reaches(double heightMm) {
        return heightMm > minZ && heightMm < maxZ;
    }

    /** The four corners counter-clockwise, as x, y pairs. */
    public double[] ring() {
        double cos = Math.cos(Math.toRadians(turnedDeg)), sin = Math.sin(Math.toRadians(turnedDeg));
        double[] ring = {minX, minY, maxX, minY, maxX, maxY, minX, maxY};
        for (int i = 0; i < 8; i += 2) {
            double x = ring[i], y = ring[i + 1];
            ring[i] = cos * x - sin * y;
            ring[i + 1] = sin * x + cos * y;
        }
        return ring;
    }
}
