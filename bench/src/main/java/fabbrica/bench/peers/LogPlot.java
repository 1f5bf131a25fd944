package fabbrica.bench.peers;

import java.util.ArrayList;
import java.util.List;
import java.util.Locale;

/** Lines over two logarithmic axes, as SVG: triangles to the right, seconds upwards. */
final class LogPlot {

    private static final int WIDTH = 720, HEIGHT = 420, LEFT = 60, BOTTOM = 50, TOP = 20, RIGHT = 150;
    private static final String[] COLOURS = {"#1f6f5c", "#b0522d", "#3d4f9f"};
    private static final double LEAST_X = 1e4, MOST_X = 1e7, LEAST_Y = 0.1, MOST_Y = 100;

    private final List<String> names;
    private final List<double[]> points = new ArrayList<>();

    LogPlot(List<String> names) {
        this.names = names;
    }

    /** @param seconds of each line */
    void add(double triangles, List<Double> seconds) {
        double[] point = new double[1 + seconds.size()];
        point[0] = triangles;
        for (int i = 0; i < seconds.size(); i++) {
            point[1 + i] = seconds.get(i);
        }
        points.add(point);
    }

    String svg() {
        StringBuilder svg = new StringBuilder(format("<svg xmlns=\"http://www.w3.org/2000/svg\" viewBox=\"0 0 %d %d\" font-family=\"sans-serif\" "
                + "font-size=\"12\">%n<rect width=\"100%%\" height=\"100%%\" fill=\"#fff\"/>%n", WIDTH, HEIGHT));
        for (double x = LEAST_X; x <= MOST_X; x *= 10) {
            svg.append(line(x, LEAST_Y, x, MOST_Y, "#ddd")).append(text(x(x), HEIGHT - BOTTOM + 18, "middle", format("%,.0f", x)));
        }
        for (double y = LEAST_Y; y <= MOST_Y * 1.01; y *= 10) {
            svg.append(line(LEAST_X, y, MOST_X, y, "#ddd")).append(text(LEFT - 6, y(y) + 4, "end", format(y < 1 ? "%.1f s" : "%.0f s", y)));
        }
        svg.append(text((LEFT + WIDTH - RIGHT) / 2.0, HEIGHT - 10, "middle", "triangles"));
        svg.append(line(LEAST_X, LEAST_Y, MOST_X, MOST_Y, "#999\" stroke-dasharray=\"4 4"));
        for (int i = 0; i < names.size(); i++) {
            StringBuilder path = new StringBuilder();
            for (double[] point : points) {
                path.append(format("%s%.1f %.1f", path.isEmpty() ? "M" : "L", x(point[0]), y(point[1 + i])));
                svg.append(format("<circle cx=\"%.1f\" cy=\"%.1f\" r=\"3\" fill=\"%s\"/>%n", x(point[0]), y(point[1 + i]), COLOURS[i]));
            }
            svg.append(format("<path d=\"%s\" fill=\"none\" stroke=\"%s\" stroke-width=\"2\"/>%n", path, COLOURS[i]));
            svg.append(format("<text x=\"%d\" y=\"%d\" fill=\"%s\">%s</text>%n", WIDTH - RIGHT + 8, TOP + 20 + 20 * i, COLOURS[i], names.get(i)));
        }
        svg.append(text(WIDTH - RIGHT + 8, TOP + 20 + 20 * names.size(), "start", "- - twice, in twice"));
        return svg.append("</svg>\n").toString();
    }

    private static double x(double triangles) {
        return LEFT + (WIDTH - LEFT - RIGHT) * Math.log(triangles / LEAST_X) / Math.log(MOST_X / LEAST_X);
    }

    private static double y(double seconds) {
        return HEIGHT - BOTTOM - (HEIGHT - BOTTOM - TOP) * Math.log(seconds / LEAST_Y) / Math.log(MOST_Y / LEAST_Y);
    }

    private static String line(double x0, double y0, double x1, double y1, String stroke) {
        return format("<line x1=\"%.1f\" y1=\"%.1f\" x2=\"%.1f\" y2=\"%.1f\" stroke=\"%s\"/>%n", x(x0), y(y0), x(x1), y(y1), stroke);
    }

    private static String text(double x, double y, String anchor, String words) {
        return format("<text x=\"%.1f\" y=\"%.1f\" text-anchor=\"%s\" fill=\"#333\">%s</text>%n", x, y, anchor, words);
    }

    private static String format(String pattern, Object... values) {
        return String.format(Locale.ROOT, pattern, values);
    }
}
