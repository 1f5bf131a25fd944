package fabbrica.core.estimate;

import fabbrica.core.bed.Outline;
import fabbrica.core.motion.Motion;
import fabbrica.core.toolpath.Layer;
import fabbrica.core.toolpath.PathType;
import fabbrica.core.toolpath.Toolpath;
import java.util.Arrays;
import java.util.List;
import org.locationtech.jts.geom.Coordinate;
import org.locationtech.jts.geom.Envelope;
import org.locationtech.jts.geom.GeometryFactory;

/**
 * What of a plate was laid for each copy: every line belongs to the copy over whose outline it begins, or that is nearest to it;
 * a layer's time is shared by what was laid in it. Skirts and purge towers, which are for all, are shared like the rest.
 *
 * @param plastic  part of all plastic for each copy, in the order of the plate; sums up to 1
 * @param seconds  part of the time of motion, so too
 */
public record Portions(List<Double> plastic, List<Double> seconds) {

    public Portions {
        plastic = List.copyOf(plastic);
        seconds = List.copyOf(seconds);
    }

    /**
     * @param outlines of the copies, in the coordinates of the toolpath
     */
    public static Portions of(Toolpath toolpath, Motion motion, List<Outline> outlines) {
        int count = outlines.size();
        double[] plastic = new double[count], seconds = new double[count];
        if (count == 1) {
            return new Portions(List.of(1.0), List.of(1.0));
        }
        Nearest nearest = new Nearest(outlines);
        for (int i = 0; i < toolpath.layers().size(); i++) {
            Layer layer = toolpath.layers().get(i);
            double[] laid = new double[count];
            double all = 0;
            for (int path = 0; path < layer.pathCount(); path++) {
                PathType type = layer.type(path);
                if (type != PathType.TRAVEL && type != PathType.ADHESION && type != PathType.PURGE) {
                    double mm3 = layer.mm3(path);
                    laid[nearest.to(layer.x(layer.start(path)), layer.y(layer.start(path)))] += mm3;
                    all += mm3;
                }
            }
            double time = motion.layers().get(i).seconds();
            for (int copy = 0; copy < count && all > 0; copy++) {
                plastic[copy] += laid[copy];
                seconds[copy] += time * laid[copy] / all;
            }
        }
        return new Portions(normalised(plastic), normalised(seconds));
    }

    private static List<Double> normalised(double[] amounts) {
        double sum = Arrays.stream(amounts).sum();
        return Arrays.stream(amounts).map(amount -> sum > 0 ? amount / sum : 1.0 / amounts.length).boxed().toList();
    }

    /** Finds whose a place is: by boxes first, since outlines seldom reach into one another's. */
    private static final class Nearest {

        private static final GeometryFactory PLANE = new GeometryFactory();

        private final List<Outline> outlines;
        private final Envelope[] boxes;
        private int last;

        Nearest(List<Outline> outlines) {
            this.outlines = outlines;
            this.boxes = outlines.stream().map(Outline::box).toArray(Envelope[]::new);
        }

        int to(double x, double y) {
            int within = -1, count = 0;
            for (int i = 0; i < boxes.length; i++) {
                if (boxes[i].contains(x, y)) {
                    within = i;
                    count++;
                }
            }
            last = count == 1 ? within : byShape(x, y);
            return last;
        }

        private int byShape(double x, double y) {
            Coordinate place = new Coordinate(x, y);
            int best = last;
            double least = Double.POSITIVE_INFINITY;
            for (int i = 0; i < boxes.length; i++) {
                if (boxes[i].distance(new Envelope(place)) < least) {
                    double distance = outlines.get(i).shape().distance(PLANE.createPoint(place));
                    if (distance < least) {
                        least = distance;
                        best = i;
                    }
                }
            }
            return best;
        }
    }
}
