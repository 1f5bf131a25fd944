package fabbrica.core.recipe;

import fabbrica.core.bed.Allowance;
import fabbrica.core.mesh.model.Bounds;
import fabbrica.core.units.OutOfRange;
import java.util.List;
import java.util.function.Supplier;
import java.util.function.UnaryOperator;

/**
 * How a part is printed.
 *
 * @param infill   density of the inside, 0 to 1
 * @param speedMmS speed of whatever has none of its own in {@code pace}, mm/s
 */
public record Recipe(double layerHeightMm, double firstLayerHeightMm, double lineWidthMm, int walls, int topLayers,
                     int bottomLayers, double infill, InfillPattern pattern, Adhesion adhesion, double speedMmS,
                     Supports supports, Pace pace, LineWork lines) {

    public Recipe {
        RecipeField.LAYER_HEIGHT.check(layerHeightMm);
        RecipeField.FIRST_LAYER_HEIGHT.check(firstLayerHeightMm);
        OutOfRange.check(RecipeField.LINE_WIDTH.label(), lineWidthMm, Math.max(layerHeightMm, firstLayerHeightMm), 4, "mm");
        RecipeField.WALLS.check(walls);
        RecipeField.TOP.check(topLayers);
        RecipeField.BOTTOM.check(bottomLayers);
        RecipeField.INFILL.check(infill * 100);
        RecipeField.SPEED.check(speedMmS);
        if (walls == 0 && infill == 0 && topLayers == 0 && bottomLayers == 0) {
            throw new OutOfRange("A recipe without walls, infill, top and bottom prints nothing.");
        }
        if (lines.spiral() && walls == 0) {
            throw new OutOfRange("A spiral needs a wall.");
        }
    }

    /** Without supports, at the usual pace. */
    public Recipe(double layerHeightMm, double firstLayerHeightMm, double lineWidthMm, int walls, int topLayers,
                  int bottomLayers, double infill, InfillPattern pattern, Adhesion adhesion, double speedMmS) {
        this(layerHeightMm, firstLayerHeightMm, lineWidthMm, walls, topLayers, bottomLayers, infill, pattern, adhesion,
                speedMmS, Supports.NONE, Pace.usual(speedMmS), LineWork.USUAL);
    }

    public Recipe with(Supports others) {
        return new Recipe(layerHeightMm, firstLayerHeightMm, lineWidthMm, walls, topLayers, bottomLayers, infill,
                pattern, adhesion, speedMmS, others, pace, lines);
    }

    public Recipe with(Pace other) {
        return new Recipe(layerHeightMm, firstLayerHeightMm, lineWidthMm, walls, topLayers, bottomLayers, infill,
                pattern, adhesion, speedMmS, supports, other, lines);
    }

    public Recipe with(LineWork other) {
        return new Recipe(layerHeightMm, firstLayerHeightMm, lineWidthMm, walls, topLayers, bottomLayers, infill,
                pattern, adhesion, speedMmS, supports, pace, other);
    }

    public Recipe with(Adhesion other) {
        return new Recipe(layerHeightMm, firstLayerHeightMm, lineWidthMm, walls, topLayers, bottomLayers, infill,
                pattern, other, speedMmS, supports, pace, lines);
    }

    /** Other layers; what is closed above and below stays about as thick. */
    public Recipe withLayerHeight(double mm, double firstMm) {
        double change = layerHeightMm / mm;
        return new Recipe(mm, firstMm, lineWidthMm, walls, closed(topLayers, change), closed(bottomLayers, change), infill,
                pattern, adhesion, speedMmS, supports, pace, lines);
    }

    private static int closed(int layers, double change) {
        return layers == 0 ? 0 : (int) Math.max(2, Math.round(layers * change));
    }

    public Recipe withWalls(int count, double widthMm) {
        return new Recipe(layerHeightMm, firstLayerHeightMm, widthMm, count, topLayers, bottomLayers, infill, pattern,
                adhesion, speedMmS, supports, pace, lines);
    }

    public Recipe withInfill(double density) {
        return new Recipe(layerHeightMm, firstLayerHeightMm, lineWidthMm, walls, topLayers, bottomLayers, density, pattern,
                adhesion, speedMmS, supports, pace, lines);
    }

    /** All speeds multiplied. */
    public Recipe faster(double factor) {
        return new Recipe(layerHeightMm, firstLayerHeightMm, lineWidthMm, walls, topLayers, bottomLayers, infill, pattern,
                adhesion, Math.round(speedMmS * factor), supports, pace.faster(factor), lines);
    }

    /** Whatever decides where lines are laid, with speeds that do not matter: equal for recipes that share a toolpath. */
    public Recipe geometry() {
        return new Recipe(layerHeightMm, firstLayerHeightMm, lineWidthMm, walls, topLayers, bottomLayers, infill, pattern,
                adhesion, 1, supports, Pace.usual(1), lines);
    }

    /**
     * What decides where walls are laid and what bridges inside them: not how much is filled or with what, unless it is all, nor what
     * the part stands on or is propped by.
     */
    public Recipe outside() {
        return new Recipe(layerHeightMm, firstLayerHeightMm, lineWidthMm, walls, topLayers, bottomLayers, infill == 1 ? 1 : 0.5, InfillPattern.LINES,
                Adhesion.NONE, 1, Supports.NONE, Pace.usual(1), lines.withZones(List.of()));
    }

    /** Whether supports may be printed, everywhere or in a box. */
    public boolean propped() {
        return supports.any() || lines.zones().stream().anyMatch(zone -> zone.support() == Zone.Support.ENFORCED);
    }

    /** The room that skirt, brim or raft take on the bed. */
    public Allowance allowance() {
        return new Allowance(adhesion.marginMm(lineWidthMm), adhesion.heightMm(), propped());
    }

    public double wallMm() {
        return walls * lineWidthMm;
    }

    /** Its boxes laid over a part that is then turned about the vertical through the origin. */
    public Recipe placed(Supplier<Bounds> part, double degrees) {
        return withZones(zone -> zone.placed(part.get().minX(), part.get().minY(), degrees));
    }

    /** For the part in another size. */
    public Recipe scaled(double factor) {
        return withZones(zone -> zone.scaled(factor));
    }

    private Recipe withZones(UnaryOperator<Zone> change) {
        return lines.zones().isEmpty() ? this
                : with(lines.withZones(lines.zones().stream().map(change).toList()));
    }

    /** Cross-section in mm² of a line of the recipe's width: a rectangle with half-round ends. */
    public double lineAreaMm2(double heightMm) {
        return lineAreaMm2(lineWidthMm, heightMm);
    }

    /** The same for any width; a line narrower than high is taken as an ellipse. */
    public static double lineAreaMm2(double widthMm, double heightMm) {
        return widthMm < heightMm ? Math.PI * widthMm * heightMm / 4
                : (widthMm - heightMm) * heightMm + Math.PI * heightMm * heightMm / 4;
    }

    /** Width in mm of a line that fills a strip so wide: the line area's inverse for lines wider than high. */
    public static double widthOfShareMm(double shareMm, double heightMm) {
        return shareMm < Math.PI / 4 * heightMm ? 4 * shareMm / Math.PI : shareMm + (1 - Math.PI / 4) * heightMm;
    }

    /** The thinnest line in mm: half a bore, the usual line being 1.05 bores wide. */
    public double thinnestLineMm() {
        return Nozzle.THINNEST_LINE * lineWidthMm / Nozzle.USUAL_LINE;
    }

    /** Width in mm of the strip that the thinnest line fills. */
    public double thinnestShareMm(double heightMm) {
        return lineAreaMm2(thinnestLineMm(), heightMm) / heightMm;
    }

    /** Distance in mm between the centres of neighbouring lines that leaves no gap in volume. */
    public double lineSpacingMm(double heightMm) {
        return lineAreaMm2(heightMm) / heightMm;
    }
}
