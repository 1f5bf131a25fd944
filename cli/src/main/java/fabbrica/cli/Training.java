package fabbrica.cli;

import fabbrica.core.mesh.io.stl.BinaryStlWriter;
import fabbrica.core.mesh.model.LevelSet;
import fabbrica.core.mesh.model.Mesh;
import fabbrica.core.mesh.model.Shapes;
import java.io.IOException;
import java.io.OutputStream;
import java.io.PrintWriter;
import java.nio.file.Files;
import java.nio.file.Path;

/** Runs the commands on made-up models, one smooth and one full of narrow places, so that the JVM can record what to load and compile early. */
final class Training {

    private Training() {
    }

    public static void main(String[] arguments) throws IOException {
        Path model = Files.createTempFile("training", ".stl");
        PrintWriter nowhere = new PrintWriter(PrintWriter.nullWriter());
        try {
            for (Mesh mesh : new Mesh[] {Shapes.sphere(40, 800, 401), LevelSet.gyroid(40, 58)}) {
                try (OutputStream out = Files.newOutputStream(model)) {
                    BinaryStlWriter.write(mesh, "training", out);
                }
                Fabbrica.run(new String[] {"check", model.toString(), "--json"}, nowhere, nowhere);
                Fabbrica.run(new String[] {"estimate", model.toString(), "--printer", "standard", "--json"}, nowhere,
                        nowhere);
            }
        } finally {
            Files.delete(model);
        }
    }
}
