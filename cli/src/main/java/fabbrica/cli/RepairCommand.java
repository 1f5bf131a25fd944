package fabbrica.cli;

import fabbrica.core.inspect.Soundness;
import fabbrica.core.mesh.io.ModelReading.ReadModel;
import fabbrica.core.mesh.model.Mesh;
import fabbrica.core.mesh.repair.Repair;
import java.io.IOException;
import java.io.PrintWriter;
import java.nio.file.Path;
import java.util.List;
import java.util.Map;
import org.apache.commons.cli.ParseException;

/** {@code repair IN OUT}: mends what can be mended safely, writes the result in millimetres and says what is left. */
record RepairCommand(PrintWriter out, PrintWriter err) implements Fabbrica.Command {

    @Override
    public int run(Arguments arguments) throws IOException, ParseException {
        List<Path> paths = arguments.inAndOut();
        ReadModel model = ModelFile.readOne(paths.getFirst(), arguments.limitBytes());
        Mesh mesh = model.mesh().scaled(arguments.unit(model.declaredUnit()).millimetres() * arguments.scale());
        Repair repair = Repair.of(mesh);
        Soundness after = Soundness.of(repair.mesh());
        ModelFile.write(repair.mesh(), paths.get(1));
        if (arguments.json()) {
            Json.print(Json.object("changes", repair.changes(), "left", repair.left(), "moved_mm", repair.movedMm(),
                    "before", counts(Soundness.of(mesh), mesh), "after", counts(after, repair.mesh())), out);
        } else {
            (repair.changes().isEmpty() ? List.of("Nothing to mend.") : repair.changes()).forEach(out::println);
            repair.left().forEach(sentence -> out.println("Left: " + sentence));
        }
        return after.openEdges() > 0 ? Fabbrica.BLOCKED : Fabbrica.FINE;
    }

    private static Map<String, Object> counts(Soundness soundness, Mesh mesh) {
        return Json.object("triangles", mesh.triangleCount(), "watertight", soundness.watertight(),
                "open_edges", soundness.openEdges(), "nonmanifold_edges", soundness.nonManifoldEdges(),
                "inconsistent_edges", soundness.inconsistentEdges(),
                "duplicate_triangles", soundness.duplicateTriangles(),
                "degenerate_triangles", soundness.degenerateTriangles());
    }
}
