package fabbrica.printsim;

import fabbrica.core.estimate.Estimate;
import fabbrica.core.gcode.GcodeFile;
import fabbrica.core.mesh.model.Mesh;
import fabbrica.core.motion.Motion;
import fabbrica.core.recipe.BuiltIn;
import fabbrica.core.recipe.Printer;
import fabbrica.core.recipe.Recipe;
import fabbrica.core.recipe.StartingPoint;
import fabbrica.core.toolpath.Toolpath;
import fabbrica.core.units.Progress;
import java.io.ByteArrayOutputStream;
import java.io.IOException;
import java.io.UncheckedIOException;
import java.util.List;

/** Files for a built-in printer, with what the planner says of them. */
record Files(Program program, Estimate estimate, byte[] bytes) {

    static final Printer STANDARD = BuiltIn.printer("standard").orElseThrow();

    static Files of(Mesh mesh) {
        Recipe recipe = StartingPoint.DAILY_BREAD.recipe(STANDARD.nozzle(), STANDARD.kinematics());
        Toolpath toolpath = Toolpath.of(mesh, recipe, Progress.IGNORED);
        Motion motion = Motion.of(toolpath, recipe, STANDARD, Progress.IGNORED);
        ByteArrayOutputStream out = new ByteArrayOutputStream();
        try {
            new GcodeFile(toolpath, motion, recipe, STANDARD, BuiltIn.PLA, 60, 60, List.of("printer: " + STANDARD.name())).write(out);
            return new Files(Program.of("R1.GCO", out.toByteArray(), STANDARD), Estimate.of(toolpath, motion, recipe, STANDARD, BuiltIn.PLA), out.toByteArray());
        } catch (IOException e) {
            throw new UncheckedIOException(e);
        }
    }
}
