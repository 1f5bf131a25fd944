package fabbrica.web.ticket;

import com.github.benmanes.caffeine.cache.Cache;
import com.github.benmanes.caffeine.cache.Caffeine;
import fabbrica.core.inspect.ViewDrawing;
import fabbrica.core.inspect.ViewDrawing.View;
import fabbrica.core.units.Spoken;
import fabbrica.web.platform.Meshes;
import java.util.Locale;
import org.springframework.stereotype.Component;

/** The part from above, from the front and from the side with its dimensions, as SVG in the page's ink. */
@Component
public class PartDrawing {

    private static final double VIEW = 240;
    private static final double GAP = 62;
    /** Narrow parts are drawn on a sheet this wide, so that their figures keep their size. */
    private static final double SHEET = 980;

    private final Meshes meshes;
    private final Cache<String, ViewDrawing[]> drawings = Caffeine.newBuilder().maximumSize(200).build();

    PartDrawing(Meshes meshes) {
        this.meshes = meshes;
    }

    public String svg(Ticket ticket) {
        ViewDrawing[] views = drawings.get(ticket.model().sha256(), sha256 -> new ViewDrawing[] {
                ViewDrawing.of(meshes.mesh(sha256), View.ABOVE), ViewDrawing.of(meshes.mesh(sha256), View.FRONT),
                ViewDrawing.of(meshes.mesh(sha256), View.SIDE)});
        double largest = Math.max(1e-9, Math.max(views[0].widthMm(), Math.max(views[0].heightMm(),
                views[1].heightMm())));
        double scale = VIEW / largest;
        double top = Math.max(views[0].heightMm(), Math.max(views[1].heightMm(), views[2].heightMm())) * scale;
        StringBuilder svg = new StringBuilder();
        double drawn = (views[0].widthMm() + views[1].widthMm() + views[2].widthMm()) * scale + 4 * GAP;
        double x = GAP + Math.max(0, SHEET - drawn) / 2;
        String[] names = {"from above", "from the front", "from the right"};
        for (int i = 0; i < views.length; i++) {
            x = draw(svg, views[i], names[i], x, 30 + top, scale, ticket.factor()) + GAP;
        }
        return String.format(Locale.ROOT, "<svg class=\"drawing\" viewBox=\"0 0 %.0f %.0f\" role=\"img\" "
                + "aria-label=\"The part from above, from the front and from the right with its dimensions\">%s</svg>",
                Math.max(SHEET, x), top + 100, svg);
    }

    /** Draws one view with its lower left corner at (x, bottom) and returns where it ends. */
    private static double draw(StringBuilder svg, ViewDrawing view, String name, double x, double bottom, double scale,
                               double factor) {
        double width = view.widthMm() * scale, height = view.heightMm() * scale;
        StringBuilder path = new StringBuilder();
        for (double[] stroke : view.strokes()) {
            path.append(String.format(Locale.ROOT, "M%.1f %.1fL%.1f %.1f", x + stroke[0] * scale,
                    bottom - stroke[1] * scale, x + stroke[2] * scale, bottom - stroke[3] * scale));
        }
        svg.append("<path class=\"part\" d=\"").append(path).append("\"/>");
        double line = bottom + 22, side = x - 16;
        svg.append(String.format(Locale.ROOT, "<path class=\"dim\" d=\"M%1$.1f %2$.1fV%3$.1fM%4$.1f %2$.1fV%3$.1f"
                + "M%1$.1f %5$.1fH%4$.1f\"/>", x, bottom + 5, line + 5, x + width, line));
        svg.append(String.format(Locale.ROOT, "<path class=\"dim\" d=\"M%1$.1f %2$.1fH%3$.1fM%1$.1f %4$.1fH%3$.1f"
                + "M%5$.1f %2$.1fV%4$.1f\"/>", x - 5, bottom, side - 5, bottom - height, side));
        svg.append(tick(x, line)).append(tick(x + width, line)).append(tick(side, bottom))
                .append(tick(side, bottom - height));
        svg.append(String.format(Locale.ROOT, "<text x=\"%.1f\" y=\"%.1f\" text-anchor=\"middle\">%s</text>",
                x + width / 2, line + 17, Spoken.number(view.widthMm() * factor, 1)));
        svg.append(String.format(Locale.ROOT, "<text transform=\"translate(%.1f %.1f) rotate(-90)\" "
                + "text-anchor=\"middle\">%s</text>", side - 6, bottom - height / 2,
                Spoken.number(view.heightMm() * factor, 1)));
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
