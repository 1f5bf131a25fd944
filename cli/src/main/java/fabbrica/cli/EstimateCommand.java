package fabbrica.cli;

import fabbrica.core.bed.BedFit;
import fabbrica.core.bed.Footprint;
import fabbrica.core.estimate.Estimate;
import fabbrica.core.estimate.Suitability;
import fabbrica.core.mesh.io.ModelReading.ReadModel;
import fabbrica.core.mesh.model.Mesh;
import fabbrica.core.recipe.Adhesion;
import fabbrica.core.recipe.BuiltIn;
import fabbrica.core.recipe.InfillPattern;
import fabbrica.core.recipe.Kinematics;
import fabbrica.core.recipe.Material;
import fabbrica.core.recipe.Nozzle;
import fabbrica.core.recipe.Printer;
import fabbrica.core.recipe.Recipe;
import fabbrica.core.recipe.StartingPoint;
import fabbrica.core.toolpath.Progress;
import fabbrica.core.units.Money;
import fabbrica.core.units.OutOfRange;
import fabbrica.core.units.Spoken;
import java.io.IOException;
import java.io.PrintWriter;
import java.nio.file.Path;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import org.apache.commons.cli.ParseException;

/** {@code estimate FILE --printer ID}: time, filament and cost on a built-in printer. */
record EstimateCommand(PrintWriter out, PrintWriter err) implements Fabbrica.Command {

    @Override
    public int run(Arguments arguments) throws IOException, ParseException {
        String materialId = arguments.word("material").orElse(BuiltIn.PLA.id());
        Material material = BuiltIn.material(materialId).orElseThrow(() -> new OutOfRange(unknown("material",
                materialId, BuiltIn.materials().stream().map(Material::id).toList())));
        Printer printer = printer(arguments);
        Recipe recipe = recipe(arguments, printer);
        if (arguments.files().size() > 1) {
            throw new ParseException("Estimate takes one file at a time.");
        }
        Path file = arguments.files().getFirst();
        ReadModel model = ModelFile.readOne(file, arguments.limitBytes());
        double factor = arguments.unit(model.declaredUnit()).millimetres() * arguments.scale();
        print(file.getFileName().toString(), model.mesh().scaled(factor), printer, material, recipe, arguments.json());
        return Fabbrica.FINE;
    }

    private void print(String name, Mesh mesh, Printer printer, Material material, Recipe recipe, boolean json) {
        BedFit fit = BedFit.of(Footprint.of(mesh), printer.bed(), recipe.adhesion().allowance(recipe.lineWidthMm()));
        List<String> warnings = Suitability.against(printer, recipe, material, fit);
        Estimate estimate = Estimate.of(mesh.turned(fit.rotationDeg()), recipe, printer, material, Progress.IGNORED);
        Money cost = BuiltIn.spool(material).price(estimate.grams());
        if (json) {
            Map<String, Object> phases = new LinkedHashMap<>();
            estimate.secondsByPhase().forEach((phase, seconds) -> phases.put(phase.code(), seconds));
            Json.print(Json.object(
                    "time_s", Json.object("total", estimate.totalSeconds(), "prepare", estimate.prepareSeconds(),
                            "print", estimate.printSeconds(), "by_phase", phases),
                    "filament", Json.object("mm", estimate.filamentMm(), "mm3", estimate.filamentMm3(),
                            "g", estimate.grams()),
                    "cost", Json.object("amount", cost.amount(), "currency", cost.currency().getCurrencyCode()),
                    "layers", estimate.layers(), "recipe", recipe(recipe), "warnings", warnings), out);
        } else {
            out.printf("%s on %s: %s (%s of it before the first line), %s of filament, %s, %s, %d layers%n",
                    name, printer.name(), Spoken.duration(estimate.totalSeconds()),
                    Spoken.duration(estimate.prepareSeconds()), Spoken.metres(estimate.filamentMm()),
                    Spoken.grams(estimate.grams()), cost, estimate.layers());
            estimate.secondsByPhase().forEach((phase, seconds) ->
                    out.printf("  %-26s %s%n", phase.label(), Spoken.duration(seconds)));
            warnings.forEach(warning -> out.println("  care: " + warning));
        }
    }

    private static Printer printer(Arguments arguments) {
        List<String> ids = BuiltIn.printers().stream().map(Printer::id).toList();
        String id = arguments.word("printer").orElseThrow(() -> new OutOfRange(
                "Name a printer with --printer: %s.".formatted(String.join(", ", ids))));
        Printer printer = BuiltIn.printer(id).orElseThrow(() -> new OutOfRange(unknown("printer", id, ids)));
        Kinematics kinematics = printer.kinematics();
        Nozzle nozzle = printer.nozzle();
        return printer
                .with(kinematics.withAcceleration(arguments.number("acceleration", kinematics.accelerationMmS2()))
                        .withMaxFlow(arguments.number("max-flow", kinematics.maxFlowMm3S())))
                .with(new Nozzle(arguments.number("nozzle", nozzle.boreMm()), nozzle.hardened()));
    }

    /** The everyday recipe of this nozzle, with every value that was given in its place. */
    private static Recipe recipe(Arguments arguments, Printer printer) {
        Recipe base = StartingPoint.DAILY_BREAD.recipe(printer.nozzle(), printer.kinematics());
        String pattern = arguments.word("pattern").orElse(base.pattern().code());
        String adhesion = arguments.word("adhesion").orElse(base.adhesion().code());
        double layer = arguments.number("layer-height", base.layerHeightMm());
        return new Recipe(layer,
                arguments.number("first-layer-height", Math.max(layer, base.firstLayerHeightMm())),
                arguments.number("line-width", base.lineWidthMm()), arguments.count("walls", base.walls()),
                arguments.count("top", base.topLayers()), arguments.count("bottom", base.bottomLayers()),
                arguments.number("infill", base.infill() * 100) / 100,
                InfillPattern.ofCode(pattern).orElseThrow(() -> new OutOfRange(
                        unknown("pattern", pattern, List.of("lines", "grid", "triangles")))),
                Adhesion.ofCode(adhesion).orElseThrow(() -> new OutOfRange(
                        unknown("adhesion", adhesion, List.of("none", "skirt", "brim", "raft")))),
                arguments.number("speed", base.speedMmS()));
    }

    private static String unknown(String what, String given, List<String> known) {
        return "There is no %s “%s”; choose one of %s.".formatted(what, given,
                String.join(", ", known));
    }

    private static Map<String, Object> recipe(Recipe recipe) {
        return Json.object("layer_height_mm", recipe.layerHeightMm(),
                "first_layer_height_mm", recipe.firstLayerHeightMm(), "line_width_mm", recipe.lineWidthMm(),
                "walls", recipe.walls(), "top", recipe.topLayers(), "bottom", recipe.bottomLayers(),
                "infill", recipe.infill(), "pattern", recipe.pattern().code(), "adhesion", recipe.adhesion().code(),
                "speed_mm_s", recipe.speedMmS());
    }
}
