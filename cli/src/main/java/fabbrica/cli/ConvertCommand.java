package fabbrica.cli;

import fabbrica.core.inspect.Poses;
import fabbrica.core.mesh.io.ModelReading.ReadModel;
import fabbrica.core.mesh.model.Bounds;
import fabbrica.core.mesh.model.Mesh;
import fabbrica.core.units.Spoken;
import java.io.IOException;
import java.io.PrintWriter;
import java.nio.file.Path;
import java.util.List;
import org.apache.commons.cli.ParseException;

/** {@code convert IN OUT}: the same model in another format, in millimetres, scaled and turned when asked for. */
record ConvertCommand(PrintWriter out, PrintWriter err) implements Fabbrica.Command {

    @Override
    public int run(Arguments arguments) throws IOException, ParseException {
        List<Path> paths = arguments.inAndOut();
        ReadModel model = ModelFile.readOne(paths.getFirst(), arguments.limitBytes());
        Mesh mesh = model.mesh().scaled(arguments.unit(model.declaredUnit()).millimetres() * arguments.scale());
        if (arguments.orientBest()) {
            mesh = mesh.turned(Poses.of(mesh).getFirst().rotation());
        }
        ModelFile.write(mesh, paths.get(1));
        Bounds bounds = mesh.bounds();
        if (arguments.json()) {
            Json.print(Json.object("file", paths.get(1).getFileName().toString(), "triangles", mesh.triangleCount(),
                    "size_mm", List.of(bounds.sizeX(), bounds.sizeY(), bounds.sizeZ())), out);
        } else {
            out.printf("%s: %s, %s%n", paths.get(1).getFileName(), Spoken.count(mesh.triangleCount(), "triangle"),
                    Spoken.size(bounds.sizeX(), bounds.sizeY(), bounds.sizeZ()));
        }
        return Fabbrica.FINE;
    }
}
