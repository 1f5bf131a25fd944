package fabbrica.web.ticket;

import com.github.benmanes.caffeine.cache.Cache;
import fabbrica.core.inspect.Place;
import fabbrica.core.inspect.ViewDrawing;
import fabbrica.core.inspect.ViewDrawing.View;
import fabbrica.core.mesh.model.Bounds;
import fabbrica.core.recipe.Part;
import fabbrica.core.units.Spoken;
import fabbrica.web.platform.Caches;
import fabbrica.web.platform.Meshes;
import fabbrica.web.platform.Svg;
import java.util.List;
import java.util.Locale;
import org.springframework.stereotype.Component;

/** The part from above, from the front and from the side with its dimensions, as SVG in the page's ink. */
@Component
public class PartDrawing {

    private static final double VIEW = 240;
    private static final double GAP = 62;
    private static final double SMALL = 86;
    /** More could not be told apart there. */
    private static final int MOST_SMALL = 600;
    private static final int MOST_PINS = 30;
    /** Narrow parts are drawn on a sheet this wide, so that their figures keep their size. */
    private static final double SHEET = 980;

    private final Meshes meshes;
    private final Cache<Part, List<ViewDrawing>> drawings = Caches.of(200).build();

    PartDrawing(Meshes meshes) {
        this.meshes = meshes;
    }

    /** @param pins places of findings, each given the number it has in the list */
    public String svg(Part part, List<Place> pins) {
        List<ViewDrawing> views = views(part);
        double largest = Math.max(1e-9, Math.max(views.get(0).widthMm(), Math.max(views.get(0).heightMm(),
                views.get(1).heightMm())));
        double scale = VIEW / largest;
        double top = Math.max(views.get(0).heightMm(), Math.max(views.get(1).heightMm(), views.get(2).heightMm())) * scale;
        double drawn = (views.get(0).widthMm() + views.get(1).widthMm() + views.get(2).widthMm()) * scale + 4 * GAP;
        double x = GAP + Math.max(0, SHEET - drawn) / 2;
        double end = x + views.stream().mapToDouble(view -> shownWidth(view, scale) + GAP).sum();
        Svg svg = new Svg().open("svg", "class", "drawing", "viewBox", Svg.path(0, 0, Math.max(SHEET, end), top + 100),
                "role", "img", "aria-label", "The part from above, from the front and from the right with its dimensions");
        String[] names = {"from above", "from the front", "from the right"};
        Bounds bounds = meshes.mesh(part).bounds();
        for (int i = 0; i < views.size(); i++) {
            double next = draw(svg, views.get(i), names[i], x, 30 + top, scale) + GAP;
            for (int pin = 0; pin < Math.min(MOST_PINS, pins.size()); pin++) {
                Place place = pins.get(pin);
                double right = (i == 2 ? place.y() - bounds.minY() : place.x() - bounds.minX()) * scale;
                double up = (i == 0 ? place.y() - bounds.minY() : place.z() - bounds.minZ()) * scale;
                pin(svg, x + right, 30 + top - up, pin + 1);
            }
            x = next;
        }
        return svg.toString();
    }

    /** The part from the front and from above, small and without dimensions, as it would stand. */
    public String small(Part part) {
        List<ViewDrawing> views = views(part);
        double scale = SMALL / Math.max(1e-9, Math.max(views.get(0).widthMm(), Math.max(views.get(0).heightMm(),
                views.get(1).heightMm())));
        StringBuilder path = new StringBuilder();
        for (int i = 0; i < 2; i++) {
            ViewDrawing view = views.get(1 - i);
            double x = 6 + i * (SMALL + 12) + (SMALL - view.widthMm() * scale) / 2;
            path.append(strokes(view.strokes().subList(0, Math.min(MOST_SMALL, view.strokes().size())), x, SMALL + 4, scale, scale));
        }
        return new Svg().open("svg", "class", "pose", "viewBox", Svg.path(0, 0, 2 * SMALL + 24, SMALL + 10), "role", "img",
                "aria-label", "from the front, and from above").leaf("path", "class", "dim", "d", Svg.path("M", 2, SMALL + 5, "H", SMALL + 10))
                .leaf("path", "class", "part", "d", path).toString();
    }

    /** The part from above and from the front in millimetres from its front left lower corner, each with room around it. */
    public String sheet(Part part) {
        List<ViewDrawing> views = views(part);
        String[] names = {"from above", "from the front"};
        Svg svg = new Svg();
        for (int i = 0; i < names.length; i++) {
            double width = views.get(i).widthMm(), height = views.get(i).heightMm(), margin = 0.08 * Math.max(width, height);
            svg.open("figure").open("svg", "class", "sheet", "data-view", i == 0 ? "above" : "front", "viewBox",
                    String.format(Locale.ROOT, "%.2f %.2f %.2f %.2f", -margin, -height - margin, width + 2 * margin, height + 2 * margin),
                    "data-width", width, "data-height", height).open("g", "transform", "scale(1 -1)")
                    .leaf("path", "class", "part", "d", strokes(views.get(i).strokes(), 0, 0, 1, -1)).open("g", "class", "drawn").close().close().close()
                    .text("figcaption", names[i], "class", "small quiet").close();
        }
        return svg.toString();
    }

    private List<ViewDrawing> views(Part part) {
        return drawings.get(part, key -> ViewDrawing.of(meshes.mesh(key), List.of(View.ABOVE, View.FRONT, View.SIDE)));
    }

    private static void pin(Svg svg, double x, double y, int number) {
        svg.open("g", "class", "pin").leaf("circle", "cx", x, "cy", y, "r", 9)
                .text("text", Integer.toString(number), "x", x, "y", y + 4.5, "text-anchor", "middle").close();
    }

    private static String strokes(List<double[]> strokes, double x, double bottom, double scale, double down) {
        StringBuilder path = new StringBuilder();
        String pen = "";
        for (double[] stroke : strokes) {
            String from = Svg.path("", x + stroke[0] * scale, bottom - stroke[1] * down), to = Svg.path("", x + stroke[2] * scale, bottom - stroke[3] * down);
            if (!to.equals(from)) {
                path.append(pen.equals(from) ? "" : "M" + from).append('L').append(to);
                pen = to;
            }
        }
        return path.toString();
    }

    /** Draws one view with its lower left corner at (x, bottom) and returns where it ends. */
    private static double draw(Svg svg, ViewDrawing view, String name, double x, double bottom, double scale) {
        double width = view.widthMm() * scale, height = view.heightMm() * scale;
        svg.leaf("path", "class", "part", "d", strokes(view.strokes(), x, bottom, scale, scale));
        double line = bottom + 22, side = x - 16;
        svg.leaf("path", "class", "dim", "d", Svg.path("M", x, bottom + 5, "V", line + 5, "M", x + width, bottom + 5, "V", line + 5,
                "M", x, line, "H", x + width));
        svg.leaf("path", "class", "dim", "d", Svg.path("M", x - 5, bottom, "H", side - 5, "M", x - 5, bottom - height, "H", side - 5,
                "M", side, bottom, "V", bottom - height));
        tick(svg, x, line);
        tick(svg, x + width, line);
        tick(svg, side, bottom);
        tick(svg, side, bottom - height);
        svg.text("text", Spoken.number(view.widthMm(), 1), "x", x + width / 2, "y", line + 17, "text-anchor", "middle");
        svg.text("text", Spoken.number(view.heightMm(), 1), "transform", String.format(Locale.ROOT, "translate(%.1f %.1f) rotate(-90)", side - 6,
                bottom - height / 2), "text-anchor", "middle");
        svg.text("text", name, "class", "name", "x", x + width / 2, "y", line + 36, "text-anchor", "middle");
        return x + shownWidth(view, scale);
    }

    private static double shownWidth(ViewDrawing view, double scale) {
        return Math.max(view.widthMm() * scale, 70);
    }

    /** Dimension lines end in short slanted strokes. */
    private static void tick(Svg svg, double x, double y) {
        svg.leaf("path", "class", "tick", "d", Svg.path("M", x - 4, y + 4, "L", x + 4, y - 4));
    }
}
