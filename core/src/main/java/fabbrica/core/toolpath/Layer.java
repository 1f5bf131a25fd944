package fabbrica.core.toolpath;

import java.util.Arrays;

/**
 * The paths of one layer in the order they are laid. Path {@code p} runs through the points
 * {@code start(p) .. end(p) - 1}; a loop ends on the point it began with.
 */
public final class Layer {

    private final double topMm;
    private final double heightMm;
    private final double lineAreaMm2;
    private final double[] points;
    private final int[] starts;
    private final PathType[] types;
    private final boolean[] linked;

    private Layer(Builder builder, double topMm, double heightMm, double lineAreaMm2) {
        this.topMm = topMm;
        this.heightMm = heightMm;
        this.lineAreaMm2 = lineAreaMm2;
        this.points = Arrays.copyOf(builder.points, builder.pointCount);
        this.starts = Arrays.copyOf(builder.starts, builder.pathCount + 1);
        this.starts[builder.pathCount] = builder.pointCount / 2;
        this.types = Arrays.copyOf(builder.types, builder.pathCount);
        this.linked = Arrays.copyOf(builder.linked, builder.pathCount);
    }

    /** Height of the layer's upper side above the bed. */
    public double topMm() {
        return topMm;
    }

    public double heightMm() {
        return heightMm;
    }

    /** Cross-section of every line on this layer. */
    public double lineAreaMm2() {
        return lineAreaMm2;
    }

    public int pathCount() {
        return types.length;
    }

    public PathType type(int path) {
        return types[path];
    }

    /** Whether the way from the path before stays inside the part, so that nothing need be drawn back. */
    public boolean linked(int path) {
        return linked[path];
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

    /** Length laid of one type, in millimetres. */
    public double lengthMm(PathType type) {
        double length = 0;
        for (int path = 0; path < types.length; path++) {
            for (int i = starts[path] + 1; types[path] == type && i < starts[path + 1]; i++) {
                length += Math.hypot(x(i) - x(i - 1), y(i) - y(i - 1));
            }
        }
        return length;
    }

    static final class Builder {

        private double[] points = new double[256];
        private int pointCount;
        private int[] starts = new int[33];
        private PathType[] types = new PathType[32];
        private boolean[] linked = new boolean[32];
        private int pathCount;

        void path(PathType type, boolean link) {
            if (pathCount == types.length) {
                starts = Arrays.copyOf(starts, 2 * pathCount + 1);
                types = Arrays.copyOf(types, 2 * pathCount);
                linked = Arrays.copyOf(linked, 2 * pathCount);
            }
            starts[pathCount] = pointCount / 2;
            types[pathCount] = type;
            linked[pathCount++] = link;
        }

        void point(double x, double y) {
            if (pointCount == points.length) {
                points = Arrays.copyOf(points, 2 * pointCount);
            }
            points[pointCount++] = x;
            points[pointCount++] = y;
        }

        double lastX() {
            return pointCount == 0 ? 0 : points[pointCount - 2];
        }

        double lastY() {
            return pointCount == 0 ? 0 : points[pointCount - 1];
        }

        Layer build(double topMm, double heightMm, double lineAreaMm2) {
            return new Layer(this, topMm, heightMm, lineAreaMm2);
        }
    }
}
