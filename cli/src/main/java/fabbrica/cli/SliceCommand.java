package fabbrica.cli;

import fabbrica.core.estimate.Estimate;
import fabbrica.core.gcode.GcodeFile;
import fabbrica.core.mesh.model.Mesh;
import fabbrica.core.printing.PrintShop;
import fabbrica.core.units.OutOfRange;
import fabbrica.core.units.Progress;
import fabbrica.core.units.Spoken;
import java.io.IOException;
import java.io.PrintWriter;
import java.nio.file.Path;
import java.util.List;
import org.apache.commons.cli.ParseException;

/** {@code slice IN -o OUT.gcode --printer ID}: the file for one built-in printer. */
record SliceCommand(PrintWriter out, PrintWriter err) implements Fabbrica.Command {

    @Override
    public int run(Arguments arguments) throws IOException, ParseException {
        PrintArguments print = PrintArguments.of(arguments);
        Path in = PrintArguments.onlyFile(arguments);
        Path to = Path.of(arguments.word("o").orElseThrow(() -> new ParseException("Name the file to write with -o.")));
        Mesh mesh = PrintArguments.model(in, arguments);
        PrintArguments.Laid laid = print.lay(mesh, arguments);
        List<String> reasons = PrintArguments.against(print.printer(), laid.plate(), print.material(), laid.fit());
        if (!reasons.isEmpty()) {
            throw new OutOfRange(String.join(" ", reasons));
        }
        PrintShop shop = PrintArguments.shop(mesh);
        Estimate estimate = shop.estimate(laid.plate(), print.printer(), print.material(), Progress.IGNORED);
        List<String> header = List.of(in.getFileName().toString(), "printer: " + print.printer().name(),
                "estimate: %s, %s".formatted(Spoken.duration(estimate.totalSeconds()), Spoken.grams(estimate.grams())));
        GcodeFile file = shop.file(laid.plate(), print.printer(), print.material(), header, Progress.IGNORED);
        ModelFile.write(to, file::write);
        if (arguments.json()) {
            Json.print(Json.object("file", to.toString(), "time_s", estimate.totalSeconds(), "filament_g",
                    estimate.grams(), "layers", estimate.layers()), out);
        } else {
            out.printf("%s: %s, %s, %d layers for %s. Try it on that machine first and watch the first layer.%n", to,
                    Spoken.duration(estimate.totalSeconds()), Spoken.grams(estimate.grams()), estimate.layers(),
                    print.printer().name());
        }
        return Fabbrica.FINE;
    }
}
