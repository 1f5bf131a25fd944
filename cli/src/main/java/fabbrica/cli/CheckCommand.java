package fabbrica.cli;

import fabbrica.core.bed.Allowance;
import fabbrica.core.bed.BedFit;
import fabbrica.core.bed.Footprint;
import fabbrica.core.estimate.Verdict;
import fabbrica.core.inspect.Finding;
import fabbrica.core.inspect.Inspection;
import fabbrica.core.inspect.Severity;
import fabbrica.core.mesh.io.ModelFiles;
import fabbrica.core.mesh.io.ModelReading;
import fabbrica.core.mesh.io.ModelReading.ReadModel;
import fabbrica.core.mesh.io.ModelReading.UnreadableModel;
import fabbrica.core.mesh.io.ModelSource;
import fabbrica.core.mesh.model.Bounds;
import fabbrica.core.recipe.BuiltIn;
import fabbrica.core.recipe.Printer;
import fabbrica.core.units.LengthUnit;
import fabbrica.core.units.Spoken;
import java.io.IOException;
import java.io.PrintWriter;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.concurrent.CompletableFuture;
import org.apache.commons.cli.ParseException;

/** {@code check FILE…}: what was measured, what was found, and which built-in printers the part fits. */
record CheckCommand(PrintWriter out, PrintWriter err) implements Fabbrica.Command {

    @Override
    public int run(Arguments arguments) throws ParseException {
        List<Report> reports = new ArrayList<>();
        for (Path file : arguments.files()) {
            try {
                for (ModelSource source : ModelFile.sources(file, arguments.limitBytes())) {
                    reports.add(report(source, arguments));
                }
            } catch (IOException e) {
                reports.add(Report.unreadable(file.toString(), e.getMessage()));
            }
        }
        reports.stream().filter(report -> report.exitCode == Fabbrica.WRONG)
                .forEach(report -> err.println(report.text));
        if (arguments.json()) {
            Json.print(reports.size() == 1 ? reports.getFirst().json : reports.stream().map(Report::named).toList(),
                    out);
        } else {
            reports.stream().filter(report -> report.exitCode != Fabbrica.WRONG)
                    .forEach(report -> out.println(report.text));
        }
        return reports.stream().mapToInt(Report::exitCode).max().orElseThrow();
    }

    private record Report(String name, int exitCode, Map<String, Object> json, String text) {

        static Report unreadable(String name, String message) {
            return new Report(name, Fabbrica.WRONG, Json.error("unreadable", message), name + ": " + message);
        }

        /** Among several reports one without a mesh still says which file it is about. */
        Map<String, Object> named() {
            if (exitCode != Fabbrica.WRONG) {
                return json;
            }
            Map<String, Object> named = Json.object("file", Json.object("name", name));
            named.putAll(json);
            return named;
        }
    }

    private static Report report(ModelSource source, Arguments arguments) {
        CompletableFuture<String> sha256 = CompletableFuture.supplyAsync(() -> ModelFile.sha256(source));
        ModelReading reading = ModelFiles.read(source, arguments.limitBytes());
        return switch (reading) {
            case UnreadableModel(String reason) -> Report.unreadable(source.name(), reason);
            case ReadModel model -> measured(source, model, arguments, sha256);
        };
    }

    private static Report measured(ModelSource source, ReadModel model, Arguments arguments,
                                   CompletableFuture<String> sha256) {
        LengthUnit unit = arguments.unit(model.declaredUnit());
        double factor = unit.millimetres() * arguments.scale();
        CompletableFuture<Map<Printer, BedFit>> fitting =
                CompletableFuture.supplyAsync(() -> fits(Footprint.of(model.mesh()).scaled(factor)));
        Inspection inspection = Inspection.of(model.mesh()).scaled(factor);
        Map<Printer, BedFit> fits = fitting.join();
        Verdict verdict = Verdict.of(inspection, fits.values());
        Map<String, Object> json = Json.object(
                "file", Json.object("name", source.name(), "format", model.format().code(), "bytes", source.length(),
                        "sha256", sha256.join()),
                "unit", Json.object("assumed", unit.symbol(),
                        "declared", model.declaredUnit().map(LengthUnit::symbol).orElse(null),
                        "suspect", inspection.suspectedUnit().map(LengthUnit::symbol).orElse(null)),
                "mesh", mesh(inspection),
                "findings", verdict.findings().stream().map(CheckCommand::finding).toList(),
                "fit", fits.entrySet().stream().map(fit -> fit(fit.getKey(), fit.getValue())).toList());
        return new Report(source.name(), verdict.has(Severity.BLOCK) ? Fabbrica.BLOCKED : Fabbrica.FINE, json,
                text(source, inspection, verdict, fits));
    }

    private static Map<Printer, BedFit> fits(Footprint footprint) {
        Map<Printer, BedFit> fits = new LinkedHashMap<>();
        for (Printer printer : BuiltIn.printers()) {
            fits.put(printer, BedFit.of(footprint, printer.bed(), Allowance.NONE));
        }
        return fits;
    }

    private static Map<String, Object> mesh(Inspection inspection) {
        Bounds bounds = inspection.bounds();
        return Json.object("triangles", inspection.triangles(), "vertices", inspection.vertices(),
                "bodies", inspection.soundness().bodies(),
                "size_mm", List.of(bounds.sizeX(), bounds.sizeY(), bounds.sizeZ()),
                "volume_mm3", inspection.measures().volumeMm3(), "area_mm2", inspection.measures().areaMm2(),
                "watertight", inspection.soundness().watertight(),
                "open_edges", inspection.soundness().openEdges(),
                "nonmanifold_edges", inspection.soundness().nonManifoldEdges(),
                "degenerate_triangles", inspection.soundness().degenerateTriangles(),
                "duplicate_triangles", inspection.soundness().duplicateTriangles());
    }

    private static Map<String, Object> finding(Finding finding) {
        return Json.object("code", finding.code().code(), "severity", finding.severity().code(),
                "count", finding.count(), "message", finding.message(), "advice", finding.advice());
    }

    private static Map<String, Object> fit(Printer printer, BedFit fit) {
        return Json.object("printer", printer.id(), "fits", fit.fits(), "rotation_deg", fit.rotationDeg(),
                "largest_scale", fit.largestScale(), "why", fit.why());
    }

    private static String text(ModelSource source, Inspection inspection, Verdict verdict,
                               Map<Printer, BedFit> fits) {
        Bounds bounds = inspection.bounds();
        StringBuilder text = new StringBuilder("%s: %s, %s, %s\n".formatted(source.name(),
                Spoken.size(bounds.sizeX(), bounds.sizeY(), bounds.sizeZ()),
                Spoken.count(inspection.triangles(), "triangle"),
                inspection.soundness().watertight() ? "watertight" : "not watertight"));
        for (Finding finding : verdict.findings()) {
            text.append("  %s %s: %s %s\n".formatted(finding.severity().code(), finding.code().code(),
                    finding.message(), finding.advice()));
        }
        fits.forEach((printer, fit) -> text.append("  %s: %s%s\n".formatted(printer.name(), fit.why(),
                fit.fits() ? "" : " Largest scale " + Spoken.number(fit.largestScale() * 100, 1) + " %.")));
        return text.toString().stripTrailing();
    }
}
