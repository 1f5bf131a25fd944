package fabbrica.printsim;

import fabbrica.core.gcode.Cue;
import fabbrica.core.gcode.Replay;
import fabbrica.core.recipe.Printer;
import java.io.ByteArrayInputStream;
import java.io.IOException;
import java.util.List;
import java.util.Map;

/**
 * A file as a machine carries it out: cue after cue, moving between them.
 *
 * @param name    on the card
 * @param bytes   how long the file is
 * @param cues    in their order, the last of them the end
 * @param offsets in the file at which the line of each cue begins
 * @param hints   what its comments say
 */
record Program(String name, long bytes, List<Cue> cues, long[] offsets, Map<String, String> hints) {

    static Program of(String name, byte[] file, Printer printer) throws IOException {
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
        return new Program(name, file.length, replay.cues(), offsets, replay.hints());
    }

    int layers() {
        return (int) cues.stream().filter(cue -> cue.kind() == Cue.Kind.LAYER).count();
    }

    double seconds() {
        return cues.getLast().atS();
    }

    /** How many layers are done, so many seconds of motion in, with the part of the one that is being laid. */
    double laid(int layer, double atS) {
        if (layer == 0) {
            return 0;
        }
        double[] starts = cues.stream().filter(cue -> cue.kind() == Cue.Kind.LAYER).mapToDouble(Cue::atS).toArray();
        double from = starts[layer - 1], to = layer < starts.length ? starts[layer] : seconds();
        return layer - 1 + (to > from ? Math.clamp((atS - from) / (to - from), 0, 1) : 1);
    }

    /** How many bytes of the file are done, so many seconds of motion in, on the way to a cue. */
    long byteAt(int cue, double atS) {
        return cue == 0 ? offsets[0] : Math.round(offsets[cue - 1] + part(cue, atS) * (offsets[cue] - offsets[cue - 1]));
    }

    /** Likewise, how much filament is pushed forward. */
    double filamentMm(int cue, double atS) {
        double to = cues.get(cue).filamentMm();
        return cue == 0 ? to : cues.get(cue - 1).filamentMm() + part(cue, atS) * (to - cues.get(cue - 1).filamentMm());
    }

    private double part(int cue, double atS) {
        double from = cues.get(cue - 1).atS(), to = cues.get(cue).atS();
        return to > from ? Math.clamp((atS - from) / (to - from), 0, 1) : 1;
    }
}
