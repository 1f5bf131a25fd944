package fabbrica.printsim;

import fabbrica.core.gcode.Cue;
import fabbrica.core.gcode.FileCourse;
import fabbrica.core.recipe.Printer;
import java.io.IOException;
import java.util.List;
import java.util.Map;

/**
 * A file as a machine carries it out: cue after cue, moving between them.
 *
 * @param name on the card
 */
record Program(String name, FileCourse file) {

    static Program of(String name, byte[] file, Printer printer) throws IOException {
        return new Program(name, FileCourse.of(file, printer));
    }

    long bytes() {
        return file.bytes();
    }

    List<Cue> cues() {
        return file.cues();
    }

    Map<String, String> hints() {
        return file.hints();
    }

    int layers() {
        return file.layers();
    }

    double seconds() {
        return cues().getLast().atS();
    }

    /** How many layers are done, so many seconds of motion in, with the part of the one that is being laid. */
    double laid(int layer, double atS) {
        if (layer == 0) {
            return 0;
        }
        double[] starts = cues().stream().filter(cue -> cue.kind() == Cue.Kind.LAYER).mapToDouble(Cue::atS).toArray();
        double from = starts[layer - 1], to = layer < starts.length ? starts[layer] : seconds();
        return layer - 1 + (to > from ? Math.clamp((atS - from) / (to - from), 0, 1) : 1);
    }

    /** How many bytes of the file are done, so many seconds of motion in, on the way to a cue. */
    long byteAt(int cue, double atS) {
        long[] offsets = file.offsets();
        return cue == 0 ? offsets[0] : Math.round(offsets[cue - 1] + part(cue, atS) * (offsets[cue] - offsets[cue - 1]));
    }

    /** Likewise, how much filament is pushed forward. */
    double filamentMm(int cue, double atS) {
        double to = cues().get(cue).filamentMm();
        return cue == 0 ? to : cues().get(cue - 1).filamentMm() + part(cue, atS) * (to - cues().get(cue - 1).filamentMm());
    }

    private double part(int cue, double atS) {
        double from = cues().get(cue - 1).atS(), to = cues().get(cue).atS();
        return to > from ? Math.clamp((atS - from) / (to - from), 0, 1) : 1;
    }
}
