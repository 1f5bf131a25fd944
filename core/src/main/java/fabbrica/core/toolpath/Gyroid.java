package fabbrica.core.toolpath;

import java.util.ArrayList;
import java.util.List;

/**
 * The gyroid sin x cos y + sin y cos z + sin z cos x = 0 cut at a height: waves that run along x or along y, whichever way
 * every wave can be followed from end to end, so that each is solved in closed form. An isotropic surface of area S per
 * volume is cut into lines of length π/4·S per area (stereology), and the gyroid of period L has S = 3.0915 / L; that
 * gives the period for a density.
 */
final class Gyroid {

    private static final double AREA_PER_PERIOD = 3.0915;
    private static final int POINTS_PER_PERIOD = 24;

    private final double period;
    private final double z;

    /** @param mmPerMm2 length of line wanted per area */
    Gyroid(double mmPerMm2, double heightMm) {
        period = Math.PI / 4 * AREA_PER_PERIOD / mmPerMm2;
        z = 2 * Math.PI * heightMm / period;
    }

    double stepMm() {
        return period / POINTS_PER_PERIOD;
    }

    /** All waves that may touch the box, each as x, y pairs. */
    List<double[]> waves(double minX, double minY, double maxX, double maxY) {
        boolean alongX = Math.abs(Math.cos(z)) >= Math.abs(Math.sin(z));
        double from = alongX ? minX : minY, to = alongX ? maxX : maxY;
        double low = alongX ? minY : minX, high = alongX ? maxY : maxX;
        int points = (int) Math.ceil((to - from) / stepMm()) + 2;
        int first = (int) Math.floor(low / period) - 1, last = (int) Math.ceil(high / period) + 1;
        List<double[]> waves = new ArrayList<>();
        for (int repeat = first; repeat <= last; repeat++) {
            for (int branch = 0; branch < 2; branch++) {
                double[] wave = new double[2 * points];
                for (int i = 0; i < points; i++) {
                    double along = from + i * stepMm(), angle = across(along * 2 * Math.PI / period, branch, alongX);
                    double across = (angle / (2 * Math.PI) + repeat) * period;
                    wave[2 * i] = alongX ? along : across;
                    wave[2 * i + 1] = alongX ? across : along;
                }
                waves.add(wave);
            }
        }
        return waves;
    }

    private double across(double along, int branch, boolean alongX) {
        if (alongX) {
            double a = Math.sin(along), b = Math.cos(z), c = -Math.sin(z) * Math.cos(along);
            double half = Math.acos(Math.clamp(c / Math.hypot(a, b), -1, 1));
            return Math.atan2(b, a) + (branch == 0 ? half : -half);
        }
        double a = Math.cos(along), b = Math.sin(z), c = -Math.sin(along) * Math.cos(z);
        double rise = Math.asin(Math.clamp(c / Math.hypot(a, b), -1, 1));
        return (branch == 0 ? rise : Math.PI - rise) - Math.atan2(b, a);
    }
}
