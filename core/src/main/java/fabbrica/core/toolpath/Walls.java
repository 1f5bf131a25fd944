package fabbrica.core.toolpath;

import fabbrica.core.recipe.Recipe;
import java.util.ArrayList;
import java.util.List;

/**
 * The walls of a layer: its outline moved inwards line by line, corners kept sharp, and the area they leave to fill.
 * Where there is no room for two lines of a wall, each a full width, a single line of fitting width follows the middle.
 * An area whose rings keep apart over the whole way is done in one go.
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
    private static final double SMALLEST_PER_WIDTH = 1.2;

    static Walls of(List<Island> areas, Recipe recipe, double heightMm) {
        double width = recipe.lineWidthMm(), spacing = recipe.lineSpacingMm(heightMm);
        Walls walls = new Walls(new ArrayList<>(), new ArrayList<>(), new ArrayList<>(), new ArrayList<>());
        for (int wall = 0; wall < recipe.walls(); wall++) {
            walls.loops.add(new ArrayList<>());
        }
        double all = recipe.walls() == 0 ? 0 : width / 2 + (recipe.walls() - 0.5) * spacing;
        for (Island area : areas) {
            Offset inside = all == 0 ? new Offset(List.of(area), true) : Offset.inwards(area, all);
            if (inside.plain()) {
                for (int wall = 0; wall < recipe.walls(); wall++) {
                    walls.loops.get(wall).addAll(Offset.plainly(area, width / 2 + wall * spacing));
                }
                walls.inside.addAll(inside.areas());
            } else {
                walls.addStepwise(area, recipe, spacing);
            }
        }
        walls.loops.removeIf(List::isEmpty);
        double overlap = recipe.walls() == 0 ? 0 : recipe.lines().overlap() * width;
        walls.inside.forEach(area -> walls.filled.addAll(overlap == 0 ? area.rings() : Offset.plainly(area, -overlap)));
        return walls;
    }

    /** Line by line, where rings run into one another on the way. */
    private void addStepwise(Island whole, Recipe recipe, double spacing) {
        double width = recipe.lineWidthMm();
        List<Island> rest = List.of(whole);
        for (int wall = 0; wall < recipe.walls(); wall++) {
            double middle = wall == 0 ? width / 2 : spacing / 2, inner = middle + spacing / 2;
            List<double[]> lines = loops.get(wall);
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
            rest = next;
        }
        inside.addAll(rest);
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
