package fabbrica.core.toolpath;

import fabbrica.core.recipe.Recipe;
import java.util.ArrayList;
import java.util.List;

/**
 * The walls of a layer: round by round of lines from the outline inwards, and the area they leave to fill. A line fills a
 * strip of the area as wide as its share, its cross-section over the height of the layer, so that the plastic of a layer
 * is its area times its height: the middle of an outermost line lies half a share inside the outline. An area that is
 * thick enough for all rounds is done in one go, else each {@link WallRound} takes what the one before left.
 *
 * @param lines      of all rounds
 * @param inside     what is left to fill, up to the inner edge of the innermost wall
 * @param filled     the same with the overlap of the recipe, which infill reaches into the wall
 * @param leftOutMm2 of the area, what is too thin for any line
 */
record Walls(List<WallLine> lines, List<Island> inside, List<double[]> filled, double leftOutMm2) {

    /** Solid areas that are no thicker than so many lines are filled by walls alone, since hatch comes out uneven in them. */
    private static final double NARROW_LINES = 8;

    static Walls of(List<Island> areas, Recipe recipe, double heightMm) {
        double share = recipe.lineSpacingMm(heightMm);
        Layout layout = new Layout(recipe, share, recipe.thinnestShareMm(heightMm));
        List<Island> inside = recipe.walls() == 0 ? areas : layout.inside;
        if (recipe.walls() > 0) {
            areas.forEach(area -> layout.lay(area, 0, false));
        }
        double overlap = recipe.walls() == 0 ? 0 : recipe.lines().overlap() * recipe.lineWidthMm();
        List<double[]> filled = new ArrayList<>();
        inside.forEach(area -> filled.addAll(overlap == 0 ? area.rings() : Offset.ringByRing(area, -overlap)));
        return new Walls(layout.lines, inside, filled, layout.leftOut);
    }

    private static final class Layout {

        private final Recipe recipe;
        private final double share;
        private final double thinnest;
        private final List<WallLine> lines = new ArrayList<>();
        private final List<Island> inside = new ArrayList<>();
        private double leftOut;

        Layout(Recipe recipe, double share, double thinnest) {
            this.recipe = recipe;
            this.share = share;
            this.thinnest = thinnest;
        }

        /** All rounds of an area from the given one on, and what is inside them. */
        private void lay(Island area, int round, boolean thin) {
            int more = recipe.walls() - round;
            if (more <= 0) {
                fill(area, round);
            } else if (!thin && isThick(area, more + (WallRound.TWO_FROM + WallRound.SLACK) / 2)) {
                for (int wall = round; wall < recipe.walls(); wall++) {
                    usual(area, (wall - round + 0.5) * share, wall);
                }
                Island left = Offset.plainly(area, more * share);
                if (isNarrow(left)) {
                    round(left, recipe.walls());
                } else {
                    inside.add(left);
                }
            } else {
                round(area, round);
            }
        }

        private void round(Island area, int wall) {
            WallRound round = WallRound.of(area, share, wall, wall == 0 ? thinnest : 0, recipe.lines().thinLines());
            take(round).forEach(left -> lay(left, wall + 1, round.thinLeft()));
        }

        private void fill(Island area, int round) {
            if (isNarrow(area)) {
                round(area, round);
            } else if (recipe.lines().thinLines()) {
                inside.addAll(take(WallRound.middlesOf(area, share)));
            } else {
                inside.add(area);
            }
        }

        private List<Island> take(WallRound round) {
            lines.addAll(round.lines());
            leftOut += round.leftOutMm2();
            return round.left();
        }

        private void usual(Island area, double inMm, int wall) {
            Offset.ringByRing(area, inMm).forEach(ring -> lines.add(WallLine.plain(ring, wall)));
        }

        private boolean isNarrow(Island area) {
            return recipe.infill() == 1 && Offset.inwards(area, NARROW_LINES / 2 * share).isEmpty();
        }

        private boolean isThick(Island area, double lines) {
            return Offset.isPlain(area, lines * share);
        }
    }
}
