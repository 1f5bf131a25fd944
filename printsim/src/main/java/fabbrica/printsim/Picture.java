package fabbrica.printsim;

import fabbrica.core.bed.Bed;
import fabbrica.core.toolpath.Layer;
import fabbrica.core.toolpath.PathType;
import java.awt.BasicStroke;
import java.awt.Color;
import java.awt.Graphics2D;
import java.awt.RenderingHints;
import java.awt.geom.Path2D;
import java.awt.image.BufferedImage;
import java.util.List;
import java.util.Random;

/**
 * What a camera at the front corner of the bed sees: the lines of every layer laid so far, from the bed up, seen along the diagonal and from above
 * (parallel, so that nothing has to be hidden but what later layers cover).
 */
final class Picture {

    private static final int WIDTH = 640;
    private static final int HEIGHT = 480;
    private static final double SIDEWAYS = Math.cos(Math.toRadians(30));
    private static final double UPWARDS = Math.sin(Math.toRadians(30));
    private static final Color ROOM = new Color(0x2b2a28);
    private static final Color BED = new Color(0x4a4845);
    private static final int STRINGS = 60;

    private final Bed bed;
    private final double scale;

    Picture(Bed bed) {
        this.bed = bed;
        this.scale = Math.min(WIDTH / ((bed.widthMm() + bed.depthMm()) * SIDEWAYS), HEIGHT / ((bed.widthMm() + bed.depthMm()) * UPWARDS + bed.heightMm() / 2)) * 0.95;
    }

    /**
     * @param layers of the file, in the coordinates of the bed
     * @param laid   how many of them are done; the part behind the point of the one that is being laid
     * @param loose  from which layer on the plastic went anywhere; more than there are when it holds
     */
    BufferedImage of(List<Layer> layers, double laid, int loose) {
        BufferedImage image = new BufferedImage(WIDTH, HEIGHT, BufferedImage.TYPE_INT_RGB);
        Graphics2D g = image.createGraphics();
        g.setRenderingHint(RenderingHints.KEY_ANTIALIASING, RenderingHints.VALUE_ANTIALIAS_ON);
        g.setColor(ROOM);
        g.fillRect(0, 0, WIDTH, HEIGHT);
        g.setColor(BED);
        Path2D plate = new Path2D.Double();
        move(plate, 0, 0, 0);
        line(plate, bed.widthMm(), 0, 0);
        line(plate, bed.widthMm(), bed.depthMm(), 0);
        line(plate, 0, bed.depthMm(), 0);
        g.fill(plate);
        int whole = (int) Math.min(layers.size(), laid);
        for (int i = 0; i < whole && i < loose; i++) {
            layer(g, layers.get(i), 1, i);
        }
        if (loose <= whole && loose < layers.size()) {
            strings(g, layers.get(loose), (int) Math.min(STRINGS, 1 + 6 * (laid - loose)));
        } else if (whole < layers.size()) {
            layer(g, layers.get(whole), laid - whole, whole);
        }
        g.dispose();
        return image;
    }

    private void layer(Graphics2D g, Layer layer, double part, int number) {
        int last = (int) Math.round(part * layer.pathCount());
        g.setColor(Color.getHSBColor(0.08f, 0.35f, number % 2 == 0 ? 0.82f : 0.76f));
        g.setStroke(new BasicStroke((float) Math.max(0.6, 0.4 * scale)));
        Path2D lines = new Path2D.Double();
        for (int path = 0; path < last; path++) {
            if (layer.type(path) != PathType.TRAVEL) {
                move(lines, layer.x(layer.start(path)), layer.y(layer.start(path)), layer.topMm());
                for (int i = layer.start(path) + 1; i < layer.end(path); i++) {
                    line(lines, layer.x(i), layer.y(i), layer.topMm());
                }
            }
        }
        g.draw(lines);
    }

    /** Plastic that found nothing to lie on. */
    private void strings(Graphics2D g, Layer from, int count) {
        Random random = new Random(from.pointCount());
        g.setStroke(new BasicStroke(1.2f));
        for (int i = 0; i < count; i++) {
            int at = random.nextInt(Math.max(1, from.pointCount()));
            double x = from.x(at), y = from.y(at), z = from.topMm();
            Path2D string = new Path2D.Double();
            move(string, x, y, z);
            for (int bend = 0; bend < 4; bend++) {
                double[] to = new double[6];
                for (int j = 0; j < to.length; j += 2) {
                    x += 10 * random.nextGaussian();
                    y += 10 * random.nextGaussian();
                    z = Math.max(0, z + 4 * random.nextGaussian());
                    to[j] = across(x, y);
                    to[j + 1] = down(x, y, z);
                }
                string.curveTo(to[0], to[1], to[2], to[3], to[4], to[5]);
            }
            g.setColor(Color.getHSBColor(0.08f, 0.35f, 0.7f + 0.2f * random.nextFloat()));
            g.draw(string);
        }
    }

    private void move(Path2D path, double x, double y, double z) {
        path.moveTo(across(x, y), down(x, y, z));
    }

    private void line(Path2D path, double x, double y, double z) {
        path.lineTo(across(x, y), down(x, y, z));
    }

    private double across(double x, double y) {
        return WIDTH / 2.0 + scale * SIDEWAYS * ((x - bed.widthMm() / 2) + (y - bed.depthMm() / 2));
    }

    private double down(double x, double y, double z) {
        return HEIGHT * 0.62 + scale * (UPWARDS * ((x - bed.widthMm() / 2) - (y - bed.depthMm() / 2)) - z);
    }
}
