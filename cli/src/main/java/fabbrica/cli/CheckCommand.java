package fabbrica.cli;

import fabbrica.core.bed.BedFit;
import fabbrica.core.bed.Footprint;
import fabbrica.core.inspect.Bodies;
import fabbrica.core.inspect.Finding;
import fabbrica.core.inspect.Inspection;
import fabbrica.core.inspect.Overhang;
import fabbrica.core.inspect.Poses;
import fabbrica.core.inspect.Poses.Pose;
import fabbrica.core.inspect.PrintLimits;
import fabbrica.core.inspect.Severity;
import fabbrica.core.inspect.Soundness;
import fabbrica.core.judge.Verdict;
import fabbrica.core.mesh.io.ModelFiles;
import fabbrica.core.mesh.io.ModelReading;
import fabbrica.core.mesh.io.ModelReading.ReadModel;
import fabbrica.core.mesh.io.ModelReading.UnreadableModel;
import fabbrica.core.mesh.io.ModelSource;
import fabbrica.core.mesh.model.Bounds;
import fabbrica.core.mesh.model.Mesh;
import fabbrica.core.recipe.BuiltIn;
import fabbrica.core.recipe.Printer;
import fabbrica.core.recipe.Recipe;
import fabbrica.core.recipe.StartingPoint;
import fabbrica.core.units.LengthUnit;
import fabbrica.core.units.Spoken;
import java.io.IOException;
import java.io.PrintWriter;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.concurrent.CompletableFuture;
import org.apache.commons.cli.ParseException;

/** {@code check FILE…}: what was measured, what was found, and which built-in printers the part fits. */
record CheckCommand(PrintWriter out, PrintWriter err) implements Fabbrica.Command {

    private static final int ANGLE_STEP_DEG = 10;

    @Override
    public int run(Arguments arguments) throws ParseException {
        List<Report> reports = new ArrayList<>();
        for (Path file : arguments.files()) {
            try {
                for (ModelSource source : ModelFile.sources(file, arguments.limitBytes())) {
                    reports.add(report(source, arguments));
                }
            } catch (IOException e) {
                reports.add(Report.unreadable(file.toString(), String.valueOf(e.getMessage())));
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
        Mesh asDrawn = model.mesh().scaled(unit.millimetres() * arguments.scale());
        if (arguments.soundnessOnly()) {
            return sound(source, model, unit, Soundness.of(asDrawn), asDrawn, sha256);
        }
        CompletableFuture<List<Pose>> posing = CompletableFuture.supplyAsync(() -> Poses.of(asDrawn));
        Mesh mesh = arguments.orientBest() ? asDrawn.turned(posing.join().getFirst().rotation()) : asDrawn;
        CompletableFuture<Map<Printer, BedFit>> fitting =
                CompletableFuture.supplyAsync(() -> fits(Footprint.of(mesh)));
        Inspection inspection = Inspection.of(mesh);
        Map<Printer, BedFit> fits = fitting.join();
        Verdict verdict = Verdict.of(inspection, arguments.limits(), fits.values());
        Map<String, Object> json = Json.object("file", file(source, model, sha256),
                "unit", Json.object("assumed", unit.symbol(),
                        "declared", model.declaredUnit().map(LengthUnit::symbol).orElse(null),
                        "suspect", inspection.suspectedUnit().map(LengthUnit::symbol).orElse(null)),
                "mesh", mesh(inspection), "shape", shape(inspection, arguments.limits()),
                "orientation", posing.join().stream().map(CheckCommand::pose).toList(),
                "findings", verdict.findings().stream().map(CheckCommand::finding).toList(),
                "fit", fits.entrySet().stream().map(fit -> fit(fit.getKey(), fit.getValue())).toList());
        return new Report(source.name(), verdict.has(Severity.BLOCK) ? Fabbrica.BLOCKED : Fabbrica.FINE, json,
                text(source, inspection, verdict, fits));
    }

    /** Edges, bodies and crossings only. */
    private static Report sound(ModelSource source, ReadModel model, LengthUnit unit, Soundness soundness, Mesh mesh,
                                CompletableFuture<String> sha256) {
        Map<String, Object> counts = Json.object("triangles", mesh.triangleCount(), "vertices", mesh.vertexCount(),
                "bodies", soundness.bodies().size());
        counts.putAll(edges(soundness));
        return new Report(source.name(), soundness.openEdges() > 0 ? Fabbrica.BLOCKED : Fabbrica.FINE,
                Json.object("file", file(source, model, sha256), "unit", Json.object("assumed", unit.symbol()),
                        "mesh", counts),
                "%s: %s, %s".formatted(source.name(), Spoken.count(mesh.triangleCount(), "triangle"),
                        soundness.watertight() ? "watertight" : "not watertight"));
    }

    private static Map<String, Object> file(ModelSource source, ReadModel model, CompletableFuture<String> sha256) {
        return Json.object("name", source.name(), "format", model.format().code(), "bytes", source.length(), "sha256",
                sha256.join());
    }

    private static Map<Printer, BedFit> fits(Footprint footprint) {
        Map<Printer, BedFit> fits = new LinkedHashMap<>();
        for (Printer printer : BuiltIn.printers()) {
            Recipe recipe = StartingPoint.DAILY_BREAD.recipe(printer.nozzle(), printer.kinematics());
            fits.put(printer, BedFit.of(footprint, printer.freeBed(), recipe.allowance()));
        }
        return fits;
    }

    private static Map<String, Object> mesh(Inspection inspection) {
        Bounds bounds = inspection.bounds();
        Map<String, Object> mesh = Json.object("triangles", inspection.triangles(), "vertices", inspection.vertices(),
                "bodies", inspection.soundness().bodies().size(),
                "size_mm", List.of(bounds.sizeX(), bounds.sizeY(), bounds.sizeZ()),
                "volume_mm3", inspection.measures().volumeMm3(), "area_mm2", inspection.measures().areaMm2());
        mesh.putAll(edges(inspection.soundness()));
        mesh.put("union_volume_mm3", inspection.columns().solidMm3());
        return mesh;
    }

    private static Map<String, Object> edges(Soundness soundness) {
        return Json.object("watertight", soundness.watertight(), "open_edges", soundness.openEdges(),
                "nonmanifold_edges", soundness.nonManifoldEdges(),
                "degenerate_triangles", soundness.degenerateTriangles(),
                "duplicate_triangles", soundness.duplicateTriangles(),
                "inconsistent_edges", soundness.inconsistentEdges(),
                "intersecting_pairs", soundness.intersectingPairs(),
                "voids", soundness.count(Bodies.Kind.VOID), "holes", soundness.holes().size());
    }

    private static Map<String, Object> shape(Inspection inspection, PrintLimits limits) {
        double[] byDegree = inspection.overhang().areaByDegree();
        List<Object> byAngle = new ArrayList<>();
        for (int from = 0; from < byDegree.length; from += ANGLE_STEP_DEG) {
            byAngle.add(Json.object("from_deg", from, "to_deg", from + ANGLE_STEP_DEG, "area_mm2",
                    Arrays.stream(byDegree, from, from + ANGLE_STEP_DEG).sum()));
        }
        return Json.object("overhang_area_mm2", inspection.overhang().areaSteeperThan(Overhang.STEEP_DEG),
                "overhang_by_angle", byAngle, "bed_contact_mm2", inspection.stand().contactMm2(),
                "thinnest_wall_mm", inspection.thickness().thinnestWallMm(),
                "narrowest_gap_mm", inspection.thickness().narrowestGapMm(),
                "height_mm", inspection.stand().heightMm(), "stable", inspection.stand().stable(),
                "support_volume_mm3", inspection.columns().supportMm3(),
                "tipping_deg", inspection.stand().tippingDeg(), "islands", inspection.islands().size(),
                "smallest_scale", limits.smallestScale(inspection.thickness()));
    }

    private static Map<String, Object> pose(Pose pose) {
        double[] m = pose.rotation().matrix();
        return Json.object("rotation", List.of(List.of(m[0], m[1], m[2]), List.of(m[3], m[4], m[5]),
                        List.of(m[6], m[7], m[8])), "score", pose.score(), "overhang_area_mm2", pose.overhangMm2(),
                "bed_contact_mm2", pose.contactMm2(), "height_mm", pose.heightMm(),
                "support_volume_mm3", pose.supportMm3(), "stable", pose.stable());
    }

    private static Map<String, Object> finding(Finding finding) {
        return Json.object("code", finding.code().code(), "severity", finding.severity().code(),
                "count", finding.count(), "message", finding.message(), "advice", finding.advice(),
                "places", finding.places().stream().map(place -> Json.object("x", place.x(), "y", place.y(), "z",
                        place.z(), "label", place.label())).toList());
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
