package fabbrica.web.plan;

import com.github.benmanes.caffeine.cache.Cache;
import fabbrica.core.bed.Bed;
import fabbrica.core.bed.Outline;
import fabbrica.core.recipe.Part;
import fabbrica.core.recipe.Printer;
import fabbrica.web.plan.LaidPlate.LaidCopy;
import fabbrica.web.platform.Caches;
import fabbrica.web.platform.Meshes;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import org.jspecify.annotations.Nullable;
import org.locationtech.jts.geom.Coordinate;
import org.locationtech.jts.geom.Geometry;
import org.locationtech.jts.simplify.DouglasPeuckerSimplifier;
import org.springframework.stereotype.Component;

/** A bed from above with the copies on it, as the page draws it: every outline about the middle of its box as it lies, so that it can be moved. */
@Component
public class PlateDrawing {

    private static final double SIMPLE_MM = 0.15;

    private final Meshes meshes;
    private final Cache<Turned, String> paths = Caches.of(500).build();

    PlateDrawing(Meshes meshes) {
        this.meshes = meshes;
    }

    private record Turned(Part part, double deg) {
    }

    /**
     * A copy as it is drawn; y counts downwards, as in SVG.
     *
     * @param path of its outline as it is turned, about the middle of its box
     */
    public record Drawn(LaidCopy copy, String path, double x, double y, double turnDeg) {
    }

    /** A rectangle to be kept free, y counted downwards. */
    public record Kept(double x, double y, double width, double height) {
    }

    public record Sheet(double width, double depth, List<Kept> kept, List<Drawn> copies) {
    }

    /** The same as far as its models are kept; null when one is not. */
    public @Nullable Sheet ofKept(LaidPlate plate, Printer printer) {
        return meshes.isKept(plate.plate()) ? of(plate, printer) : null;
    }

    public Sheet of(LaidPlate plate, Printer printer) {
        Bed bed = printer.freeBed();
        List<Drawn> drawn = new ArrayList<>();
        for (LaidCopy copy : plate.copies()) {
            Outline outline = meshes.outline(copy.copy().part());
            drawn.add(new Drawn(copy, paths.get(new Turned(copy.copy().part(), copy.copy().place().turnDeg()),
                    turned -> path(outline.placed(0, 0, turned.deg()).shape())), copy.copy().place().xMm(),
                    bed.depthMm() - copy.copy().place().yMm(), copy.copy().place().turnDeg()));
        }
        return new Sheet(bed.widthMm(), bed.depthMm(), bed.keepOut().stream().map(zone -> new Kept(zone.minX(), bed.depthMm() - zone.maxY(),
                zone.maxX() - zone.minX(), zone.maxY() - zone.minY())).toList(), drawn);
    }

    private static String path(Geometry shape) {
        StringBuilder path = new StringBuilder();
        Geometry rings = DouglasPeuckerSimplifier.simplify(shape, SIMPLE_MM).getBoundary();
        for (int i = 0; i < rings.getNumGeometries(); i++) {
            Coordinate[] ring = rings.getGeometryN(i).getCoordinates();
            for (int p = 0; p < ring.length; p++) {
                path.append(String.format(Locale.ROOT, "%s%.2f %.2f", p == 0 ? "M" : "L", ring[p].x, -ring[p].y));
            }
            path.append('Z');
        }
        return path.toString();
    }
}
