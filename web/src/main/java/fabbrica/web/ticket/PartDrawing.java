package fabbrica.web.ticket;

import com.github.benmanes.caffeine.cache.Cache;
import fabbrica.core.inspect.Place;
import fabbrica.core.inspect.ViewDrawing;
import fabbrica.core.inspect.ViewDrawing.View;
import fabbrica.core.mesh.model.Bounds;
import fabbrica.core.mesh.model.Mesh;
import fabbrica.core.recipe.Part;
import fabbrica.core.units.Spoken;
import fabbrica.web.platform.Caches;
import fabbrica.web.platform.Meshes;
import java.util.List;
import java.util.Locale;
import org.springframework.stereotype.Component;

/** The part from above, from the front and from the side with its dimensions, as SVG in the page's ink. */
@Component
public class PartDrawing {

    private static final double VIEW = 240;
    private static final double GAP = 62;
    private static final double SMALL = 86;
    private static final int MOST_PINS = 30;
    /** Narrow parts are drawn on a sheet this wide, so that their figures keep their size. */
    private static final double SHEET = 980;

    private final Meshes meshes;
    private final Cache<Part, ViewDrawing[]> drawings = Caches.of(200).build();

    PartDrawing(Meshes meshes) {
        this.meshes = meshes;
    }

    /** @param pins places of findings, each given the number it has in the list */
    public String svg(Part part, List<Place> pins) {
        ViewDrawing[] views = views(part);
        double largest = Math.max(1e-9, Math.max(views[0].widthMm(), Math.max(views[0].heightMm(),
                views[1].heightMm())));
        double scale = VIEW / largest;
        double top = Math.max(views[0].heightMm(), Math.max(views[1].heightMm(), views[2].heightMm())) * scale;
        StringBuilder svg = new StringBuilder();
        double drawn = (views[0].widthMm() + views[1].widthMm() + views[2].widthMm()) * scale + 4 * GAP;
        double x = GAP + Math.max(0, SHEET - drawn) / 2;
        String[] names = {"from above", "from the front", "from the right"};
        Bounds bounds = meshes.mesh(part).bounds();
        for (int i = 0; i < views.length; i++) {
            double next = draw(svg, views[i], names[i], x, 30 + top, scale) + GAP;
            for (int pin = 0; pin < Math.min(MOST_PINS, pins.size()); pin++) {
                Place place = pins.get(pin);
                double right = (i == 2 ? place.y() - bounds.minY() : place.x() - bounds.minX()) * scale;
                double up = (i == 0 ? place.y() - bounds.minY() : place.z() - bounds.minZ()) * scale;
                svg.append(pin(x + right, 30 + top - up, pin + 1));
            }
            x = next;
        }
        return String.format(Locale.ROOT, "<svg class=\"drawing\" viewBox=\"0 0 %.0f %.0f\" role=\"img\" "
                + "aria-label=\"The part from above, from the front and from the right with its dimensions\">%s</svg>",
                Math.max(SHEET, x), top + 100, svg);
    }

    /** The part from the front and from above, small and without dimensions, as it would stand. */
    public String small(Part part) {
        ViewDrawing[] views = views(part);
        double scale = SMALL / Math.max(1e-9, Math.max(views[0].widthMm(), Math.max(views[0].heightMm(),
                views[1].heightMm())));
        StringBuilder path = new StringBuilder();
        for (int i = 0; i < 2; i++) {
            ViewDrawing view = views[1 - i];
            double x = 6 + i * (SMALL + 12) + (SMALL - view.widthMm() * scale) / 2;
            path.append(strokes(view, x, SMALL + 4, scale, scale));
        }
        return String.format(Locale.ROOT, "<svg class=\"pose\" viewBox=\"0 0 %1$.0f %2$.0f\" role=\"img\" "
                + "aria-label=\"from the front, and from above\"><path class=\"dim\" d=\"M2 %3$.1fH%4$.1f\"/>"
                + "<path class=\"part\" d=\"%5$s\"/></svg>", 2 * SMALL + 24, SMALL + 10, SMALL + 5, SMALL + 10, path);
    }

    /** The part from above and from the front in millimetres from its front left lower corner, each with room around it. */
    public String sheet(Part part) {
        ViewDrawing[] views = views(part);
        String[] names = {"from above", "from the front"};
        StringBuilder svg = new StringBuilder();
        for (int i = 0; i < names.length; i++) {
            double margin = 0.08 * Math.max(views[i].widthMm(), views[i].heightMm());
            svg.append(String.format(Locale.ROOT, "<figure><svg class=\"sheet\" data-view=\"%s\" viewBox=\"%.2f %.2f %.2f %.2f\" "
                    + "data-width=\"%.3f\" data-height=\"%.3f\"><g transform=\"scale(1 -1)\"><path class=\"part\" d=\"%s\"/>"
                    + "<g class=\"drawn\"></g></g></svg><figcaption class=\"small quiet\">%s</figcaption></figure>",
                    i == 0 ? "above" : "front", -margin, -views[i].heightMm() - margin, views[i].widthMm() + 2 * margin,
                    views[i].heightMm() + 2 * margin, views[i].widthMm(), views[i].heightMm(), strokes(views[i], 0, 0, 1, -1),
                    names[i]));
        }
        return svg.toString();
    }

    private ViewDrawing[] views(Part part) {
        return drawings.get(part, key -> {
            Mesh mesh = meshes.mesh(key);
            return new ViewDrawing[] {ViewDrawing.of(mesh, View.ABOVE), ViewDrawing.of(mesh, View.FRONT),
                ViewDrawing.of(mesh, View.SIDE)};
        });
    }

    private static String pin(double x, double y, int number) {
        return String.format(Locale.ROOT, "<g class=\"pin\"><circle cx=\"%1$.1f\" cy=\"%2$.1f\" r=\"9\"/>"
                + "<text x=\"%1$.1f\" y=\"%3$.1f\" text-anchor=\"middle\">%4$d</text></g>", x, y, y + 4.5, number);
    }

    private static String strokes(ViewDrawing view, double x, double bottom, double scale, double down) {
        StringBuilder path = new StringBuilder();
        for (double[] stroke : view.strokes()) {
            path.append(String.format(Locale.ROOT, "M%.1f %.1fL%.1f %.1f", x + stroke[0] * scale,
                    bottom - stroke[1] * down, x + stroke[2] * scale, bottom - stroke[3] * down));
        }
        return path.toString();
    }

    /** Draws one view with its lower left corner at (x, bottom) and returns where it ends. */
    private static double draw(StringBuilder svg, ViewDrawing view, String name, double x, double bottom, double scale) {
        double width = view.widthMm() * scale, height = view.heightMm() * scale;
        svg.append("<path class=\"part\" d=\"").append(strokes(view, x, bottom, scale, scale)).append("\"/>");
        double line = bottom + 22, side = x - 16;
        svg.append(String.format(Locale.ROOT, "<path class=\"dim\" d=\"M%1$.1f %2$.1fV%3$.1fM%4$.1f %2$.1fV%3$.1f"
                + "M%1$.1f %5$.1fH%4$.1f\"/>", x, bottom + 5, line + 5, x + width, line));
        svg.append(String.format(Locale.ROOT, "<path class=\"dim\" d=\"M%1$.1f %2$.1fH%3$.1fM%1$.1f %4$.1fH%3$.1f"
                + "M%5$.1f %2$.1fV%4$.1f\"/>", x - 5, bottom, side - 5, bottom - height, side));
        svg.append(tick(x, line)).append(tick(x + width, line)).append(tick(side, bottom))
                .append(tick(side, bottom - height));
        svg.append(String.format(Locale.ROOT, "<text x=\"%.1f\" y=\"%.1f\" text-anchor=\"middle\">%s</text>",
                x + width / 2, line + 17, Spoken.number(view.widthMm(), 1)));
        svg.append(String.format(Locale.ROOT, "<text transform=\"translate(%.1f %.1f) rotate(-90)\" "
                + "text-anchor=\"middle\">%s</text>", side - 6, bottom - height / 2,
                Spoken.number(view.heightMm(), 1)));
        svg.append(String.format(Locale.ROOT, "<text class=\"name\" x=\"%.1f\" y=\"%.1f\" "
                + "text-anchor=\"middle\">%s</text>", x + width / 2, line + 36, name));
        return x + Math.max(width, 70);
    }

    /** Dimension lines end in short slanted strokes. */
    private static String tick(double x, double y) {
        return String.format(Locale.ROOT, "<path class=\"tick\" d=\"M%.1f %.1fL%.1f %.1f\"/>", x - 4, y + 4, x + 4,
                y - 4);
    }
}
