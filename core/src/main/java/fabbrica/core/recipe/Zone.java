package fabbrica.core.recipe;

import fabbrica.core.units.OutOfRange;

/**
 * A box drawn on a part in which other values hold. Sides are in the coordinates of the part as it is handed over,
 * heights count from its lowest point; millimetres.
 *
 * @param turnedDeg    the box turned about the origin, as the part is when it is laid on a bed
 * @param infill       density, 0 to 1; −1 leaves the recipe's
 * @param topLayers    closed layers; −1 leaves the recipe's
 * @param bottomLayers closed layers; −1 leaves the recipe's
 */
public record Zone(double minX, double minY, double minZ, double maxX, double maxY, double maxZ, double turnedDeg,
                   double infill, int topLayers, int bottomLayers, Support support) {

    private static final int AS_RECIPE = -1;

    /** What happens to supports inside. */
    public enum Support {
        AS_RECIPE, BLOCKED, ENFORCED
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

    public Zone turned(double degrees) {
        return new Zone(minX, minY, minZ, maxX, maxY, maxZ, turnedDeg + degrees, infill, topLayers, bottomLayers,
                support);
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
