package fabbrica.core.gcode;

import fabbrica.core.recipe.Preparation;
import fabbrica.core.recipe.Printer;
import java.io.ByteArrayInputStream;
import java.io.IOException;
import java.util.Arrays;
import java.util.List;
import java.util.Map;

/**
 * A file from its first to its last byte: which cue stands where, and so how far somebody is who has come to a byte.
 *
 * @param bytes   how long the file is
 * @param cues    in their order, the last of them the end
 * @param offsets in the file at which the line of each cue begins
 * @param hints   what its comments say
 */
public record FileCourse(long bytes, List<Cue> cues, long[] offsets, Map<String, String> hints) {

    /** @throws IOException when it is no G-code */
    public static FileCourse of(byte[] file, Printer printer) throws IOException {
        Replay replay = Replay.of(new ByteArrayInputStream(file), printer);
        long[] offsets = new long[replay.cues().size()];
        long line = 1;
        int at = 0;
        for (int i = 0; i < offsets.length; i++) {
            for (; line < replay.cues().get(i).line() && at < file.length; at++) {
                line += file[at] == '\n' ? 1 : 0;
            }
            offsets[i] = at;
        }
        offsets[offsets.length - 1] = file.length;
        return new FileCourse(file.length, replay.cues(), offsets, replay.hints());
    }

    public int layers() {
        return (int) cues.stream().filter(cue -> cue.kind() == Cue.Kind.LAYER).count();
    }

    /** Seconds that its first layer takes; 0 when it lays nothing. */
    public double firstLayerS() {
        double[] bounds = cues.stream().filter(cue -> cue.kind() == Cue.Kind.LAYER || cue.kind() == Cue.Kind.END).limit(2).mapToDouble(Cue::atS).toArray();
        return bounds.length < 2 ? 0 : bounds[1] - bounds[0];
    }

    /** The layer that is being laid at a byte, from 1; 0 before the first. */
    public int layerAt(long byteAt) {
        int next = next(byteAt);
        return (int) cues.subList(0, next).stream().filter(cue -> cue.kind() == Cue.Kind.LAYER).count();
    }

    /** How much filament has been pushed forward at a byte, mm. */
    public double filamentMmAt(long byteAt) {
        int next = next(byteAt);
        return next == 0 ? 0 : between(next, byteAt, cues.get(next - 1).filamentMm(), cues.get(next).filamentMm());
    }

    /** What of it is done at a byte, 0 to 1, by the seconds its moves take. */
    public double doneAt(long byteAt) {
        double all = cues.getLast().atS();
        return all > 0 ? secondsAt(next(byteAt), byteAt) / all : 1;
    }

    /** Seconds that are left of a file. */
    public record Left(double heatingS, double readyingS, double printingS) {

        public double inAllS() {
            return heatingS + readyingS + printingS;
        }
    }

    /**
     * What is left from a byte on.
     *
     * @param bedC    that the bed has; so with the nozzle
     */
    public Left left(long byteAt, double bedC, double nozzleC, Preparation preparation) {
        int next = next(byteAt);
        double heating = 0, readying = 0, printing = cues.getLast().atS() - secondsAt(next, byteAt), bed = bedC, nozzle = nozzleC;
        for (Cue cue : cues.subList(next, cues.size())) {
            double takes = cue.takesS(bed, nozzle, preparation);
            switch (cue.kind()) {
                case AWAIT_BED -> {
                    heating += takes;
                    bed = cue.value();
                }
                case AWAIT_NOZZLE -> {
                    heating += takes;
                    nozzle = cue.value();
                }
                case HOME, LEVEL -> readying += takes;
                default -> printing += takes;
            }
        }
        return new Left(heating, readying, printing);
    }

    /** The cue that comes next at a byte, or goes on there. */
    private int next(long byteAt) {
        int at = Arrays.binarySearch(offsets, Math.min(byteAt, bytes));
        int next = at < 0 ? -at - 1 : at;
        while (next > 0 && offsets[next - 1] == offsets[next]) {
            next--;
        }
        return next;
    }

    private double secondsAt(int next, long byteAt) {
        return next == 0 ? 0 : between(next, byteAt, cues.get(next - 1).atS(), cues.get(next).atS());
    }

    private double between(int next, long byteAt, double from, double to) {
        double part = (byteAt - offsets[next - 1]) / (double) (offsets[next] - offsets[next - 1]);
        return from + Math.clamp(part, 0, 1) * (to - from);
    }
}
