package fabbrica.cli;

import fabbrica.core.bed.Allowance;
import fabbrica.core.bed.Bed;
import fabbrica.core.bed.BedFit;
import fabbrica.core.bed.Clearance;
import fabbrica.core.bed.Footprint;
import fabbrica.core.bed.Nesting;
import fabbrica.core.bed.Nesting.Placement;
import fabbrica.core.mesh.io.ModelReading.ReadModel;
import fabbrica.core.mesh.model.Mesh;
import fabbrica.core.mesh.model.Shapes;
import fabbrica.core.recipe.Adhesion;
import fabbrica.core.recipe.BuiltIn;
import fabbrica.core.recipe.Cornering;
import fabbrica.core.recipe.InfillPattern;
import fabbrica.core.recipe.Kinematics;
import fabbrica.core.recipe.LineWork;
import fabbrica.core.recipe.Material;
import fabbrica.core.recipe.Nozzle;
import fabbrica.core.recipe.Pace;
import fabbrica.core.recipe.Printer;
import fabbrica.core.recipe.Recipe;
import fabbrica.core.recipe.StartingPoint;
import fabbrica.core.recipe.Supports;
import fabbrica.core.recipe.Zone;
import fabbrica.core.toolpath.Toolpath;
import fabbrica.core.units.OutOfRange;
import fabbrica.core.units.Progress;
import java.io.IOException;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import org.apache.commons.cli.ParseException;

/**
 * How something is to be printed, as the command line says it: on which built-in printer, of what, by which recipe.
 *
 * @param recipe the everyday one of the printer's nozzle, with every value that was given in its place
 */
record PrintArguments(Printer printer, Material material, Recipe recipe) {

    private static final double BETWEEN_COPIES_MM = 3;

    /**
     * A part laid out on the bed.
     *
     * @param fit     of one copy
     * @param parts   each is printed for itself, one after another; all copies in one when layer by layer
     * @param recipes of each of them, with its boxes where it lies
     * @param onBed   whether they stand in bed coordinates already
     * @param kept    places on the bed to lay nothing on
     */
    record Laid(BedFit fit, List<Mesh> parts, List<Recipe> recipes, boolean onBed, List<Bed.Zone> kept) {

        Toolpath toolpath() {
            List<Toolpath> toolpaths = new ArrayList<>();
            for (int i = 0; i < parts.size(); i++) {
                toolpaths.add(Toolpath.of(parts.get(i), recipes.get(i), kept, Progress.IGNORED));
            }
            return Toolpath.oneAfterAnother(toolpaths);
        }
    }

    static PrintArguments of(Arguments arguments) {
        String id = arguments.word("material").orElse(BuiltIn.PLA.id());
        Material material = BuiltIn.material(id).orElseThrow(() -> new OutOfRange(unknown("material", id,
                BuiltIn.materials().stream().map(Material::id).toList())));
        Printer printer = printer(arguments);
        return new PrintArguments(printer, material, recipe(arguments, printer));
    }

    /** The one model that is named, in millimetres. */
    static Mesh model(Path file, Arguments arguments) throws IOException {
        ReadModel model = ModelFile.readOne(file, arguments.limitBytes());
        return model.mesh().scaled(arguments.unit(model.declaredUnit()).millimetres() * arguments.scale());
    }

    static Path onlyFile(Arguments arguments) throws ParseException {
        if (arguments.files().size() > 1) {
            throw new ParseException("Name one file at a time.");
        }
        return arguments.files().getFirst();
    }

    /** The part turned so that it fits, in as many copies as were asked for. */
    Laid lay(Mesh mesh, Arguments arguments) {
        int copies = OutOfRange.check("--count", arguments.count("count", 1), 1, 1000);
        BedFit fit = BedFit.of(Footprint.of(mesh), printer.freeBed(), recipe.allowance());
        if (copies == 1) {
            return new Laid(fit, List.of(mesh.turned(fit.rotationDeg())),
                    List.of(recipe.placed(mesh::bounds, fit.rotationDeg())), false, List.of());
        }
        double apart = arguments.oneByOne() ? Clearance.USUAL.headRadiusMm() : BETWEEN_COPIES_MM;
        Allowance allowance = recipe.allowance();
        Nesting nesting = Nesting.of(List.of(new Nesting.Item(mesh, allowance, copies)), printer.freeBed(), apart);
        if (nesting.plates().size() != 1 || nesting.plates().getFirst().placements().size() < copies) {
            throw new OutOfRange("%d copies do not fit on one bed of %s; %d do.".formatted(copies, printer.name(),
                    Nesting.copiesThatFit(mesh, allowance, printer.freeBed(), apart)));
        }
        List<Bed.Zone> kept = printer.freeBed().keepOut();
        List<Mesh> placed = new ArrayList<>();
        List<List<Zone>> boxes = new ArrayList<>();
        double lowest = mesh.bounds().minZ();
        for (Placement place : nesting.plates().getFirst().placements()) {
            placed.add(mesh.turned(place.rotationDeg()).moved(place.dx(), place.dy(), -lowest));
            boxes.add(recipe.placed(mesh::bounds, place.rotationDeg()).lines().zones().stream()
                    .map(zone -> zone.moved(place.dx(), place.dy())).toList());
        }
        if (!arguments.oneByOne()) {
            return new Laid(fit, List.of(Shapes.together(placed.toArray(Mesh[]::new))),
                    List.of(withBoxes(boxes.stream().flatMap(List::stream).toList())), true, kept);
        }
        List<String> reasons = Clearance.USUAL.against(placed.stream().map(Mesh::bounds).toList());
        if (!reasons.isEmpty()) {
            throw new OutOfRange("They cannot be printed one after another. " + reasons.getFirst());
        }
        return new Laid(fit, placed, boxes.stream().map(this::withBoxes).toList(), true, kept);
    }

    private Recipe withBoxes(List<Zone> boxes) {
        return recipe.with(recipe.lines().withZones(boxes));
    }

    private static Printer printer(Arguments arguments) {
        List<String> ids = BuiltIn.printers().stream().map(Printer::id).toList();
        String id = arguments.word("printer").orElseThrow(() -> new OutOfRange(
                "Name a printer with --printer: %s.".formatted(String.join(", ", ids))));
        Printer printer = BuiltIn.printer(id).orElseThrow(() -> new OutOfRange(unknown("printer", id, ids)));
        Kinematics kinematics = printer.kinematics();
        Nozzle nozzle = printer.nozzle();
        String prepare = arguments.word("prepare").orElse("full");
        if (!prepare.equals("full") && !prepare.equals("fresh")) {
            throw new OutOfRange(unknown("preparation", prepare, List.of("full", "fresh")));
        }
        return printer
                .with(kinematics.withAcceleration(arguments.number("acceleration", kinematics.accelerationMmS2()))
                        .withMaxFlow(arguments.number("max-flow", kinematics.maxFlowMm3S()))
                        .with(cornering(arguments, kinematics.cornering())))
                .with(new Nozzle(arguments.number("nozzle", nozzle.boreMm()), nozzle.hardened()))
                .with(prepare.equals("fresh") ? printer.preparation().fresh() : printer.preparation());
    }

    private static Cornering cornering(Arguments arguments, Cornering usual) {
        if (arguments.word("jerk").isPresent() && arguments.word("junction-deviation").isPresent()) {
            throw new OutOfRange("Corners are limited either by --jerk or by --junction-deviation.");
        }
        if (arguments.word("jerk").isPresent()) {
            return new Cornering.Jerk(arguments.number("jerk", 0));
        }
        return arguments.word("junction-deviation").isPresent()
                ? new Cornering.Deviation(arguments.number("junction-deviation", 0)) : usual;
    }

    private static Recipe recipe(Arguments arguments, Printer printer) {
        Recipe base = StartingPoint.DAILY_BREAD.recipe(printer.nozzle(), printer.kinematics());
        double layer = arguments.number("layer-height", base.layerHeightMm());
        if (arguments.word("layer-height").isPresent()) {
            printer.nozzle().checkLayer(layer);
        }
        double speed = arguments.number("speed", base.speedMmS());
        Recipe recipe = new Recipe(layer,
                arguments.number("first-layer-height", Math.max(layer, base.firstLayerHeightMm())),
                arguments.number("line-width", base.lineWidthMm()), arguments.count("walls", base.walls()),
                arguments.count("top", base.topLayers()), arguments.count("bottom", base.bottomLayers()),
                arguments.number("infill", base.infill() * 100) / 100, pattern(arguments, base),
                adhesion(arguments, base), speed);
        Pace pace = recipe.pace();
        pace = pace.withTravel(arguments.number("travel-speed", pace.travelMmS()))
                .withOuterWall(arguments.number("outer-speed", pace.outerWallMmS()))
                .withFirstLayer(arguments.number("first-layer-speed", pace.firstLayerMmS()));
        LineWork usual = recipe.lines();
        LineWork lines = new LineWork(usual.seam(), arguments.outerFirst(), usual.spiral(), usual.thinLines(),
                arguments.number("infill-angle", usual.infillAngleDeg()), arguments.count("infill-lines", usual.infillLines()),
                arguments.number("infill-width", usual.infillWidth() * 100) / 100, usual.overlap(),
                arguments.variableLayers(), changes(arguments), arguments.number("purge-tower", usual.towerMm3()),
                arguments.words("box").stream().map(PrintArguments::box).toList());
        return recipe.with(pace).with(supports(arguments)).with(lines);
    }

    /** Six numbers, and after them what is different inside. */
    private static Zone box(String text) {
        String[] words = text.split(",");
        try {
            double[] side = Arrays.stream(words).limit(6).mapToDouble(Double::parseDouble).toArray();
            Zone box = Zone.box(side[0], side[1], side[2], side[3], side[4], side[5]);
            for (String word : Arrays.asList(words).subList(6, words.length)) {
                String value = word.substring(word.indexOf('=') + 1);
                box = switch (word.substring(0, word.length() - value.length())) {
                    case "infill=" -> box.withInfill(Double.parseDouble(value) / 100);
                    case "top=" -> box.withClosed(Integer.parseInt(value), box.bottomLayers());
                    case "bottom=" -> box.withClosed(box.topLayers(), Integer.parseInt(value));
                    case "supports=" -> box.with(Zone.Support.valueOf(value.toUpperCase(Locale.ROOT)));
                    default -> throw new IllegalArgumentException(word);
                };
            }
            return box;
        } catch (OutOfRange e) {
            throw e;
        } catch (IllegalArgumentException | IndexOutOfBoundsException e) {
            throw new OutOfRange(("--box takes X,Y,Z,X,Y,Z in mm from the part's front left lower corner, and then any of "
                    + "infill=…, top=…, bottom=…, supports=blocked or supports=enforced; “%s” was given.").formatted(text));
        }
    }

    private static InfillPattern pattern(Arguments arguments, Recipe base) {
        String code = arguments.word("pattern").orElse(base.pattern().code());
        return InfillPattern.ofCode(code).orElseThrow(() -> new OutOfRange(unknown("pattern", code,
                Arrays.stream(InfillPattern.values()).map(InfillPattern::code).toList())));
    }

    private static Adhesion adhesion(Arguments arguments, Recipe base) {
        String code = arguments.word("adhesion").orElse(base.adhesion().code());
        return Adhesion.ofCode(code).orElseThrow(() -> new OutOfRange(unknown("adhesion", code,
                Arrays.stream(Adhesion.values()).map(Adhesion::code).toList())));
    }

    private static Supports supports(Arguments arguments) {
        String code = arguments.word("supports").orElse("none");
        Supports.Where where = Supports.Where.ofCode(code).orElseThrow(() -> new OutOfRange(unknown("kind of support",
                code, Arrays.stream(Supports.Where.values()).map(Supports.Where::code).toList())));
        return Supports.of(where).withAngle(arguments.number("support-angle", Supports.NONE.angleDeg()));
    }

    private static List<Double> changes(Arguments arguments) {
        try {
            return arguments.word("change-at").map(heights -> Arrays.stream(heights.split(",")).map(Double::valueOf)
                    .toList()).orElse(List.of());
        } catch (NumberFormatException e) {
            throw new OutOfRange("--change-at takes heights in mm with commas between; “%s” was given.".formatted(
                    arguments.word("change-at").orElseThrow()));
        }
    }

    static String unknown(String what, String given, List<String> known) {
        return "There is no %s “%s”; choose one of %s.".formatted(what, given, String.join(", ", known));
    }

    Map<String, Object> recipeJson() {
        return Json.object("layer_height_mm", recipe.layerHeightMm(),
                "first_layer_height_mm", recipe.firstLayerHeightMm(), "line_width_mm", recipe.lineWidthMm(),
                "walls", recipe.walls(), "top", recipe.topLayers(), "bottom", recipe.bottomLayers(),
                "infill", recipe.infill(), "pattern", recipe.pattern().code(), "adhesion", recipe.adhesion().code(),
                "supports", recipe.supports().where().code(), "speed_mm_s", recipe.speedMmS(),
                "outer_speed_mm_s", recipe.pace().outerWallMmS(), "first_layer_speed_mm_s", recipe.pace().firstLayerMmS());
    }
}
