package fabbrica.core.toolpath;

import fabbrica.core.recipe.Recipe;
import java.util.ArrayList;
import java.util.List;

/**
 * The walls of a layer: its outline moved inwards line by line, corners kept sharp, and the area they leave to fill.
 * Where there is no room for two lines of a wall, each a full width, a single line of fitting width follows the middle.
 *
 * @param loops  per wall from the outermost, the middles of its lines
 * @param thin   single lines
 * @param inside what is left to fill, up to the inner edge of the innermost wall
 * @param filled the same with the overlap of the recipe, which infill and closed layers reach into the wall
 */
record Walls(List<List<double[]>> loops, List<CentreLine> thin, List<Island> inside, List<double[]> filled) {

    /** So that what is thick enough is told from what is thin by more than rounding. */
    private static final double CLEARANCE_MM = 0.02;
    /** Slivers below these parts of a line's width are left out. */
    private static final double THINNEST_PER_WIDTH = 0.25;
    private static final double SMALLEST_PER_WIDTH = 0.7;

    static Walls of(List<Island> areas, Recipe recipe, double heightMm) {
        double width = recipe.lineWidthMm(), spacing = recipe.lineSpacingMm(heightMm);
        List<List<double[]>> loops = new ArrayList<>();
        List<CentreLine> thin = new ArrayList<>();
        List<Island> rest = areas;
        for (int wall = 0; wall < recipe.walls() && !rest.isEmpty(); wall++) {
            double middle = wall == 0 ? width / 2 : spacing / 2, inner = middle + spacing / 2;
            List<double[]> lines = new ArrayList<>();
            List<Island> next = new ArrayList<>();
            for (Island area : rest) {
                Offset core = Offset.inwards(area, inner);
                next.addAll(core.areas());
                if (core.plain()) {
                    lines.addAll(Offset.plainly(area, middle));
                } else if (!recipe.lines().thinLines()) {
                    lines.addAll(Island.rings(Offset.inwards(area, middle).areas()));
                } else {
                    lines.addAll(Island.rings(Offset.outwards(core.areas(), inner - middle)));
                    addThinLines(area, Offset.outwards(core.areas(), inner + CLEARANCE_MM), width, thin);
                }
            }
            if (!lines.isEmpty()) {
                loops.add(lines);
            }
            rest = next;
        }
        double overlap = recipe.walls() == 0 ? 0 : recipe.lines().overlap() * width;
        List<double[]> filled = new ArrayList<>();
        rest.forEach(area -> filled.addAll(overlap == 0 ? area.rings() : Offset.plainly(area, -overlap)));
        return new Walls(loops, thin, rest, filled);
    }

    private static void addThinLines(Island area, List<Island> thick, double width, List<CentreLine> into) {
        for (Island thin : SolidArea.minus(List.of(area), thick)) {
            double round = thin.rings().stream().mapToDouble(Rings::lengthMm).sum(), square = thin.areaMm2();
            if (2 * square / round > THINNEST_PER_WIDTH * width && square > SMALLEST_PER_WIDTH * width * width) {
                into.addAll(CentreLine.of(thin, THINNEST_PER_WIDTH * width, 2 * width));
            }
        }
    }
}
