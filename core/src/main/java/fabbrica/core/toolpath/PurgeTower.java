package fabbrica.core.toolpath;

import fabbrica.core.recipe.Recipe;
import fabbrica.core.toolpath.HatchLines.Ruling;
import java.util.List;

/**
 * A square tower beside the part: closed on the layers that begin with a new filament, which purges the old one, and
 * a single loop on those between, up to the last change.
 */
final class PurgeTower {

    private static final double APART_MM = 8;

    private final Recipe recipe;
    private final double[] ring;

    /** @param right the part's highest x; @param front its lowest y */
    PurgeTower(Recipe recipe, double right, double front) {
        this.recipe = recipe;
        double side = Math.sqrt(recipe.lines().towerMm3() / recipe.layerHeightMm());
        double x = right + APART_MM;
        ring = new double[] {x, front, x + side, front, x + side, front + side, x, front + side};
    }

    void lay(boolean purging, double heightMm, int number, Router router, Layer.Builder layer) {
        double width = recipe.lineWidthMm(), area = recipe.lineAreaMm2(heightMm);
        if (purging) {
            ZigZag.of(HatchLines.of(List.of(ring), Ruling.of(number % 2 == 0 ? 0 : 90, recipe.lineSpacingMm(heightMm))),
                    width).lay(PathType.PURGE, width, area, router, layer);
        } else {
            router.to(ring[0], ring[1]);
            layer.path(PathType.PURGE, width, area);
            for (int i = 0; i <= ring.length; i += 2) {
                layer.point(ring[i % ring.length], ring[i % ring.length + 1]);
            }
        }
    }
}
