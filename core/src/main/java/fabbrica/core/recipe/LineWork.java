package fabbrica.core.recipe;

import fabbrica.core.units.OutOfRange;
import java.util.Arrays;
import java.util.List;
import java.util.Locale;
import java.util.Optional;

/**
 * The finer choices of how lines are laid.
 *
 * @param outerFirst     whether outer walls are laid before inner ones
 * @param spiral         a single wall that rises without a seam, after the closed bottom
 * @param thinLines      whether what is too thin for two lines of wall gets a single one of fitting width
 * @param infillAngleDeg turns the infill
 * @param infillLines    lines laid side by side for each one of the pattern
 * @param infillWidth    width of infill lines, in parts of the recipe's line width
 * @param overlap        how far infill and closed layers reach into the innermost wall, in parts of the line width
 * @param variableLayers thinner layers on shallow slopes, thicker ones on walls
 * @param changesMm      heights from the bed at which the filament is to be changed
 * @param towerMm3       plastic purged into a tower beside the part at each change; 0 where it is purged by hand
 * @param zones          boxes in which other values hold; later ones win
 */
public record LineWork(Seam seam, boolean outerFirst, boolean spiral, boolean thinLines, double infillAngleDeg,
                       int infillLines, double infillWidth, double overlap, boolean variableLayers,
                       List<Double> changesMm, double towerMm3, List<Zone> zones) {

    public static final LineWork USUAL = new LineWork(Seam.NEAREST, false, false, true, 0, 1, 1, 0.1, false, List.of(),
            0, List.of());

    /** Where closed walls begin and end, which leaves a mark. */
    public enum Seam {
        CORNER("in a corner, where it hides"), REAR("behind, as one line up the back"), SPREAD("as dots all over, nowhere a line"),
        NEAREST("anywhere: it is not looked at");

        private final String label;

        Seam(String label) {
            this.label = label;
        }

        public String code() {
            return name().toLowerCase(Locale.ROOT);
        }

        public String label() {
            return label;
        }

        public static Optional<Seam> ofCode(String code) {
            return Arrays.stream(values()).filter(seam -> seam.code().equals(code.toLowerCase(Locale.ROOT))).findFirst();
        }
    }

    public LineWork {
        RecipeField.INFILL_ANGLE.check(infillAngleDeg);
        RecipeField.INFILL_LINES.check(infillLines);
        RecipeField.INFILL_WIDTH.check(infillWidth * 100);
        RecipeField.OVERLAP.check(overlap * 100);
        changesMm = changesMm.stream().sorted().toList();
        changesMm.forEach(height -> OutOfRange.check("Filament change", height, 0.01, 5000, "mm"));
        RecipeField.PURGE_TOWER.check(towerMm3);
        zones = List.copyOf(zones);
    }

    public LineWork withSeam(Seam other) {
        return new LineWork(other, outerFirst, spiral, thinLines, infillAngleDeg, infillLines, infillWidth, overlap,
                variableLayers, changesMm, towerMm3, zones);
    }

    public LineWork asSpiral() {
        return new LineWork(seam, outerFirst, true, thinLines, infillAngleDeg, infillLines, infillWidth, overlap,
                variableLayers, changesMm, towerMm3, zones);
    }

    public LineWork withThinLines(boolean wanted) {
        return new LineWork(seam, outerFirst, spiral, wanted, infillAngleDeg, infillLines, infillWidth, overlap,
                variableLayers, changesMm, towerMm3, zones);
    }

    public LineWork withInfillLines(int lines, double width) {
        return new LineWork(seam, outerFirst, spiral, thinLines, infillAngleDeg, lines, width, overlap,
                variableLayers, changesMm, towerMm3, zones);
    }

    public LineWork withVariableLayers(boolean wanted) {
        return new LineWork(seam, outerFirst, spiral, thinLines, infillAngleDeg, infillLines, infillWidth, overlap,
                wanted, changesMm, towerMm3, zones);
    }

    public LineWork withChanges(List<Double> heightsMm) {
        return new LineWork(seam, outerFirst, spiral, thinLines, infillAngleDeg, infillLines, infillWidth, overlap,
                variableLayers, heightsMm, towerMm3, zones);
    }

    public LineWork withTower(double purgeMm3) {
        return new LineWork(seam, outerFirst, spiral, thinLines, infillAngleDeg, infillLines, infillWidth, overlap,
                variableLayers, changesMm, purgeMm3, zones);
    }

    public LineWork withZones(List<Zone> others) {
        return new LineWork(seam, outerFirst, spiral, thinLines, infillAngleDeg, infillLines, infillWidth, overlap,
                variableLayers, changesMm, towerMm3, others);
    }
}
