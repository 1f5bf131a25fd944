package fabbrica.core.toolpath;

import fabbrica.core.recipe.Recipe;
import java.util.ArrayList;
import java.util.List;

/**
 * The walls of a layer: its outline moved inwards line by line, corners kept sharp, and the area they leave to fill.
 * Where there is no room for two lines of a wall, each a full width, a single line of fitting width follows the middle.
 * An area whose rings keep apart over the whole way is done in one go. Else lines are grown back from what is inside them,
 * so that a corner whose short edge was lost on the way in comes out sharp, a little nearer to the outline than half a line.
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
        double width = recipe.lineWidthMm();
        Layout layout = new Layout(recipe, width, recipe.lineSpacingMm(heightMm));
        List<Island> inside = recipe.walls() == 0 ? areas : new ArrayList<>();
        if (recipe.walls() > 0) {
            areas.forEach(area -> inside.addAll(layout.lay(area, recipe.walls()).areas()));
        }
        double overlap = recipe.walls() == 0 ? 0 : recipe.lines().overlap() * width;
        List<double[]> filled = new ArrayList<>();
        inside.forEach(area -> filled.addAll(overlap == 0 ? area.rings() : Offset.ringByRing(area, -overlap)));
        layout.loops.removeIf(List::isEmpty);
        return new Walls(layout.loops, layout.thin, inside, filled);
    }

    private static final class Layout {

        private final Recipe recipe;
        private final double width;
        private final double spacing;
        private final List<List<double[]>> loops = new ArrayList<>();
        private final List<CentreLine> thin = new ArrayList<>();

        Layout(Recipe recipe, double width, double spacing) {
            this.recipe = recipe;
            this.width = width;
            this.spacing = spacing;
            for (int wall = 0; wall < recipe.walls(); wall++) {
                loops.add(new ArrayList<>());
            }
        }

        /**
         * The outer {@code walls} of an area: in one go where its rings keep apart so far, else without the innermost
         * first and then that one in what is left.
         *
         * @return what is inside them
         */
        Offset lay(Island area, int walls) {
            Offset inside = Offset.inwards(area, middle(walls - 1) + spacing / 2);
            if (inside.plain()) {
                for (int wall = 0; wall < walls; wall++) {
                    loops.get(wall).addAll(Offset.ringByRing(area, middle(wall)));
                }
                return inside;
            }
            if (walls == 1) {
                addInnermost(area, inside, 0, width / 2);
                return inside;
            }
            Offset outer = lay(area, walls - 1);
            if (outer.plain()) {
                addInnermost(outer.areas().getFirst(), inside, walls - 1, spacing / 2);
                return inside;
            }
            List<Island> left = new ArrayList<>();
            for (Island rest : outer.areas()) {
                Offset core = Offset.inwards(rest, spacing);
                addInnermost(rest, core, walls - 1, spacing / 2);
                left.addAll(core.areas());
            }
            return new Offset(left, false);
        }

        private double middle(int wall) {
            return width / 2 + wall * spacing;
        }

        /** A wall whose line has its middle so far within the area, and thin lines where there is no room for it. */
        private void addInnermost(Island area, Offset core, int wall, double middle) {
            double inner = middle + spacing / 2;
            if (core.plain()) {
                loops.get(wall).addAll(Offset.ringByRing(area, middle));
            } else if (!recipe.lines().thinLines()) {
                loops.get(wall).addAll(Island.rings(Offset.inwards(List.of(area), middle)));
            } else {
                loops.get(wall).addAll(Island.rings(Offset.outwards(core.areas(), inner - middle)));
                addThinLines(area, core.areas(), inner + CLEARANCE_MM);
            }
        }

        private void addThinLines(Island area, List<Island> core, double reach) {
            List<double[]> thick = new ArrayList<>();
            core.forEach(island -> thick.addAll(Offset.ringByRing(island, -reach)));
            for (Island left : SolidArea.minus(List.of(area), thick)) {
                double round = left.rings().stream().mapToDouble(Rings::lengthMm).sum(), square = left.areaMm2();
                if (2 * square / round > THINNEST_PER_WIDTH * width && square > SMALLEST_PER_WIDTH * width * width) {
                    thin.addAll(CentreLine.of(left, THINNEST_PER_WIDTH * width, 2 * width));
                }
            }
        }
    }
}
