package fabbrica.core.toolpath;

import fabbrica.core.bed.Bed;
import fabbrica.core.bed.BedRoute;
import java.util.ArrayList;
import java.util.List;
import org.jspecify.annotations.Nullable;

/**
 * The toolpath of a plate with its travels, on a layer and on to the next one, led around what the bed is to be kept free
 * of, with the filament drawn back. Lines are laid where they were.
 */
public final class Detours {

    private final Bed bed;
    private final double dx;
    private final double dy;

    private Detours(Bed bed, double dx, double dy) {
        this.bed = bed;
        this.dx = dx;
        this.dy = dy;
    }

    /** @param dx from the toolpath to the bed, whose front left corner is the origin */
    public static Toolpath of(Toolpath toolpath, Bed bed, double dx, double dy) {
        if (bed.keepOut().isEmpty()) {
            return toolpath;
        }
        Detours detours = new Detours(bed, dx, dy);
        List<Layer> layers = new ArrayList<>(toolpath.layers());
        Layer next = null;
        for (int i = layers.size() - 1; i >= 0; i--) {
            layers.set(i, detours.around(layers.get(i), next));
            next = layers.get(i).pathCount() > 0 ? layers.get(i) : next;
        }
        return new Toolpath(layers, toolpath.changes(), toolpath.cautions());
    }

    private Layer around(Layer layer, @Nullable Layer next) {
        int last = layer.pointCount() - 1;
        boolean onwards = last >= 0 && next != null && crosses(layer.x(last), layer.y(last), next.x(0), next.y(0));
        boolean crosses = onwards;
        for (int path = 0; path < layer.pathCount(); path++) {
            crosses |= crosses(layer, path);
        }
        if (!crosses) {
            return layer;
        }
        Layer.Builder led = new Layer.Builder();
        for (int path = 0; path < layer.pathCount(); path++) {
            if (crosses(layer, path)) {
                led.travel(true);
                for (int i = layer.start(path) + 1; i < layer.end(path); i++) {
                    lead(led, layer.x(i), layer.y(i));
                }
            } else {
                led.copy(layer, path);
            }
        }
        if (onwards && next != null) {
            led.travel(true);
            lead(led, next.x(0), next.y(0));
        }
        return led.build(layer.topMm(), layer.heightMm(), layer.spiral());
    }

    private void lead(Layer.Builder led, double toX, double toY) {
        BedRoute.of(bed, led.lastX() + dx, led.lastY() + dy, toX + dx, toY + dy)
                .forEach(place -> led.point(place[0] - dx, place[1] - dy));
    }

    private boolean crosses(Layer layer, int path) {
        if (layer.type(path) == PathType.TRAVEL) {
            for (int i = layer.start(path) + 1; i < layer.end(path); i++) {
                if (crosses(layer.x(i - 1), layer.y(i - 1), layer.x(i), layer.y(i))) {
                    return true;
                }
            }
        }
        return false;
    }

    private boolean crosses(double x0, double y0, double x1, double y1) {
        return BedRoute.crosses(bed, x0 + dx, y0 + dy, x1 + dx, y1 + dy);
    }
}
