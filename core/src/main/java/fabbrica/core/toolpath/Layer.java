package fabbrica.core.toolpath;

import fabbrica.core.recipe.Recipe;
import java.util.Arrays;

/**
 * The paths of one layer in the order they are laid, travels included. Path {@code p} runs through the points
 * {@code start(p) .. end(p) - 1}; a loop ends on the point it began with. The way to the first path is not part of it.
 */
public final class Layer {

    /** A hop shorter than this over air oozes nothing worth drawing back for (common practice, no source). */
    public static final double SHORT_HOP_MM = 2;

    private static final double SAME_WIDTH = 0.05;

    private final double topMm;
    private final double heightMm;
    private final boolean spiral;
    private final double[] points;
    private final int[] starts;
    private final PathType[] types;
    private final double[] widths;
    private final double[] areas;
    private final boolean[] retracted;
    /** Cross-section at each point of a path along which it changes; empty for other paths. */
    private final double[][] changing;

    private Layer(Builder builder, double topMm, double heightMm, boolean spiral) {
        this.topMm = topMm;
        this.heightMm = heightMm;
        this.spiral = spiral;
        this.points = Arrays.copyOf(builder.points, builder.pointCount);
        this.starts = Arrays.copyOf(builder.starts, builder.pathCount + 1);
        this.starts[builder.pathCount] = builder.pointCount / 2;
        this.types = Arrays.copyOf(builder.types, builder.pathCount);
        this.widths = Arrays.copyOf(builder.widths, builder.pathCount);
        this.areas = Arrays.copyOf(builder.areas, builder.pathCount);
        this.retracted = Arrays.copyOf(builder.retracted, builder.pathCount);
        this.changing = Arrays.copyOf(builder.changing, builder.pathCount);
    }

    /** Height of the layer's upper side above the bed. */
    public double topMm() {
        return topMm;
    }

    public double heightMm() {
        return heightMm;
    }

    /** Whether its wall rises from the layer below to this one while it is laid. */
    public boolean spiral() {
        return spiral;
    }

    public int pathCount() {
        return types.length;
    }

    public PathType type(int path) {
        return types[path];
    }

    /** 0 for travels; the widest where it changes. */
    public double widthMm(int path) {
        return widths[path];
    }

    /** Cross-section of the line in mm², 0 for travels; the largest where it changes. */
    public double lineAreaMm2(int path) {
        return areas[path];
    }

    /** Mean cross-section in mm² of a path from the point before to {@code point}. */
    public double lineAreaMm2(int path, int point) {
        double[] along = changing[path];
        int at = point - starts[path];
        return along == null ? areas[path] : (along[at - 1] + along[at]) / 2;
    }

    /** Width in mm of a path at {@code point}, taken from the one before. */
    public double widthMm(int path, int point) {
        return changing[path] == null ? widths[path]
                : Recipe.widthOfShareMm(lineAreaMm2(path, point) / heightMm, heightMm);
    }

    /** The last point on from another one up to which a path is about as wide as at the beginning. */
    public int evenUntil(int path, int from) {
        int to = changing[path] == null ? ends(path) : from + 1;
        while (to < ends(path) && Math.abs(lineAreaMm2(path, to + 1) / lineAreaMm2(path, from + 1) - 1) < SAME_WIDTH) {
            to++;
        }
        return to;
    }

    private int ends(int path) {
        return starts[path + 1] - 1;
    }

    /** Plastic in mm³ of a path. */
    public double mm3(int path) {
        double mm3 = 0;
        for (int i = starts[path] + 1; i < starts[path + 1]; i++) {
            mm3 += Math.hypot(x(i) - x(i - 1), y(i) - y(i - 1)) * lineAreaMm2(path, i);
        }
        return mm3;
    }

    /** Whether a travel is made with the filament drawn back. */
    public boolean retracted(int path) {
        return retracted[path];
    }

    public int start(int path) {
        return starts[path];
    }

    public int end(int path) {
        return starts[path + 1];
    }

    public double x(int point) {
        return points[2 * point];
    }

    public double y(int point) {
        return points[2 * point + 1];
    }

    public int pointCount() {
        return points.length / 2;
    }

    public double lengthMm(int path) {
        double length = 0;
        for (int i = starts[path] + 1; i < starts[path + 1]; i++) {
            double dx = x(i) - x(i - 1), dy = y(i) - y(i - 1);
            length += Math.sqrt(dx * dx + dy * dy);
        }
        return length;
    }

    /** Length laid of one type, in millimetres. */
    public double lengthMm(PathType type) {
        double length = 0;
        for (int path = 0; path < types.length; path++) {
            length += types[path] == type ? lengthMm(path) : 0;
        }
        return length;
    }

    /** Puts a layer together path by path. */
    public static final class Builder {

        private double[] points = new double[256];
        private int pointCount;
        private int[] starts = new int[33];
        private PathType[] types = new PathType[32];
        private double[] widths = new double[32];
        private double[] areas = new double[32];
        private boolean[] retracted = new boolean[32];
        private double[][] changing = new double[32][];
        private int pathCount;

        /** Begins a path. */
        public void path(PathType type, double widthMm, double areaMm2) {
            path(type, widthMm, areaMm2, false);
        }

        /** Begins a path whose cross-section changes evenly from point to point. */
        void path(PathType type, double widestMm, double[] areasMm2) {
            path(type, widestMm, Arrays.stream(areasMm2).max().orElse(0), false);
            changing[pathCount - 1] = areasMm2;
        }

        /** A straight travel from the last point. */
        void travel(double x, double y, boolean retract) {
            travel(retract);
            point(x, y);
        }

        /** Begins a travel at the last point. */
        void travel(boolean retract) {
            double lastX = lastX(), lastY = lastY();
            path(PathType.TRAVEL, 0, 0, retract);
            point(lastX, lastY);
        }

        private void path(PathType type, double widthMm, double areaMm2, boolean retract) {
            if (pathCount == types.length) {
                starts = Arrays.copyOf(starts, 2 * pathCount + 1);
                types = Arrays.copyOf(types, 2 * pathCount);
                widths = Arrays.copyOf(widths, 2 * pathCount);
                areas = Arrays.copyOf(areas, 2 * pathCount);
                retracted = Arrays.copyOf(retracted, 2 * pathCount);
                changing = Arrays.copyOf(changing, 2 * pathCount);
            }
            starts[pathCount] = pointCount / 2;
            types[pathCount] = type;
            widths[pathCount] = widthMm;
            areas[pathCount] = areaMm2;
            retracted[pathCount++] = retract;
        }

        public void point(double x, double y) {
            if (pointCount == points.length) {
                points = Arrays.copyOf(points, 2 * pointCount);
            }
            points[pointCount++] = x;
            points[pointCount++] = y;
        }

        /** A path as it is on another layer. */
        void copy(Layer from, int path) {
            path(from.types[path], from.widths[path], from.areas[path], from.retracted[path]);
            changing[pathCount - 1] = from.changing[path];
            for (int i = from.start(path); i < from.end(path); i++) {
                point(from.x(i), from.y(i));
            }
        }

        boolean isEmpty() {
            return pointCount == 0;
        }

        double lastX() {
            return pointCount == 0 ? 0 : points[pointCount - 2];
        }

        double lastY() {
            return pointCount == 0 ? 0 : points[pointCount - 1];
        }

        public Layer build(double topMm, double heightMm, boolean spiral) {
            return new Layer(this, topMm, heightMm, spiral);
        }
    }
}
