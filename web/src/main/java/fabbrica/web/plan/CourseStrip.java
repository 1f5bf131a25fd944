package fabbrica.web.plan;

import fabbrica.core.estimate.Course;
import fabbrica.core.units.Spoken;
import fabbrica.web.platform.Svg;

/** Draws the course of a print as a strip, to scale, what happens marked by numbers from 1. */
final class CourseStrip {

    private static final double WIDTH = 1000;
    private static final double TOP = 26;
    private static final double HEIGHT = 26;
    private static final int PARTS = 4;
    private static final double APART = 20;

    private CourseStrip() {
    }

    static String of(Course course) {
        double scale = WIDTH / course.totalSeconds();
        Svg svg = new Svg().open("svg", "class", "course", "viewBox", Svg.path(-14, 0, WIDTH + 28, TOP + HEIGHT + 24), "role", "img", "aria-label", "The print from first to last minute");
        for (Course.Stretch stretch : course.stretches()) {
            svg.open("rect", "class", stretch.laying() ? "laying" : "ready", "x", scale * stretch.fromS(), "y", TOP, "width", Math.max(1, scale * (stretch.toS() - stretch.fromS())), "height", HEIGHT)
                    .text("title", "%s: %s".formatted(stretch.what(), Spoken.duration(stretch.toS() - stretch.fromS()))).close();
        }
        for (int part = 0; part <= PARTS; part++) {
            svg.text("text", part == 0 ? "start" : Spoken.duration(course.totalSeconds() * part / PARTS), "class", "minute", "x", WIDTH * part / PARTS, "y", TOP + HEIGHT + 18,
                    "text-anchor", part == 0 ? "start" : part == PARTS ? "end" : "middle");
        }
        double last = -APART;
        for (int i = 0; i < course.moments().size(); i++) {
            double at = scale * course.moments().get(i).atS(), shown = Math.max(at, last + APART);
            svg.leaf("path", "class", "moment", "d", Svg.path("M", shown, TOP - 6, "L", at, TOP, "V", TOP + HEIGHT));
            svg.text("text", Integer.toString(i + 1), "class", "moment", "x", shown, "y", TOP - 9, "text-anchor", "middle");
            last = shown;
        }
        return svg.toString();
    }
}
