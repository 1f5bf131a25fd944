package fabbrica.core.recipe;

import java.util.Arrays;
import java.util.Locale;
import java.util.Optional;

/**
 * Four recipes to start from, in parts of the nozzle's bore so that they suit any. Walls are counted so that the wall
 * is about 1 mm thick or more; infill follows the schools for display, everyday use and strength (common practice, no
 * source).
 */
public enum StartingPoint {
    ROUGH_CUT("Rough cut", "To see whether the shape is right: coarse and quick.", 0.65, 0.7, 2, 0.08, 1.2),
    DAILY_BREAD("Daily bread", "For things that are used: half the bore, three lines of wall.", 0.5, 1.0, 4, 0.15, 1.0),
    SHOW_PIECE("Show piece", "For things that are looked at: thin layers, little inside.", 0.3, 1.0, 6, 0.10, 0.8),
    WORK_HORSE("Work horse", "For things that carry load: thick walls, a dense inside.", 0.5, 1.8, 5, 0.25, 0.9);

    /** Speed that most machines hold without visible marks, mm/s. */
    private static final double USUAL_SPEED_MM_S = 80;

    private final String label;
    private final String purpose;
    private final double layerPerBore;
    private final double wallMm;
    private final int closedLayers;
    private final double infill;
    private final double speedFactor;

    StartingPoint(String label, String purpose, double layerPerBore, double wallMm, int closedLayers, double infill,
                  double speedFactor) {
        this.label = label;
        this.purpose = purpose;
        this.layerPerBore = layerPerBore;
        this.wallMm = wallMm;
        this.closedLayers = closedLayers;
        this.infill = infill;
        this.speedFactor = speedFactor;
    }

    public String code() {
        return name().toLowerCase(Locale.ROOT).replace('_', '-');
    }

    public String label() {
        return label;
    }

    public String purpose() {
        return purpose;
    }

    public Recipe recipe(Nozzle nozzle, Kinematics kinematics) {
        double bore = nozzle.boreMm();
        double layer = Math.max(0.02, rounded(layerPerBore * bore));
        double first = Math.min(Math.max(layer, rounded(0.6 * bore)), rounded(nozzle.thickestLayerMm()));
        double width = rounded(Nozzle.USUAL_LINE * bore);
        int walls = (int) Math.max(2, Math.ceil(wallMm / width - 0.2));
        double fastest = Math.min(kinematics.maxSpeedMmS(),
                USUAL_SPEED_MM_S * Math.max(1, Math.sqrt(kinematics.accelerationMmS2() / 1000)));
        return new Recipe(layer, Math.max(0.05, first), width, walls, closedLayers, Math.max(3, closedLayers - 1),
                infill, InfillPattern.LINES, Adhesion.SKIRT, Math.round(fastest * speedFactor));
    }

    public static Optional<StartingPoint> ofCode(String code) {
        return Arrays.stream(values()).filter(point -> point.code().equals(code)).findFirst();
    }

    private static double rounded(double millimetres) {
        return Math.round(millimetres * 50) / 50.0;
    }
}
