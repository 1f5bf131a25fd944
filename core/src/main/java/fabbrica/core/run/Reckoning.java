package fabbrica.core.run;

import fabbrica.core.gcode.Cue;
import fabbrica.core.gcode.FileCourse;
import fabbrica.core.recipe.Preparation;
import fabbrica.core.run.MachineEvent.Doing;
import fabbrica.core.run.MachineEvent.Reported;
import fabbrica.core.run.MachineEvent.Warmth;
import java.util.List;

/** How a machine that tells nothing should stand, by what its file takes: begun cold, with nothing in its way; its bed to a tenth of a degree. */
public record Reckoning(FileCourse course, Preparation preparation) {

    /** @param seconds since it began with the file */
    public Reported after(String file, double seconds) {
        List<Cue> cues = course.cues();
        double passed = 0, moved = 0, bed = Preparation.ROOM_C, nozzle = Preparation.ROOM_C, bedTarget = 0, nozzleTarget = 0;
        long from = 0;
        for (int i = 0; i < cues.size(); i++) {
            Cue cue = cues.get(i);
            double moves = cue.atS() - moved;
            long to = course.offsets()[i];
            if (passed + moves > seconds) {
                return at(file, from + Math.round((to - from) * (seconds - passed) / moves), new Warmth(nozzle, nozzleTarget, bed, bedTarget));
            }
            passed += moves;
            double takes = cue.takesS(bed, nozzle, preparation), waited = Math.min(takes, seconds - passed);
            switch (cue.kind()) {
                case AWAIT_BED -> {
                    bedTarget = cue.value();
                    bed = waited < takes ? bed + waited * preparation.bedCPerS() : Math.max(bed, bedTarget);
                }
                case AWAIT_NOZZLE -> {
                    nozzleTarget = cue.value();
                    nozzle = waited < takes ? nozzle + waited * preparation.nozzleCPerS() : Math.max(nozzle, nozzleTarget);
                }
                default -> { }
            }
            if (waited < takes) {
                return at(file, to, new Warmth(nozzle, nozzleTarget, bed, bedTarget));
            }
            passed += takes;
            moved = cue.atS();
            from = to;
        }
        double tenths = Math.round(10 * Cooling.after(bed, seconds - passed).bedC());
        return new Reported(new Warmth(0, 0, tenths / 10, 0), Doing.NOTHING, "", 0, 0, 0, 0, null, true);
    }

    private Reported at(String file, long byteAt, Warmth warmth) {
        return new Reported(warmth, Doing.PRINTING, file, byteAt, course.bytes(), course.layerAt(byteAt), course.filamentMmAt(byteAt), null, true);
    }
}
