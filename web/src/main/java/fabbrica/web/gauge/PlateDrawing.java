package fabbrica.web.gauge;

import fabbrica.core.bed.Bed;
import fabbrica.core.bed.Footprint;
import fabbrica.core.bed.Nesting.Placement;
import fabbrica.core.bed.Nesting.Plate;
import fabbrica.core.inspect.ViewDrawing;
import fabbrica.core.inspect.ViewDrawing.View;
import fabbrica.core.mesh.model.Mesh;
import fabbrica.web.gauge.Gauge.Layout;
import fabbrica.web.platform.Meshes;
import java.util.List;
import java.util.Locale;
import org.springframework.stereotype.Component;

/** Beds from above with the parts that lie on them, as SVG in the page's ink. */
@Component
class PlateDrawing {

    private final Meshes meshes;

    PlateDrawing(Meshes meshes) {
        this.meshes = meshes;
    }

    /** One drawing a plate; its unit is the millimetre. */
    List<String> svg(Layout layout) {
        return layout.nesting().plates().stream().map(plate -> svg(layout, plate)).toList();
    }

    private String svg(Layout layout, Plate plate) {
        Bed bed = layout.printer().printer().freeBed();
        StringBuilder svg = new StringBuilder();
        for (Bed.Zone zone : bed.keepOut()) {
            svg.append(String.format(Locale.ROOT, "<rect class=\"zone\" x=\"%.1f\" y=\"%.1f\" width=\"%.1f\" height=\"%.1f\"/>",
                    zone.minX(), bed.depthMm() - zone.maxY(), zone.maxX() - zone.minX(), zone.maxY() - zone.minY()));
        }
        for (Placement placement : plate.placements()) {
            Mesh mesh = meshes.mesh(layout.parts().get(placement.item()).lying()).turned(placement.rotationDeg())
                    .moved(placement.dx(), placement.dy(), 0);
            ViewDrawing seen = ViewDrawing.of(mesh, View.ABOVE);
            double left = mesh.bounds().minX(), front = mesh.bounds().minY();
            StringBuilder path = new StringBuilder();
            for (double[] stroke : seen.strokes()) {
                path.append(String.format(Locale.ROOT, "M%.2f %.2fL%.2f %.2f", left + stroke[0],
                        bed.depthMm() - front - stroke[1], left + stroke[2], bed.depthMm() - front - stroke[3]));
            }
            svg.append("<path class=\"part\" d=\"").append(path).append("\"/>");
            svg.append(number(layout, placement, Footprint.of(mesh).hull(), bed));
        }
        return String.format(Locale.ROOT, "<svg class=\"plate\" viewBox=\"-2 -2 %.0f %.0f\" role=\"img\" aria-label=\"the bed "
                + "from above with %d parts\"><rect class=\"bed\" x=\"0\" y=\"0\" width=\"%.1f\" height=\"%.1f\"/>%s</svg>",
                bed.widthMm() + 4, bed.depthMm() + 4, plate.placements().size(), bed.widthMm(), bed.depthMm(), svg);
    }

    /** Parts of several tickets carry their ticket's number. */
    private static String number(Layout layout, Placement placement, double[] hull, Bed bed) {
        if (layout.parts().size() < 2) {
            return "";
        }
        double x = 0, y = 0;
        for (int i = 0; i < hull.length; i += 2) {
            x += 2 * hull[i] / hull.length;
            y += 2 * hull[i + 1] / hull.length;
        }
        return String.format(Locale.ROOT, "<text x=\"%.1f\" y=\"%.1f\" text-anchor=\"middle\" style=\"font-size:%.1fpx\">%d</text>",
                x, bed.depthMm() - y + 3, bed.widthMm() / 26, layout.parts().get(placement.item()).id());
    }
}
