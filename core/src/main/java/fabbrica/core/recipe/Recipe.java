package fabbrica.core.recipe;

import fabbrica.core.units.OutOfRange;

/**
 * How a part is printed.
 *
 * @param infill       density of the inside, 0 to 1
 * @param speedMmS     speed of inner walls and infill, mm/s; the outer wall, solid layers and the first layer are
 *                     slower by the factors below
 */
public record Recipe(double layerHeightMm, double firstLayerHeightMm, double lineWidthMm, int walls, int topLayers,
                     int bottomLayers, double infill, InfillPattern pattern, Adhesion adhesion, double speedMmS) {

    /** Common practice, no source: a slower outer wall looks better, the first layer runs at half speed. */
    public static final double OUTER_WALL_SPEED = 0.6;
    public static final double SOLID_SPEED = 0.8;
    public static final double FIRST_LAYER_SPEED = 0.5;

    public Recipe {
        OutOfRange.check("Layer height", layerHeightMm, 0.02, 1.5, "mm");
        OutOfRange.check("First layer height", firstLayerHeightMm, 0.05, 1.5, "mm");
        OutOfRange.check("Line width", lineWidthMm, Math.max(layerHeightMm, firstLayerHeightMm), 4, "mm");
        OutOfRange.check("Walls", walls, 0, 100);
        OutOfRange.check("Top layers", topLayers, 0, 1000);
        OutOfRange.check("Bottom layers", bottomLayers, 0, 1000);
        OutOfRange.check("Infill", infill * 100, 0, 100, "%");
        OutOfRange.check("Speed", speedMmS, 1, 1000, "mm/s");
        if (walls == 0 && infill == 0 && topLayers == 0 && bottomLayers == 0) {
            throw new OutOfRange("A recipe without walls, infill, top and bottom prints nothing.");
        }
    }

    /** Cross-section in mm² of a line of the recipe's width: a rectangle with half-round ends. */
    public double lineAreaMm2(double heightMm) {
        return (lineWidthMm - heightMm) * heightMm + Math.PI * heightMm * heightMm / 4;
    }

    /** Distance in mm between the centres of neighbouring lines that leaves no gap in volume. */
    public double lineSpacingMm(double heightMm) {
        return lineAreaMm2(heightMm) / heightMm;
    }
}
