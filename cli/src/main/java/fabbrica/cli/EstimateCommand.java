package fabbrica.cli;

import fabbrica.core.estimate.Estimate;
import fabbrica.core.estimate.Expected;
import fabbrica.core.gcode.GcodeFile;
import fabbrica.core.gcode.Replay;
import fabbrica.core.gcode.SlicedFileFindings;
import fabbrica.core.inspect.Finding;
import fabbrica.core.mesh.model.Mesh;
import fabbrica.core.recipe.BuiltIn;
import fabbrica.core.recipe.Material;
import fabbrica.core.recipe.Printer;
import fabbrica.core.units.Money;
import fabbrica.core.units.Progress;
import fabbrica.core.units.Spoken;
import java.io.IOException;
import java.io.InputStream;
import java.io.PrintWriter;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import org.apache.commons.cli.ParseException;

/** {@code estimate FILE --printer ID}: time, filament and cost of a model or of a sliced file on a built-in printer. */
record EstimateCommand(PrintWriter out, PrintWriter err) implements Fabbrica.Command {

    @Override
    public int run(Arguments arguments) throws IOException, ParseException {
        PrintArguments print = PrintArguments.of(arguments);
        Path file = PrintArguments.onlyFile(arguments);
        String name = file.getFileName().toString();
        if (GcodeFile.isNamedSo(name)) {
            return replay(file, print, arguments.json());
        }
        Mesh mesh = PrintArguments.model(file, arguments);
        PrintArguments.Laid laid = print.lay(mesh, arguments);
        List<String> warnings = new ArrayList<>(PrintArguments.against(print.printer(), laid.plate(), print.material(), laid.fit()));
        Estimate estimate = PrintArguments.shop(mesh).estimate(laid.plate(), print.printer(), print.material(), Progress.IGNORED);
        warnings.addAll(estimate.warnings());
        Map<String, Object> json = json(estimate, print.material(), Optional.of(print.recipeJson()), warnings);
        print(name, estimate, print.printer(), print.material(), json, warnings, arguments.json());
        return Fabbrica.FINE;
    }

    private int replay(Path file, PrintArguments print, boolean json) throws IOException {
        if (!Files.isRegularFile(file)) {
            throw new IOException("There is no file %s.".formatted(file));
        }
        Replay replay;
        try (InputStream in = Files.newInputStream(file)) {
            replay = Replay.of(in, print.printer());
        }
        List<Finding> findings = SlicedFileFindings.of(replay, print.printer(), print.material(), null);
        List<String> warnings = findings.stream().map(Finding::message).toList();
        Estimate estimate = Estimate.of(replay, print.printer(), print.material());
        Map<String, Object> object = json(estimate, print.material(), Optional.empty(), warnings);
        object.put("findings", findings.stream().map(finding -> Json.object("code", finding.code().code(),
                "severity", finding.severity().name().toLowerCase(Locale.ROOT), "message", finding.message(),
                "why", finding.why(), "advice", finding.advice())).toList());
        print(file.getFileName().toString(), estimate, print.printer(), print.material(), object, warnings, json);
        return findings.stream().anyMatch(finding -> finding.severity() == fabbrica.core.inspect.Severity.BLOCK)
                ? Fabbrica.BLOCKED : Fabbrica.FINE;
    }

    private static Map<String, Object> json(Estimate estimate, Material material, Optional<Map<String, Object>> recipe,
                                            List<String> warnings) {
        Money cost = cost(estimate, material);
        Expected expected = Expected.unlearned(estimate);
        Map<String, Object> phases = new LinkedHashMap<>();
        estimate.secondsByPhase().forEach((phase, seconds) -> phases.put(phase.code(), seconds));
        Map<String, Object> paths = new LinkedHashMap<>();
        estimate.byPath().forEach((type, share) -> paths.put(type.code(),
                Json.object("s", share.seconds(), "mm", share.lengthMm(), "g", share.grams())));
        Map<String, Object> json = Json.object(
                "time_s", Json.object("total", estimate.totalSeconds(), "prepare", estimate.prepareSeconds(),
                        "print", estimate.printSeconds(), "by_phase", phases),
                "filament", Json.object("mm", estimate.filamentMm(), "mm3", estimate.filamentMm3(),
                        "g", estimate.grams()),
                "cost", Json.object("amount", cost.amount(), "currency", cost.currency().getCurrencyCode()),
                "layers", estimate.layers());
        recipe.ifPresent(values -> json.put("recipe", values));
        json.putAll(Json.object(
                "range_s", Json.object("earliest", expected.earliestSeconds(), "latest", expected.latestSeconds()),
                "by_path", paths, "support_g", estimate.supportG(),
                "changes", estimate.changes().stream().map(change -> Json.object("planned_mm", change.plannedMm(),
                        "lands_at_mm", change.landsAtMm(), "layer", change.layer() + 1)).toList(),
                "warnings", warnings));
        return json;
    }

    private void print(String name, Estimate estimate, Printer printer, Material material, Map<String, Object> json,
                       List<String> warnings, boolean asJson) {
        if (asJson) {
            Json.print(json, out);
            return;
        }
        Expected expected = Expected.unlearned(estimate);
        out.printf("%s on %s: %s (%s of it before the first line; %s to %s), %s of filament, %s, %s, %d layers%n",
                name, printer.name(), Spoken.duration(estimate.totalSeconds()),
                Spoken.duration(estimate.prepareSeconds()), Spoken.duration(expected.earliestSeconds()),
                Spoken.duration(expected.latestSeconds()), Spoken.metres(estimate.filamentMm()),
                Spoken.grams(estimate.grams()), cost(estimate, material), estimate.layers());
        estimate.secondsByPhase().forEach((phase, seconds) ->
                out.printf("  %-26s %s%n", phase.label(), Spoken.duration(seconds)));
        estimate.changes().forEach(change -> out.printf("  change at %s mm lands at %s mm, layer %d%n",
                Spoken.number(change.plannedMm()), Spoken.number(change.landsAtMm()), change.layer() + 1));
        warnings.forEach(warning -> out.println("  care: " + warning));
    }

    private static Money cost(Estimate estimate, Material material) {
        return BuiltIn.spool(material).price(estimate.grams());
    }
}
