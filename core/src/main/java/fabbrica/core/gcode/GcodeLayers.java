package fabbrica.core.gcode;

import fabbrica.core.recipe.Printer;
import fabbrica.core.toolpath.Layer;
import fabbrica.core.toolpath.PathType;
import fabbrica.core.toolpath.Toolpath;
import java.io.IOException;
import java.io.InputStream;
import java.util.ArrayList;
import java.util.List;
import org.jspecify.annotations.Nullable;

/**
 * The layers of a file of G-code with their paths, to be looked at. A path ends where its kind, its speed or its thickness
 * changes. Everything drawn is held in memory.
 *
 * @param speeds for each layer, mm/s of each of its paths
 */
public record GcodeLayers(Toolpath toolpath, List<double[]> speeds) {

    private static final double SAME_SHARE = 0.02;

    public static GcodeLayers of(InputStream in, Printer printer) throws IOException {
        Sketch sketch = new Sketch();
        Interpreter interpreter = new Interpreter(printer, sketch);
        GcodeReader.read(in, interpreter::accept);
        sketch.close();
        return new GcodeLayers(new Toolpath(sketch.layers, List.of(), List.of()), sketch.speeds);
    }

    /** Takes down what the interpreter does. */
    static final class Sketch {

        private final List<Layer> layers = new ArrayList<>();
        private final List<double[]> speeds = new ArrayList<>();
        private Layer.@Nullable Builder builder;
        private final List<Double> pathSpeeds = new ArrayList<>();
        private double top;
        private double height;
        private @Nullable PathType type;
        private double area;
        private double speed;

        void beginLayer(double topMm, double heightMm) {
            close();
            builder = new Layer.Builder();
            top = topMm;
            height = heightMm;
        }

        void line(double fromX, double fromY, double toX, double toY, double areaMm2, double mmS, PathType ofType) {
            if (builder == null) {
                return;
            }
            boolean goesOn = ofType == type && Math.abs(mmS - speed) < 0.5
                    && Math.abs(areaMm2 - area) <= SAME_SHARE * Math.max(area, areaMm2);
            if (!goesOn) {
                type = ofType;
                area = areaMm2;
                speed = mmS;
                builder.path(ofType, areaMm2 / Math.max(0.01, height), areaMm2);
                builder.point(fromX, fromY);
                pathSpeeds.add(mmS);
            }
            builder.point(toX, toY);
        }

        void close() {
            if (builder != null) {
                layers.add(builder.build(top, height, false));
                speeds.add(pathSpeeds.stream().mapToDouble(Double::doubleValue).toArray());
                pathSpeeds.clear();
                type = null;
            }
        }
    }
}
