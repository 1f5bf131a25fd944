package fabbrica.core.gcode;

import fabbrica.core.mesh.model.Bounds;
import fabbrica.core.motion.MoveTimer;
import fabbrica.core.recipe.Printer;
import java.io.IOException;
import java.io.InputStream;
import java.util.List;
import java.util.Map;
import java.util.SortedMap;
import java.util.stream.IntStream;
import org.jspecify.annotations.Nullable;

/**
 * What a file of G-code does on a printer, found by replaying it through the same timer that times toolpaths. The file
 * is streamed; only what is counted stays.
 *
 * @param waits        seconds spent other than moving, by what for
 * @param motion       every move, timed
 * @param filamentMm   net length pushed forward by each tool
 * @param printed      box around everything laid after the first line, null when nothing was laid
 * @param layers       from the bed up, or part by part
 * @param cues         what happens beside moving, in its order, the last of them the end
 * @param hottestNozzle highest target, °C; 0 when none is set
 * @param hottestBed   likewise
 * @param fastestFlow  mm³/s over moves of at least a millimetre
 * @param beforeHoming moves made before the axes were homed
 * @param cold         whether filament is laid before the nozzle was told to heat
 * @param onKeepOut    lines laid over what the bed is to be kept free
 * @param passages     lines that drive the head straight through what is to be kept free, lower than
 *                     {@value GcodeWriter#LIFT_MM} mm; the first of them
 * @param backwards    moves that would lay a negative amount while the head travels
 * @param laidMm       way travelled while laying
 * @param unknown      codes that nothing is known of, with how often they occur
 * @param faults       lines that make no sense, the first of them with their text
 * @param faultCount   all of them
 * @param cautions     what could not be taken at its word
 * @param hints        what comments say of themselves as “name = value” or “name: value”
 * @param thumbnail    the first PNG picture in the comments, as Base64; empty without one
 */
public record Replay(Map<Wait, Double> waits, MoveTimer motion, SortedMap<Integer, Double> filamentMm, @Nullable Bounds printed,
                     List<LayerRead> layers, List<Cue> cues, double hottestNozzle, double hottestBed, double fastestFlow,
                     long beforeHoming, boolean cold, long onKeepOut, List<Passage> passages,
                     long backwards, double laidMm, SortedMap<String, Integer> unknown,
                     List<String> faults, long faultCount, List<Cautions.Caution> cautions,
                     Map<String, String> hints, String thumbnail) {

    /** What a printer waits for. */
    public enum Wait {
        HEAT_BED, HEAT_NOZZLE, HOME, LEVEL, CHANGE, PICTURE, DWELL
    }

    /**
     * @param line    of the file at which it begins
     * @param startS  seconds of motion before it
     */
    public record LayerRead(double topMm, long line, double startS) {
    }

    /** @param heightMm of the nozzle above the bed */
    public record Passage(long line, String text, double heightMm) {
    }

    public static Replay of(InputStream in, Printer printer) throws IOException {
        Interpreter interpreter = new Interpreter(printer, null);
        GcodeReader.read(in, interpreter::accept);
        return interpreter.replay();
    }

    /** Whether the print may take longer than what is worked out, as the cautions say. */
    public boolean atLeast() {
        return cautions.stream().anyMatch(Cautions.Caution::atLeast);
    }

    public double waitSeconds() {
        return waits.values().stream().mapToDouble(Double::doubleValue).sum();
    }

    public double totalSeconds() {
        return waitSeconds() + motion.totalSeconds();
    }

    /** By which most layers rise, in mm to a thousandth; 0 when nothing rises. */
    public double layerHeightMm() {
        double[] rises = IntStream.range(1, layers.size()).mapToDouble(i -> layers.get(i).topMm() - layers.get(i - 1).topMm())
                .filter(rise -> rise > 0).sorted().toArray();
        return rises.length == 0 ? 0 : Math.round(1000 * rises[rises.length / 2]) / 1000.0;
    }

    public double totalFilamentMm() {
        return filamentMm.values().stream().mapToDouble(Double::doubleValue).sum();
    }
}
